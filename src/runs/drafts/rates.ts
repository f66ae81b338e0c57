import type { Day } from '@/core/calendar'
import type { LayoutRef } from '@/core/document'
import type { NamedDiscount } from '@/core/documentDiscounts'
import type { FreightRule } from '@/core/freight'
import type { Grounds } from '@/core/law'
import { type OwnValues, readOwn } from '@/core/ownFields'
import type { KindName } from '@/kinds'
import type { Books } from '@/store/books'
import { allDiscounts, allGrounds, allItems, exchangeOn, taxCodesOn } from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { customerByNumber } from '@/store/customers'
import { layoutsInForce } from '@/store/layouts'
import { readSettings } from '@/store/settings'

/** What the firm does with every order: its named discounts, freight where an order names none, and the rates of a day. */
export type Rates = {
	named: NamedDiscount[]
	freight: FreightRule
	/** Tax code of freight; empty: that of the goods which it carries. */
	freightTaxCode: string
	home: string
	/** What decides the rate of tax: the day of supply, or the document's. */
	rateBy: 'supply' | 'document'
	taxCodesOn: (day: Day) => TaxCode[]
	/** Worth of 1 of a currency in the home currency as of a day or the last one before; null for none. */
	exchangeOn: (currency: string, day: Day) => { rate: string; day: Day } | null
	/** Why there is no tax, by code and language, as the firm says it. */
	grounds: Grounds
	/** The layout of a paper by its kind and customer. */
	layoutFor: (kind: KindName, customer: string, locale: string, given: LayoutRef) => LayoutRef
	/** The firm's own fields of an item. */
	itemOwn: ReadonlyMap<string, OwnValues>
}
type TaxCode = { code: string; name: string; rate: string }

/** What drafts are made by, read once for a run. */
export function readRates(books: Books): Rates {
	const { freight, freightTaxCode, rateBy } = readSettings(books)
	const days = new Map<Day, TaxCode[]>()
	return {
		named: allDiscounts(books),
		freight,
		freightTaxCode,
		home: homeCurrency(books),
		rateBy,
		taxCodesOn: (day) => {
			const known = days.get(day) ?? taxCodesOn(books, day)
			days.set(day, known)
			return known
		},
		exchangeOn: (currency, day) => exchangeOn(books, currency, day),
		grounds: allGrounds(books),
		layoutFor: layoutsByNumber(books),
		itemOwn: new Map(allItems(books).flatMap(({ code, own }) => (own === '{}' ? [] : [[code, readOwn(own)]]))),
	}
}

/** Layouts in force, for customers by their number as papers carry it. */
function layoutsByNumber(books: Books): Rates['layoutFor'] {
	const inForce = layoutsInForce(books)
	const ids = new Map<string, number>()
	return (kind, number, locale, given) => {
		const id = ids.get(number) ?? customerByNumber(books, number)?.id ?? 0
		ids.set(number, id)
		return inForce(kind, { id, locale }, given)
	}
}
