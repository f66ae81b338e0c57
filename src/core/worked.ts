import { z } from 'zod'
import { age, agedText } from './age'
import { dueDate } from './dueDate'
import { price, pricedText } from './price'
import type { Refusal } from './refusal'

// Figures are text or whole numbers; what they may hold is the arithmetic's to refuse, with its own words.
const figure = z.union([z.string(), z.number()]).transform((value) => String(value))
const discount = z.union([z.object({ percent: figure }), z.object({ amount: figure })])
const charge = z.union([
	z.object({ percent: figure, taxCode: z.string() }),
	z.object({ amount: figure, taxCode: z.string() }),
])

const priceSchema = z.object({
	currency: z.string(),
	taxCodes: z.array(z.object({ code: z.string(), rate: figure })),
	lines: z.array(
		z.object({
			quantity: figure,
			unitPrice: figure,
			pricePer: figure.optional(),
			taxCode: z.string(),
			discounts: z.array(discount).optional(),
			discountable: z.boolean().optional(),
		}),
	),
	discounts: z.array(discount).optional(),
	charges: z.array(charge).optional(),
	customerTax: z.enum(['standard', 'exempt', 'reverse-charge']).optional(),
	taxRounding: z.enum(['per-group', 'per-line']).optional(),
	pricesIncludeTax: z.boolean().optional(),
	rounding: z.enum(['half-away', 'half-even']).optional(),
	prepaid: figure.optional(),
})

const termsSchema = z.union([
	z.object({ net: z.number(), endOfMonth: z.boolean().optional() }),
	z.object({ dayOfMonth: z.number(), monthsAfter: z.number() }),
])
const dueSchema = z.object({ date: z.string(), terms: termsSchema, roll: z.literal('next-business-day').optional() })

const ageSchema = z.object({
	asOf: z.string(),
	show: z.enum(['all', 'past-due']).optional(),
	ageBy: z.enum(['due', 'date']).optional(),
	buckets: z.array(z.number()).optional(),
	items: z.array(
		z.object({
			ref: z.string(),
			kind: z.enum(['invoice', 'charge', 'credit', 'payment']),
			date: z.string(),
			dueDate: z.string(),
			amount: figure,
			currency: z.string(),
			applied: z.array(z.object({ date: z.string(), amount: figure })).optional(),
			disputed: z.boolean().optional(),
		}),
	),
})

export type Kind = 'price' | 'due' | 'age'
export type Outcome = object | { error: Refusal }

/** Computes one input of unknown shape, as CALCULATION's worked cases have them: the result, or `{ error: { path, message } }`. */
export function compute(kind: Kind, input: unknown): Outcome {
	if (kind === 'price') return answer(priceSchema, input, price, pricedText)
	if (kind === 'due') return answer(dueSchema, input, dueDate, (due) => ({ due }))
	return answer(ageSchema, input, age, agedText)
}

function answer<I, V>(
	schema: z.ZodType<I>,
	input: unknown,
	work: (input: I) => { ok: true; value: V } | { ok: false; refusal: Refusal },
	show: (value: V) => object,
): Outcome {
	const parsed = schema.safeParse(input)
	if (!parsed.success) {
		const issue = parsed.error.issues[0]
		return {
			error: { path: issue?.path.join('.') ?? '', message: `${issue?.message ?? 'Not of the expected shape'}.` },
		}
	}
	const result = work(parsed.data)
	return result.ok ? show(result.value) : { error: result.refusal }
}
