import { no, type Outcome } from '@/core/outcome'
import { changeCustomer } from '@/runs/customers/changeCustomer'
import { type Books, inOneStep } from '@/store/books'
import { itemSchema, saveItem, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { blankCustomer, customerByNumber, customerSchema } from '@/store/customers'
import type { Desk } from '@/store/events'
import { workOutAnew } from './anew'

// What a file names and the books do not have is made from there, and the file is looked at again.

type Given = Record<string, unknown>
const text = (given: Given, key: string): string => String(given[key] ?? '').trim()
const words = (error: { issues: { message: string }[] }): Outcome =>
	no(error.issues.map(({ message }) => message).join(' '))

/** Makes a customer that a file names and the books do not have, and lets the file be looked at again. */
export function makeCustomer(books: Books, desk: Desk, file: number, given: Given): Outcome {
	return inOneStep(books, (): Outcome => {
		const number = text(given, 'number').toUpperCase()
		if (customerByNumber(books, number)) return no(`Customer ${number} was made by somebody meanwhile. Look again.`)
		const said = (key: string) => (text(given, key) === '' ? {} : { [key]: text(given, key) })
		const parsed = customerSchema.safeParse({
			...blankCustomer(number, homeCurrency(books)),
			...Object.assign(
				{},
				...['name', 'address', 'country', 'email', 'currency', 'terms', 'tax', 'tax_number'].map(said),
			),
		})
		if (!parsed.success) return words(parsed.error)
		changeCustomer(books, desk, parsed.data)
		workOutAnew(books, desk, file)
		return { ok: true }
	})
}

/** Makes an item that a file names and the books do not have, and lets the file be looked at again. */
export function makeItem(books: Books, desk: Desk, file: number, given: Given): Outcome {
	return inOneStep(books, (): Outcome => {
		const parsed = itemSchema.safeParse({
			code: text(given, 'code').toUpperCase(),
			description: text(given, 'description'),
			unit: text(given, 'unit'),
			unit_price: text(given, 'unit_price'),
			price_per: '1',
			currency: text(given, 'currency') || homeCurrency(books),
			tax_code: text(given, 'tax_code').toUpperCase(),
		})
		if (!parsed.success) return words(parsed.error)
		saveItem(books, desk, parsed.data)
		workOutAnew(books, desk, file)
		return { ok: true }
	})
}

/** Makes a tax code that a file names and the books do not have, and lets the file be looked at again. */
export function makeTaxCode(books: Books, desk: Desk, file: number, given: Given): Outcome {
	return inOneStep(books, (): Outcome => {
		const parsed = taxRateSchema.safeParse({
			code: text(given, 'code').toUpperCase(),
			name: text(given, 'name'),
			rate: text(given, 'rate'),
			from_day: text(given, 'from_day') || '2000-01-01',
		})
		if (!parsed.success) return words(parsed.error)
		saveTaxRate(books, desk, parsed.data)
		workOutAnew(books, desk, file)
		return { ok: true }
	})
}
