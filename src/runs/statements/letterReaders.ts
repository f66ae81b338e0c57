import type { Day } from '@/core/calendar'
import type { FieldValues } from '@/core/letter'
import { isOwnKind } from '@/core/paperKind'
import { fieldValues, kindNames, kindOf, letterOf } from '@/kinds'
import type { Books } from '@/store/books'
import { readCompany } from '@/store/company'
import { allCustomers, everyCustomer } from '@/store/customers'
import { latestByCustomer } from '@/store/issued'
import { drafter } from './draft'

/** A customer who would read a letter, with what its fields say to them. */
export type Reader = { id: number; name: string; values: FieldValues }

/**
 * Who would read a letter, by name: for invoices and credit notes those who have had one, with their latest; for the letters of statements
 * those whose account would bring this very letter on the day. At most 500.
 */
export function letterReaders(books: Books, kind: string, asOf: Day): Reader[] {
	const own = isOwnKind(kind) ? kind : kindNames.find((name) => kindOf(name).bills && kind in kindOf(name).letters)
	if (own)
		return latestByCustomer(books, own)
			.filter(({ content }) => letterOf(content) === kind)
			.map(({ id, name, content }) => ({
				id,
				name,
				values: named(fieldValues(content)),
			}))
	if (!readCompany(books)) return []
	const readers = new Map<number, Reader>()
	const all = { asOf, form: 'open items', since: '', show: 'all', credits: 'apart', least: 0 } as const
	const choice = { ...all, hold: false, copies: false, charges: false, customers: [] }
	const draft = drafter(books, 0, choice, everyCustomer)
	const customers = allCustomers(books).sort((a, b) => a.id - b.id)
	for (let at = 0; at < customers.length && readers.size < most; at += 100)
		for (const { customer, content, reason } of draft(customers.slice(at, at + 100))) {
			if (reason !== '' || content.letter !== kind || readers.has(customer.id)) continue
			readers.set(customer.id, { id: customer.id, name: customer.name, values: named(fieldValues(content)) })
		}
	return [...readers.values()].sort((a, b) => a.name.localeCompare(b.name)).slice(0, most)
}

const most = 500

/** A draft has its number only when it is numbered. */
const named = (values: FieldValues): FieldValues => ({ ...values, number: values.number || 'its number' })
