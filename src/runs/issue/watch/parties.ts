import { textLines } from '@/core/textLines'
import { type AnyContent, billsOrders } from '@/kinds'
import type { Books } from '@/store/books'
import { type Listed, particulars } from '@/store/watch'

type Fields = Record<string, unknown>
/** What a customer or the firm was set to, with when; the first first. */
type History = Map<string, { at: string; event: number; fields: Fields }[]>

/** What customers and the firm were set to, by the record. */
export function partiesKnown(books: Books): History {
	const known: History = new Map()
	for (const { subject, subject_id, at, event, after } of particulars(books)) {
		const key = subject === 'company' ? 'company' : `customer ${subject_id}`
		const list = known.get(key) ?? []
		list.push({ at, event, fields: JSON.parse(after) as Fields })
		known.set(key, list)
	}
	return known
}

/** Whether something was recorded before a document was issued. */
export type Then = (of: { at: string; event: number }) => boolean

/**
 * What of the customer and the firm on an issued invoice is otherwise than they were as it was numbered, by the record. What was set before
 * that was kept is not known; a revision and a credit note may keep what their first had.
 */
export function partyFaults(known: History, row: Listed, content: AnyContent, then: Then): string[] {
	if (!billsOrders(content) || row.credits_id !== null || content.revision > 1) return []
	const asOf = (key: string) => known.get(key)?.findLast(then)?.fields
	const [customer, firm] = [asOf(`customer ${row.customer_id}`), asOf('company')]
	const wrong: string[] = []
	const text = (fields: Fields, key: string) => String(fields[key] ?? '')
	const same = (what: string, is: string, was: string) => {
		if (is !== was) wrong.push(`${row.number}: ${what} is “${is}”, and was “${was}” as it was numbered`)
	}
	if (firm) {
		const { issuer } = content
		same('the firm’s name', issuer.name, text(firm, 'name'))
		same('the firm’s address', issuer.address.join('\n'), textLines(text(firm, 'address')).join('\n'))
		same('the firm’s tax number', issuer.taxNumber, text(firm, 'tax_number'))
		same('the firm’s email', issuer.email, text(firm, 'email'))
		same('the firm’s telephone', issuer.phone, text(firm, 'phone'))
		same('the firm’s bank', issuer.bank.join('\n'), textLines(text(firm, 'bank')).join('\n'))
		same('the closing words', issuer.closingWords, text(firm, 'closing_words'))
		// Documents from before countries were kept apart have none.
		if (issuer.country !== '') same('the firm’s country', issuer.country, text(firm, 'country'))
	}
	if (customer) {
		const own = content.customer
		const [country, home] = [text(customer, 'country'), firm ? text(firm, 'country') : content.issuer.country]
		const address = [...textLines(text(customer, 'address')), ...(country !== '' && country !== home ? [country] : [])]
		same('the customer’s number', own.number, text(customer, 'number'))
		same('the customer’s name', own.name, text(customer, 'name'))
		same('the customer’s address', own.address.join('\n'), address.join('\n'))
		if (own.country !== '') same('the customer’s country', own.country, country)
		same('the customer’s tax number', own.taxNumber, text(customer, 'tax_number'))
		same('how the customer is taxed', own.tax, text(customer, 'tax'))
		same('the terms', content.terms, text(customer, 'terms'))
		same('the language', content.locale, text(customer, 'locale') || 'en-GB')
	}
	return wrong
}
