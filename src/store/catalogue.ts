import { z } from 'zod'
import type { Day } from '@/core/calendar'
import { currencyCode } from '@/core/currency'
import { percentCode, percentOrNone } from '@/core/decimal'
import type { NamedDiscount } from '@/core/documentDiscounts'
import { groundLanguages } from '@/core/law'
import { ownColumnSchema } from '@/core/ownFields'
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
	currency: currencyCode,
	tax_code: z.string().trim(),
	/** Values of the firm's own fields, JSON by key. */
	own: ownColumnSchema,
})
export type Item = z.infer<typeof itemSchema>

export const discountSchema = z
	.object({
		label: z.string().trim().min(1, 'A discount needs a name; it stands on the invoice.').max(60),
		percent: percentOrNone('A percent is from 0 to 100, such as 5.'),
		amount: z
			.string()
			.trim()
			.refine((text) => text === '' || /^\d+(\.\d{1,3})?$/.test(text), 'An amount is a number such as 12.50.'),
		currency: currencyCode,
		from_day: z.iso.date('Give the first day.'),
		to_day: z.union([z.literal(''), z.iso.date('Give the last day, or none.')]),
		for_all: z.union([z.literal(0), z.literal(1)]),
	})
	.refine(({ percent, amount }) => (percent === '') !== (amount === ''), 'Give either a percent or an amount.')
	.refine(({ from_day, to_day }) => to_day === '' || to_day >= from_day, 'The last day is before the first.')

export const taxRateSchema = z.object({
	code: z.string().trim().min(1, 'A tax code needs a code, such as STD.'),
	name: z.string().trim().min(1, 'A tax code needs a name, such as VAT standard.'),
	rate: percentCode('A rate is a percent from 0 to 100, such as 20.'),
	from_day: z.iso.date('Write the first day as 2026-10-31.'),
})
type TaxRate = z.infer<typeof taxRateSchema>

const itemColumns = 'code, description, unit, unit_price, price_per, currency, tax_code, own'

/** Every item, by code. */
export const allItems = ({ sql }: Books): Item[] => sql<[], Item>(`SELECT ${itemColumns} FROM item ORDER BY code`).all()

/** An item by its code; null where there is none. */
export const readItem = ({ sql }: Books, code: string): Item | null =>
	sql<[string], Item>(`SELECT ${itemColumns} FROM item WHERE code = ?`).get(code) ?? null

const discountColumns = 'label, percent, amount, currency, from_day, to_day, for_all'

/** The firm's discounts with a name. */
export const allDiscounts = ({ sql }: Books): NamedDiscount[] =>
	sql<[], NamedDiscount>(`SELECT ${discountColumns} FROM discount ORDER BY label`).all()

/** Adds a discount, or changes the one of that name. Documents that carry it keep it as it was. */
export function saveDiscount(books: Books, desk: Desk, discount: NamedDiscount): 'added' | 'changed' {
	return inOneStep(books, () => {
		const { label } = discount
		const before = books
			.sql<[string], NamedDiscount>(`SELECT ${discountColumns} FROM discount WHERE label = ?`)
			.get(label)
		books
			.sql<[NamedDiscount]>(
				`INSERT INTO discount (${discountColumns}) VALUES (@label, @percent, @amount, @currency, @from_day, @to_day, @for_all)
				 ON CONFLICT (label) DO UPDATE SET percent = @percent, amount = @amount, currency = @currency, from_day = @from_day,
				  to_day = @to_day, for_all = @for_all`,
			)
			.run(discount)
		const act = before ? 'changed the discount' : 'added the discount'
		record(books, desk, { subject: 'item', id: label, act, before, after: discount })
		return before ? 'changed' : 'added'
	})
}

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
export function saveItem(books: Books, desk: Desk, given: z.input<typeof itemSchema>): 'added' | 'changed' | 'same' {
	return inOneStep(books, () => {
		const item = itemSchema.parse(given)
		const before = readItem(books, item.code)
		if (before && JSON.stringify(before) === JSON.stringify(item)) return 'same'
		books
			.sql<[Item]>(
				`INSERT INTO item (${itemColumns})
				 VALUES (@code, @description, @unit, @unit_price, @price_per, @currency, @tax_code, @own)
				 ON CONFLICT (code) DO UPDATE SET description = @description, unit = @unit, unit_price = @unit_price,
				  price_per = @price_per, currency = @currency, tax_code = @tax_code, own = @own`,
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

/** Why there is no tax, by `code language`, as the firm says it. */
export const allGrounds = ({ sql }: Books): Map<string, string> =>
	new Map(
		sql<[], { code: string; language: string; words: string }>('SELECT code, language, words FROM tax_ground')
			.all()
			.map(({ code, language, words }) => [`${code} ${language}`, words]),
	)

export const groundSchema = z.object({
	code: z.string().trim().min(1),
	language: z.enum(groundLanguages),
	words: z.string().trim().max(300),
})

/** Says why there is no tax under a code, in a language; without words the usual ones count. */
export function saveGround(books: Books, desk: Desk, { code, language, words }: z.infer<typeof groundSchema>): void {
	inOneStep(books, () => {
		const before = allGrounds(books).get(`${code} ${language}`) ?? ''
		if (before === words) return
		if (words === '')
			books.sql<[string, string]>('DELETE FROM tax_ground WHERE code = ? AND language = ?').run(code, language)
		else
			books
				.sql<[string, string, string]>(
					'INSERT INTO tax_ground (code, language, words) VALUES (?, ?, ?) ON CONFLICT (code, language) DO UPDATE SET words = excluded.words',
				)
				.run(code, language, words)
		record(books, desk, {
			subject: 'item',
			id: code,
			act: `said why there is no tax (${language})`,
			before,
			after: words,
		})
	})
}

export const exchangeSchema = z.object({
	currency: currencyCode,
	day: z.iso.date('Give the day that the worth is of.'),
	rate: z
		.string()
		.trim()
		.regex(/^\d+(\.\d{1,8})?$/, 'What 1 of it is worth in the home currency is a number such as 0.8612.')
		.refine((text) => Number(text) > 0, 'What a currency is worth is above zero.'),
})
type ExchangeRate = z.infer<typeof exchangeSchema>

/** What currencies are worth in the home currency, the latest of each first. */
export const allExchangeRates = ({ sql }: Books): ExchangeRate[] =>
	sql<[], ExchangeRate>('SELECT currency, day, rate FROM exchange_rate ORDER BY currency, day DESC').all()

/** What 1 of a currency is worth in the home currency as of a day, or the last day before it that is known; null for none. */
export const exchangeOn = ({ sql }: Books, currency: string, day: Day): { rate: string; day: Day } | null =>
	sql<[string, Day], { rate: string; day: Day }>(
		'SELECT rate, day FROM exchange_rate WHERE currency = ? AND day <= ? ORDER BY day DESC LIMIT 1',
	).get(currency, day) ?? null

/** Sets what a currency is worth from a day on. */
export function saveExchangeRate(books: Books, desk: Desk, { currency, day, rate }: ExchangeRate): void {
	inOneStep(books, () => {
		const before = allExchangeRates(books).find((known) => known.currency === currency && known.day === day)
		if (before?.rate === rate) return
		books
			.sql<[string, string, string]>(
				'INSERT INTO exchange_rate (currency, day, rate) VALUES (?, ?, ?) ON CONFLICT (currency, day) DO UPDATE SET rate = excluded.rate',
			)
			.run(currency, day, rate)
		record(books, desk, {
			subject: 'item',
			id: currency,
			act: 'set what a currency is worth',
			before,
			after: { day, rate },
		})
	})
}
