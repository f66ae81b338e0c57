import { createHash } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { orderNet } from '@/core/orderNet'
import { type Books, inOneStep, openBooks } from '@/store/books'
import { saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { allCustomers, saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { addFile } from '@/store/files'
import { addOrder } from '@/store/orders'
import { saveRegister } from '@/store/registers'
import { company, customer } from '../firm'

export const benchDesk: Desk = { clerk: 'Bench', now: () => new Date().toISOString() }

/** Books of a temporary folder with `count` waiting orders of five lines, for 500 customers who are invoiced by order. */
export function benchBooks(count: number): Books {
	const books = openBooks(mkdtempSync(join(tmpdir(), 'north-tally-bench-')))
	inOneStep(books, () => {
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
		const customers = allCustomers(books)
		const file = addFile(books, benchDesk, {
			name: 'bench.csv',
			sha256: 'bench',
			content: Buffer.from(''),
			kind: 'orders',
			reading: '{}',
		})
		for (let index = 0; index < count; index++)
			addOrder(books, file, benchOrder(index, customers[index % 500]?.id ?? 1))
	})
	return books
}

function benchOrder(index: number, customerId: number) {
	const lines = Array.from({ length: 5 }, (_, line) => ({
		position: line + 1,
		source_row: index * 5 + line + 2,
		item_code: `ITEM-${(index * 7 + line) % 60}`,
		description: `Galvanised bow shackle ${8 + ((index + line) % 30)} mm with safety pin`,
		quantity: String(1 + ((index + line * 3) % 40)),
		unit: 'each',
		unit_price: `${3 + ((index * 13 + line) % 90)}.${String((index * 7) % 100).padStart(2, '0')}`,
		price_per: '1',
		discount_percent: line === 0 ? '5' : '0',
		tax_code: 'STD',
	}))
	const terms = { currency: 'GBP', discount_percent: '0', freight: '0', freight_percent: '' }
	const net = orderNet(terms, lines, null)
	return {
		number: `O${index}`,
		customer_id: customerId,
		day: '2026-10-01',
		currency: 'GBP',
		purchase_order: '',
		note: '',
		discount_percent: '0',
		discount_label: '',
		freight: '0',
		freight_percent: '',
		freight_tax_code: 'STD',
		content_sha256: createHash('sha256').update(String(index)).digest('hex'),
		same_as: createHash('sha256').update(String(index)).digest('hex'),
		net,
		lines,
	}
}
