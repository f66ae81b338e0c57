import { createHash } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { orderNet } from '@/core/orderNet'
import type { IntakeOrder } from '@/intake/ordersForBooks'
import { type Books, inOneStep } from '@/store/books'
import { saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { allCustomers, saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { beginFile, endAcceptance, goingAcceptance, markHere } from '@/store/files'
import { openBooks } from '@/store/openBooks'
import { attachStaging, enterStaged } from '@/store/orderIntake'
import { outcomeKeeper } from '@/store/outcomes'
import { saveRegister } from '@/store/registers'
import { openStaging, stagingPath } from '@/store/staging'
import { company, customer } from '../firm'

/** The morning of 31 October 2026, whatever the day of the machine, going on as its clock goes. */
export const benchNow = (): string => new Date(Date.UTC(2026, 9, 31, 9) + performance.now()).toISOString()
export const benchDesk: Desk = { clerk: 'Bench', now: benchNow }

/** Books of a temporary folder with `count` waiting orders of five lines, for 500 customers who are invoiced by order. */
export function benchBooks(count: number): Books {
	const books = openBooks(mkdtempSync(join(tmpdir(), 'north-tally-bench-')))
	const file = inOneStep(books, () => {
		saveCompany(books, benchDesk, company)
		saveTaxRate(books, benchDesk, { code: 'STD', name: 'VAT', rate: '20', from_day: '2000-01-01' })
		saveRegister(books, benchDesk, { kind: 'invoice', prefix: 'B-', digits: 6, next: 1, first: 1, yearly: 0, year: 0 })
		for (let index = 0; index < 500; index++) {
			saveCustomer(
				books,
				benchDesk,
				customer(`C${index}`, {
					name: `Customer ${index} of the Northern Harbours`,
					address: `${index} Shore Road\nTarn TA1 ${index}`,
				}),
			)
		}
		const begun = beginFile(books, benchDesk, { name: 'bench.csv', size: 0, mark: '' })
		markHere(books, begun)
		return begun
	})
	const { id: acceptance } = goingAcceptance(books, benchDesk, file)
	const customers = allCustomers(books)
	const staging = openStaging(books.folder, file, true)
	const keeper = outcomeKeeper(staging)
	for (let index = 0; index < count; index++)
		keeper.order({
			order: benchOrder(index, customers[index % 500]?.id ?? 1),
			standing: 'new',
			firstRow: index * 5 + 2,
			replaces: null,
			words: '',
			apart: '',
		})
	keeper.end()
	staging.close()
	const detach = attachStaging(books, stagingPath(books.folder, file))
	inOneStep(books, () => {
		enterStaged(books, file, acceptance, 'new', [0, count], 'STD')
		endAcceptance(books, acceptance, 'done', '')
	})
	detach()
	return books
}

function benchOrder(index: number, customerId: number): IntakeOrder {
	const lines = Array.from({ length: 5 }, (_, line) => ({
		sourceRow: index * 5 + line + 2,
		item: `ITEM-${(index * 7 + line) % 60}`,
		description: `Galvanised bow shackle ${8 + ((index + line) % 30)} mm with safety pin`,
		quantity: String(1 + ((index + line * 3) % 40)),
		unit: 'each',
		unitPrice: `${3 + ((index * 13 + line) % 90)}.${String((index * 7) % 100).padStart(2, '0')}`,
		pricePer: '1',
		discountPercent: line === 0 ? '5' : '0',
		discountAmount: '',
		taxCode: 'STD',
		own: '{}',
		lookedUp: '',
		net: null,
	}))
	const terms = { currency: 'GBP', discount_percent: '0', discount_amount: '', freight: '0', freight_percent: '' }
	const priced = lines.map(({ quantity, unitPrice, pricePer, discountPercent }) => ({
		quantity,
		unit_price: unitPrice,
		price_per: pricePer,
		discount_percent: discountPercent,
	}))
	const net = orderNet(terms, priced, null)
	if (!net.ok) throw new Error(net.refusal.message)
	return {
		number: `O${index}`,
		customerId,
		day: '2026-10-01',
		currency: 'GBP',
		purchaseOrder: '',
		note: '',
		discountPercent: '0',
		discountAmount: '',
		discountLabel: '',
		freight: '0',
		freightPercent: '',
		delivery: '',
		own: '{}',
		lookedUp: '',
		sameAs: createHash('sha256').update(String(index)).digest('hex'),
		net: net.value,
		lines,
	}
}
