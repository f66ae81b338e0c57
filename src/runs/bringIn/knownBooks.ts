import { createHash } from 'node:crypto'
import type { OwnField } from '@/core/ownFields'
import type { KnownBooks } from '@/intake/ordersForBooks'
import type { Books } from '@/store/books'
import { allDiscounts, allItems, allTaxRates, type Item } from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { allCustomers, type Customer } from '@/store/customers'
import { ordersStamp } from '@/store/orderIntake'
import { allOwnFields } from '@/store/ownFields'
import { recordsStamp } from '@/store/paperRecords'

/** What of the books a file is read against, read once. */
export type Known = KnownBooks & {
	customers: Map<string, Customer>
	items: Map<string, Item>
	taxCodes: Set<string>
	ownFields: OwnField[]
	home: string
}

/** What the books have that a file may name: customers, items, tax codes, discounts, by what files call them. */
export function knownBooks(books: Books): Known {
	const customers = new Map(allCustomers(books).map((customer) => [customer.number.toUpperCase(), customer]))
	const items = new Map(allItems(books).map((item) => [item.code.toUpperCase(), item]))
	const discounts = new Map(allDiscounts(books).map((discount) => [discount.label.toLowerCase(), discount]))
	return {
		customers,
		items,
		taxCodes: new Set(allTaxRates(books).map(({ code }) => code)),
		ownFields: allOwnFields(books),
		home: homeCurrency(books),
		customer: (number) => customers.get(number.toUpperCase()),
		item: (code) => items.get(code.toUpperCase()),
		discount: (label) => discounts.get(label.toLowerCase()),
	}
}

/** Names the state of all that a file is read against: two that are equal are the same books to it. */
export function stampOf(books: Books): string {
	const hash = createHash('sha256')
	hash.update(
		JSON.stringify([
			allItems(books),
			allDiscounts(books),
			allTaxRates(books),
			allOwnFields(books),
			homeCurrency(books),
		]),
	)
	for (const customer of allCustomers(books)) hash.update(JSON.stringify(customer))
	hash.update(ordersStamp(books))
	hash.update(recordsStamp(books))
	return hash.digest('hex')
}
