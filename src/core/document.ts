import { z } from 'zod'
import { parseAmount } from './currency'
import { ofTexts } from './customerTexts'
import { ownValuesSchema } from './ownFields'
import { paperPartSchema } from './paperKind'
import type { Discount, PricedText, PriceInput } from './price'

const text = z.string()
const taxCode = z.object({ code: text, name: text, rate: text })
const pricedSchema: z.ZodType<PricedText> = z.object({
	lines: z.array(z.object({ gross: text, discount: text, net: text, documentDiscount: text })),
	subtotal: text,
	discounts: z.array(text),
	discountTotal: text,
	charges: z.array(text),
	chargeTotal: text,
	taxes: z.array(z.object({ code: text, rate: text, base: text, tax: text })),
	net: text,
	taxTotal: text,
	total: text,
	prepaid: text,
	amountDue: text,
})

/** `standing` where it is the percent that its customer always gets. */
const discountSchema = z.union([
	z.object({ label: text, percent: text, standing: z.literal(true).optional() }),
	z.object({ label: text, amount: text }),
])
/** A charge without a label is freight. */
const chargeParts = { label: text, taxCode: text }
const shareSchema = z.union([z.object({ ...chargeParts, percent: text }), z.object({ ...chargeParts, amount: text })])
const ofOrder = { label: text, order: z.number(), taxCode: text }
const chargeSchema = z.union([z.object({ ...ofOrder, percent: text }), z.object({ ...ofOrder, amount: text })])

const termsSchema = z.object({ discounts: z.array(discountSchema), charges: z.array(shareSchema) })
/** Discounts and charges; an amount is one order's own, a percent is taken on the whole document. */
export type Terms = z.infer<typeof termsSchema>

/** Before these were told apart, it was kept whether a person changed them. */
const withAs = (brought: unknown): unknown =>
	typeof brought === 'object' && brought !== null && !('as' in brought)
		? { ...brought, as: 'changed' in brought && brought.changed === true ? 'agreed' : 'shared' }
		: brought
/**
 * What one order brings to a document of discounts and freight. `as` says whose word it is: `ruled` by the order's own terms and the firm's
 * rules, which it follows; `shared` by amounts that were parted or put together; `agreed` by a person. `rules` is what the rules say of the
 * order by itself, where that is another.
 */
export const broughtSchema = z.preprocess(
	withAs,
	termsSchema.extend({ as: z.enum(['ruled', 'shared', 'agreed']), rules: termsSchema.optional() }),
)
export type Brought = z.infer<typeof broughtSchema>

/** Documents frozen before discounts had names carry their percents alone. */
function withNamedDiscounts(content: unknown): unknown {
	if (typeof content !== 'object' || content === null || !('discountPercents' in content)) return content
	const { discountPercents, ...rest } = content
	const percents = z.array(text).parse(discountPercents)
	return { ...rest, discounts: percents.map((percent) => ({ label: '', percent })) }
}

/**
 * What a document is drawn by: a version of a layout. Id 0 is what was drawn before layouts were data, and a draft without one.
 * `own` when a person gave it to this draft.
 */
export const layoutRefSchema = z.object({
	name: text,
	version: z.number(),
	id: z.number().default(0),
	own: z.boolean().default(false),
})
export type LayoutRef = z.infer<typeof layoutRefSchema>
/** Until it is known which layout a draft gets. */
export const noLayout: LayoutRef = { name: '', version: 0, id: 0, own: false }
/** What a paper's file (with its folder, without its ending) and title are called, where the firm says it. */
export const filedSchema = z.object({ file: text.optional(), title: text.optional() })
/** The run that a paper was numbered in, and its place in the register: the prefix as it stands in the number, and the value. */
export const issuedSchema = z.object({ run: z.number(), prefix: text, value: z.number() })
/**
 * That terms and names of entries, as the program words them, are said in the paper's language; left out on papers from before they were.
 * `true`: from before the head of the rates was one word.
 */
