import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bringIn } from '@/runs/bringIn/atOnce'
import { company, customer } from './firm'

export { company, customer } from './firm'
export { opened } from './opened'

import type { Books } from '@/store/books'
import { saveItem, saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { openBooks } from '@/store/openBooks'
import { saveRegister } from '@/store/registers'
import { opened } from './opened'

let second = 0
/** A desk whose clock moves one second a look, so that order in time is certain. */
export const desk: Desk = {
	clerk: 'Wren',
	now: () => new Date(Date.UTC(2026, 9, 31, 9) + second++ * 1000).toISOString(),
}

/** Empty books in a folder of their own, gone after the test. */
export function emptyBooks(): Books {
	const books = openBooks(mkdtempSync(join(tmpdir(), 'north-tally-unit-')))
	opened.push(books)
	return books
}

/** A register that runs on over the years. */
export const plainRegister = { first: 1, yearly: 0, year: 2026 }

/** Books of a firm that can bill: company, tax codes, two items, customers A1, B1 (no email) and C1 (one invoice for all). */
export function firmBooks(): Books {
	return firmInto(emptyBooks())
}

/** Makes empty books those of the firm. */
export function firmInto(books: Books): Books {
	saveCompany(books, desk, company)
	for (const [code, rate] of [
		['STD', '20'],
		['RED', '5'],
		['ZERO', '0'],
	] as const)
		saveTaxRate(books, desk, { code, name: `VAT ${code}`, rate, from_day: '2000-01-01' })
	saveItem(books, desk, {
		code: 'ROPE',
		description: 'Mooring line',
		unit: 'm',
		unit_price: '2.10',
		price_per: '1',
		currency: 'GBP',
		tax_code: 'STD',
	})
	// Its price is in another currency than the customers', so that none can be looked up for them.
	saveItem(books, desk, {
		code: 'BUOY',
		description: 'Mooring buoy',
		unit: 'each',
		unit_price: '88.00',
		price_per: '1',
		currency: 'EUR',
		tax_code: 'STD',
	})
	saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4, next: 41 })
	saveCustomer(books, desk, customer('A1'))
	saveCustomer(books, desk, customer('B1', { email: '' }))
	saveCustomer(books, desk, customer('C1', { grouping: 'all' }))
	return books
}

export const orderHead =
	'Order No,Order date,Cust. No,Item,Description,Qty,Unit price,Disc %,VAT code,Order disc,Freight'
let fileNumber = 0

/** Brings rows of orders in and accepts them. */
export async function bringOrders(books: Books, ...rows: string[]): Promise<void> {
	const content = Buffer.from([orderHead, ...rows, ''].join('\n'))
	const accepted = await bringIn(books, desk, `orders-${fileNumber++}.csv`, content, {
		days: 'day first',
		orderDiscount: 'percent',
	})
	if (!accepted.ok) throw new Error(accepted.message)
}

export { invoice } from './papers'
