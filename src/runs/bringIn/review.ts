import { z } from 'zod'
import { discountForms, type QuestionName, questionNames } from '@/intake/reading'
import { otherwiseWays, pairAnswers } from '../extract/likely'

const example = z.object({ row: z.number(), value: z.string() })
const by = z.enum(['values', 'answer', 'nothing'])
const decidedSchema = z.object({
	days: z.enum(['year first', 'day first', 'month first']),
	decimal: z.enum(['point', 'comma']),
	discount: z.enum(discountForms).nullable(),
	orderDiscount: z.enum(discountForms).nullable().default(null),
	by: z.object({ days: by, decimal: by, discount: by, orderDiscount: by.default('nothing') }),
	questions: z.array(z.object({ name: z.enum(questionNames), examples: z.array(example), disagree: z.boolean() })),
})
/** Amounts are minor units as text, since a million rows may come to more than a number holds. */
const moneySchema = z.object({
	currency: z.string(),
	taken: z.string(),
	refused: z.string(),
	orders: z.number(),
	lines: z.number(),
	/** Net of the orders: their lines less discounts, and freight. */
	net: z.string(),
})

/** One item of a likely pair, as it is here or in the file: signed minor units. */
const likelySide = z.object({
	...{ customer: z.string(), number: z.string(), kind: z.string(), day: z.string(), currency: z.string() },
	...{ amount: z.number(), open: z.number() },
})

/** What a file would bring, as it was worked out; kept beside the file until it is worked out anew. */
const reviewSchema = z.object({
	/** Names exactly this outcome; accepting says which one was seen. */
	digest: z.string(),
	/** Set when all that could be taken of it is in the books. */
	taken: z.boolean().optional(),
	/** Names the books that it was worked out against. */
	stamp: z.string(),
	rows: z.object({
		all: z.number(),
		taken: z.number(),
		refused: z.number(),
		left: z.array(z.object({ why: z.string(), rows: z.number() })),
	}),
	money: z.array(moneySchema),
	/** Refused lines whose amount cannot be told. */
	untold: z.number(),
	sourceTotal: z.object({ row: z.number(), value: z.string() }).nullable(),
	decided: decidedSchema,
	missing: z.array(z.string()),
	/** Records by how they stand with the books. */
	standings: z.record(z.string(), z.number()),
	/** What was looked up, by name, and in how many lines or orders. */
	lookedUp: z.record(z.string(), z.number()),
	withoutPrice: z.number(),
	/** Items and tax codes that the books do not have, the most rows first. */
	unknown: z.array(
		z.object({ what: z.enum(['item', 'tax code']), value: z.string(), rows: z.number(), first: z.number() }),
	),
	/** What a file of payments comes to by currency, and what an extract does. */
	payments: z.array(z.object({ currency: z.string(), payments: z.number(), amount: z.number() })),
	extract: z
		.object({
			asOf: z.string(),
			previous: z.string().nullable(),
			hindered: z.string().nullable(),
			currencies: z.array(
				z.object({
					currency: z.string(),
					had: z.number(),
					added: z.number(),
					changed: z.number(),
					gone: z.number(),
					here: z.number(),
					hereSettled: z.number(),
					same: z.number(),
					will: z.number(),
					file: z.number(),
					items: z.number(),
					control: z.number().nullable(),
					left: z.number(),
					settles: z.number(),
					open: z.number(),
				}),
			),
			/** Items that are likely ones of here, of which a person has yet to say so: the first of them, and how many there are. */
			likely: z
				.array(
					z.object({
						key: z.string(),
						ways: z.array(z.enum(otherwiseWays)),
						answers: z.array(z.enum(pairAnswers)),
						here: likelySide,
						there: likelySide,
						/** What was paid on it here and is not known there, minor units. */
						paid: z.number(),
					}),
				)
				.default([]),
			unanswered: z.number().default(0),
			/** Why it takes a reason to accept it: "much GBP 12000 45", "control GBP -200". */
			doubts: z.array(z.string()),
			/** Credits and payments without a sign, where nothing says how they are meant. */
			unsigned: z.array(z.object({ row: z.number(), kind: z.string(), number: z.string(), amount: z.string() })),
			/** Payments entered here that may be the money by which the file settles what it does. */
			twins: z.array(
				z.object({
					id: z.number(),
					customer: z.string(),
					reference: z.string(),
					day: z.string(),
					currency: z.string(),
					free: z.number(),
					settles: z.number(),
				}),
			),
		})
		.nullable(),
})
/** The standing of a record whose row was taken into the books before, just as it stands. */
export const hereBefore = 'here before'
export type Review = z.infer<typeof reviewSchema>

/** What a file would bring as it stands; null until that is known. */
export const reviewOf = ({ review }: { review: string | null }): Review | null =>
	review === null ? null : reviewSchema.parse(JSON.parse(review))

/** What a person answered of a file beside how it is read. */
export const answersSchema = z.object({
	/** The kind was not told by the head, and a person said it; or it was. */
	kind: z.boolean().default(true),
	/** What becomes of waiting orders that the file has otherwise. */
	amended: z.enum(['replace', 'leave']).nullable().default(null),
	/** Whether orders of numbers that are known, of another year or customer, are others. */
	again: z.enum(['others', 'same']).nullable().default(null),
	/** Whether payments that look like ones entered before are entered. */
	twice: z.enum(['enter', 'leave']).nullable().default(null),
	/** Of payments that may be the same money as an extract settles, by id: whether they are. */
	twins: z.record(z.string(), z.enum(['same', 'other'])).default({}),
	/** Of items of an extract that are likely ones of here, by pair: whether they are, and where money paid here goes. */
	pairs: z.record(z.string(), z.enum(pairAnswers)).default({}),
	/** Why an extract is accepted that there are doubts of; empty for not. */
	reason: z.string().default(''),
	/** Columns of the reader that the file has under another name, told by a person or taken as offered. */
	renamed: z.boolean().default(true),
})
export type Answers = z.infer<typeof answersSchema>
/**
 * What a person answered about a file, from its JSON.
 * @throws ZodError where the text is not what the books keep
 */
export const readAnswers = (text: string): Answers => answersSchema.parse(JSON.parse(text))

/** A question that must be answered before anything is accepted. */
export type Open =
	| QuestionName
	| 'kind'
	| 'renamed'
	| 'amended'
	| 'again'
	| 'twice'
	| 'signs'
	| 'pairs'
	| 'twins'
	| 'doubts'

/** What is open of a file, in the order in which it is asked. */
export function openQuestions(review: Review | null, answers: Answers): Open[] {
	const open: Open[] = []
	if (!answers.kind) open.push('kind')
	if (!answers.renamed) open.push('renamed')
	if (!review) return open
	open.push(...review.decided.questions.map(({ name }) => name))
	if ((review.standings.changed ?? 0) > 0 && answers.amended === null) open.push('amended')
	if ((review.standings['of another'] ?? 0) > 0 && answers.again === null) open.push('again')
	if ((review.standings.again ?? 0) > 0 && answers.twice === null) open.push('twice')
	const { extract } = review
	if (!extract) return open
	if (extract.unsigned.length > 0) open.push('signs')
	else if (extract.unanswered > 0) open.push('pairs')
	else if (extract.twins.some(({ id }) => answers.twins[id] === undefined)) open.push('twins')
	if (extract.doubts.length > 0 && answers.reason === '' && extract.unsigned.length === 0) open.push('doubts')
	return open
}