export const spokenSchema = z.union([z.literal(true), z.literal(2)]).optional()
/** As papers speak that are drafted now. */
export const spokenNow = 2 as const
export const issuerSchema = z.object({
	name: text,
	address: z.array(text),
	taxNumber: text,
	email: text,
	phone: text,
	bank: z.array(text),
	closingWords: text,
	logo: text.nullable(),
	/** Empty on documents from before it was printed. */
	country: text.default(''),
	/** Language of what is not said in the customer's; English without it. */
	language: text.optional(),
})
export const customerSchema = z.object({
	number: text,
	name: text,
	address: z.array(text),
	/** Empty on documents from before it was kept apart from the address. */
	country: text.default(''),
	taxNumber: text,
	tax: z.enum(['standard', 'exempt', 'reverse-charge']),
	/** Their plain texts; left out where there is none, as is their address for invoices. */
	...ofTexts(() => text.optional()),
	email: text.optional(),
	/** Where goods go to them, where that is another place than the address. */
	delivery: z.array(text).optional(),
	/** Values of the firm's own fields. */
	own: ownValuesSchema.optional(),
})

/** 1 of the document's currency is `rate` of the home currency as of `day`. */
const homeSchema = z.object({ currency: text, rate: text, day: text, tax: text })
const figures = z.object({ gross: text, discount: text, net: text, documentDiscount: text })
/**
 * What is left of an invoice's figures after the credit notes before: its lines and charges by their index, its discounts, its taxes by
 * code, its tax in the home currency, which keeps the invoice's rate. `last` when the credit note takes all of it; `held` when it takes a part
 * whose figures are held to what is left: those that stand here. `takesHome` when it takes all that is left in the home currency.
 */
const restSchema = z.object({
	last: z.boolean(),
	held: z.boolean().optional(),
	lines: z.record(text, figures),
	charges: z.record(text, text),
	discounts: z.array(text),
	taxes: z.array(z.object({ code: text, rate: text, base: text, tax: text })),
	home: homeSchema.nullable().default(null),
	takesHome: z.boolean().optional(),
})
export type Rest = z.infer<typeof restSchema>

const contentSchema = z.object({
	kind: z.enum(['invoice', 'credit-note', 'priced', 'unpriced']),
	/** Of a kind that the firm made: which, and how it stands. */
	paper: paperPartSchema.optional(),
	/** The document that it credits. */
	refersTo: z.object({ number: text, day: text }).nullable().default(null),
	/** Why it is credited; empty for an invoice. */
	reason: text.default(''),
	/** First and last day of what was supplied; null on documents from before it was kept. */
	supply: z.object({ from: text, to: text }).nullable().default(null),
	/** Tax in the home currency, where that is another. */
	home: homeSchema.nullable().default(null),
	/** Why there is no tax, in words, by code. */
	grounds: z.array(z.object({ code: text, words: text })).default([]),
	layout: layoutRefSchema,
	/** Set when it is numbered. */
	filed: filedSchema.optional(),
	issued: issuedSchema.optional(),
	spoken: spokenSchema,
	/** Empty until the document is numbered. */
	number: text,
	/** 1 for the document as first issued; a revision bears the same number. */
	revision: z.number().default(1),
	day: text,
	dueDay: text,
	terms: text,
	currency: text,
	locale: text,
	issuer: issuerSchema,
	customer: customerSchema,
	orders: z.array(
		z.object({
			id: z.number(),
			number: text,
			day: text,
			purchaseOrder: text,
			sourceFile: text,
			/** Where its goods went, where the order says it. */
			delivery: z.array(text).optional(),
			own: ownValuesSchema.optional(),
			/** What its discounts and freight are made of; left out on documents from before it was kept, and on credit notes. */
			brings: broughtSchema.optional(),
		}),
	),
	lines: z.array(
		z.object({
			/** Index into `orders`. */
			order: z.number(),
			/** The order's line that it is; 0 for none, and on documents from before lines had ids. */
			line: z.number().default(0),
			sourceRow: z.number(),
			item: text,
			description: text,
			quantity: text,
			unit: text,
			/** Null where the source gave none; counted as 0 until it is given. */
			unitPrice: text.nullable(),
			pricePer: text,
			discountPercent: text,
			/** A discount in money on the whole line; left out where there is none. */
			discountAmount: text.optional(),
			taxCode: text,
			/** Whether document discounts count on it; freight that is credited has none. */
			discountable: z.boolean().default(true),
			/** Index of the invoice's line that a credit note's line credits. */
			credits: z.number().nullable().default(null),
			/** Index of the invoice's charge that it credits. */
			creditsCharge: z.number().nullable().default(null),
			own: ownValuesSchema.optional(),
			/** The firm's own fields of its item. */
			itemOwn: ownValuesSchema.optional(),
		}),
	),
	/** Discounts on the document; one without a label is the order's own. Made from what the orders bring, like the charges. */
	discounts: z.array(discountSchema),
	/** A charge in percent is taken on the whole document, whichever order it is counted to. */
	charges: z.array(chargeSchema),
	taxCodes: z.array(taxCode),
	/** Of a credit note: what was left of the invoice's figures before it. */
	rest: restSchema.nullable().default(null),
	priced: pricedSchema,
})
/** Everything that a document says, in the shape that is frozen when it is numbered. Amounts are decimal text. */
export const billSchema = z.preprocess(withNamedDiscounts, contentSchema)
export type BillContent = z.infer<typeof contentSchema>
/** A bill whose figures are yet to be computed. */
export type Unpriced = Omit<BillContent, 'priced'>
export type DocumentDiscount = z.infer<typeof discountSchema>
export type DocumentCharge = z.infer<typeof chargeSchema>
export type ChargeShare = z.infer<typeof shareSchema>

