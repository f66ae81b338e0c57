import { z } from 'zod'
import type { Day } from '@/core/calendar'
import { isCurrency } from '@/core/currency'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

const decimal = (what: string) =>
	z
		.string()
		.trim()
		.regex(/^\d+(\.\d{1,6})?$/, `${what} is a number such as 12.50.`)

export const itemSchema = z.object({
	code: z.string().trim().min(1, 'Every item needs a code.'),
	description: z.string().trim(),
	unit: z.string().trim(),
	unit_price: decimal('A price'),
	price_per: decimal('The quantity that a price is for'),
	currency: z.string().trim().toUpperCase().refine(isCurrency, 'Write the currency as its code, such as GBP.'),
	tax_code: z.string().trim(),
})
export type Item = z.infer<typeof itemSchema>

export const taxRateSchema = z.object({
	code: z.string().trim().min(1, 'A tax code needs a code, such as STD.'),
	name: z.string().trim().min(1, 'A tax code needs a name, such as VAT standard.'),
	rate: z
		.string()
		.trim()
		.regex(/^\d{1,2}(\.\d{1,4})?$|^100$/, 'A rate is a percent from 0 to 100, such as 20.'),
	from_day: z.iso.date('Write the first day as 2026-10-31.'),
})
export type TaxRate = z.infer<typeof taxRateSchema>

export const allItems = ({ sql }: Books): Item[] =>
	sql<[], Item>(
		'SELECT code, description, unit, unit_price, price_per, currency, tax_code FROM item ORDER BY code',
	).all()

/** Every rate of every tax code, the newest of a code first. */
export const allTaxRates = ({ sql }: Books): TaxRate[] =>
	sql<[], TaxRate>(
		'SELECT c.code, c.name, r.rate, r.from_day FROM tax_code c JOIN tax_rate r USING (code) ORDER BY c.code, r.from_day DESC',
	).all()

/** The rate of each tax code on a day; a code without one yet is left out. */
export function taxCodesOn({ sql }: Books, day: Day): { code: string; rate: string; name: string }[] {
	return sql<[Day], { code: string; rate: string; name: string }>(
		`SELECT c.code, c.name, (SELECT r.rate FROM tax_rate r WHERE r.code = c.code AND r.from_day <= ? ORDER BY r.from_day DESC LIMIT 1) AS rate
		 FROM tax_code c WHERE rate IS NOT NULL ORDER BY c.code`,
	).all(day)
}

/** Adds an item, or changes the one of that code. */
export function saveItem(books: Books, desk: Desk, item: Item): 'added' | 'changed' | 'same' {
	return inOneStep(books, () => {
		const before = books
			.sql<[string], Item>(
				'SELECT code, description, unit, unit_price, price_per, currency, tax_code FROM item WHERE code = ?',
			)
			.get(item.code)
		if (before && JSON.stringify(before) === JSON.stringify(itemSchema.parse(item))) return 'same'
		books
			.sql<[Item]>(
				`INSERT INTO item (code, description, unit, unit_price, price_per, currency, tax_code)
				 VALUES (@code, @description, @unit, @unit_price, @price_per, @currency, @tax_code)
				 ON CONFLICT (code) DO UPDATE SET description = @description, unit = @unit, unit_price = @unit_price,
				  price_per = @price_per, currency = @currency, tax_code = @tax_code`,
			)
			.run(item)
		record(books, desk, {
			subject: 'item',
			id: item.code,
			act: before ? 'changed the item' : 'added the item',
			before,
			after: item,
		})
		return before ? 'changed' : 'added'
	})
}

/** Adds a rate from a day on to a tax code, and the code when it is new. */
export function saveTaxRate(books: Books, desk: Desk, rate: TaxRate): 'added' | 'changed' | 'same' {
	return inOneStep(books, () => {
		const before = allTaxRates(books).find(({ code, from_day }) => code === rate.code && from_day === rate.from_day)
		if (before && before.rate === rate.rate && before.name === rate.name) return 'same'
		books
			.sql<[string, string]>(
				'INSERT INTO tax_code (code, name) VALUES (?, ?) ON CONFLICT (code) DO UPDATE SET name = excluded.name',
			)
			.run(rate.code, rate.name)
		books
			.sql<[string, string, string]>(
				'INSERT INTO tax_rate (code, from_day, rate) VALUES (?, ?, ?) ON CONFLICT (code, from_day) DO UPDATE SET rate = excluded.rate',
			)
			.run(rate.code, rate.from_day, rate.rate)
		record(books, desk, {
			subject: 'item',
			id: rate.code,
			act: before ? 'changed the tax rate' : 'added the tax rate',
			before,
			after: rate,
		})
		return before ? 'changed' : 'added'
	})
}