/** The number as lists and files show it: a revision says which it is; where a kind has no register, what stands for a number. */
export const shownNumber = ({
	number,
	revision,
	paper,
}: Pick<BillContent, 'number' | 'revision'> & { paper?: BillContent['paper'] }): string =>
	number === '' && paper?.mark ? paper.mark : revision > 1 ? `${number} rev. ${revision}` : number

/** Whether it was issued: numbered, or marked where its kind has no register. */
export const isIssued = ({ number, paper }: { number: string; paper?: { mark: string } | undefined }): boolean =>
	number !== '' || (paper?.mark ?? '') !== ''

/** What is computed for a document, from what it says. */
export function priceInputOf(content: Unpriced): PriceInput {
	return {
		currency: content.currency,
		taxCodes: content.taxCodes,
		customerTax: content.customer.tax,
		lines: content.lines.map((line) => ({
			quantity: line.quantity,
			unitPrice: line.unitPrice ?? '0',
			pricePer: line.pricePer,
			taxCode: line.taxCode,
			discountable: line.discountable,
			discounts: lineDiscounts(line),
		})),
		discounts: content.discounts.map(shareOf),
		charges: content.charges.map((charge) => ({ ...shareOf(charge), taxCode: charge.taxCode })),
	}
}

/** The discounts of a line's or an order's own: a percent, an amount, or both. */
export const lineDiscounts = ({
	discountPercent,
	discountAmount = '',
}: {
	discountPercent: string
	discountAmount?: string
}): Discount[] => [
	...(isZero(discountPercent) ? [] : [{ percent: discountPercent }]),
	...(isZero(discountAmount) ? [] : [{ amount: discountAmount }]),
]

const shareOf = (share: Discount): Discount =>
	'percent' in share ? { percent: share.percent } : { amount: share.amount }

/** Whether a decimal text is empty or nought. */
export const isZero = (decimal: string): boolean => /^0*(\.0*)?$/.test(decimal)

/** Net of each of the document's orders, minor units; they add up to the document's net. */
export function orderNets(content: BillContent): bigint[] {
	const minor = (amount: string) => parseAmount(amount, content.currency, 'priced')
	const nets = content.orders.map(() => 0n)
	const add = (order: number, amount: bigint) => {
		nets[order] = (nets[order] ?? 0n) + amount
	}
	content.priced.lines.forEach((line, index) => {
		add(content.lines[index]?.order ?? 0, minor(line.net) - minor(line.documentDiscount))
	})
	content.priced.charges.forEach((amount, index) => {
		add(content.charges[index]?.order ?? 0, minor(amount))
	})
	return nets
}
