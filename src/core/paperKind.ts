import { z } from 'zod'
import type { Day } from './calendar'
import { addDays } from './calendar'

// Kinds of paper that a firm makes beside invoices, credit notes and statements: quotes, order confirmations, delivery notes, orders to
// suppliers.

/** What papers of such a kind say: lines with all their figures, or lines without. */
export const paperBases = ['priced', 'unpriced'] as const
export type PaperBase = (typeof paperBases)[number]
/** What they are made from: orders of the books, what is typed for them in the order form, or rows of sheets. */
export const paperSources = ['orders', 'form', 'sheet'] as const
/** Of a kind that is made from sheets: one paper a row, one for the rows of the same key, or one for all. */
export const sheetWays = ['row', 'key', 'whole'] as const
export type SheetWay = (typeof sheetWays)[number]
export type PaperSource = (typeof paperSources)[number]

/** A kind that the firm made, as documents, registers, layouts and letters of it are kept: "priced-3". */
export type OwnKind = `${PaperBase}-${number}`
/** The key of a kind of paper that the firm made. */
export const ownKind = (base: PaperBase, id: number): OwnKind => `${base}-${id}`
const ownKindShape = /^(priced|unpriced)-([1-9]\d{0,9})$/
/** Whether a key names a kind of paper that the firm made. */
export const isOwnKind = (key: string): key is OwnKind => ownKindShape.test(key)
/** The id of the kind that a key names; 0 for one that the program brings. */
export const ownKindId = (key: string): number => Number(ownKindShape.exec(key)?.[2] ?? 0)

const shortText = z
	.string()
	.trim()
	.min(1, 'A kind of paper needs a name.')
	.max(40, 'A name has up to 40 letters.')
	.regex(/^[^\p{Cc}{}]*$/u, 'A name stands on one line, without braces.')
/** What of a kind may be changed at any time; papers that are issued keep what counted then. */
export const paperKindSchema = z.object({
	/** What the firm calls one and several of them; also on papers in a language that has no name of its own. */
	name: shortText,
	several: shortText,
	/** What it is called on papers, by language. */
	names: z.record(z.string().regex(/^[a-z]{2}$/), shortText).default({}),
	/** Whether each gets a number of a register of its own. */
	numbered: z.boolean(),
	/** How many days from its date it stands; null for good. */
	stands: z
		.number()
		.int()
		.min(1, 'It stands for one day or more.')
		.max(3650, 'It stands for ten years at most.')
		.nullable(),
	/** Whether its customer's accepting makes an order of it. */
	becomesOrder: z.boolean(),
	each: z.enum(sheetWays).default('row'),
})
export type PaperKindBody = z.infer<typeof paperKindSchema>

/** A kind as it stands, in a form that tells whether somebody changed it meanwhile. */
export const kindAsSeen = (body: PaperKindBody): string => JSON.stringify(paperKindSchema.parse(body))

/** What a paper carries of its kind, frozen with it. */
export const paperPartSchema = z.object({
	id: z.number(),
	/** What it was called, and by language. */
	name: z.string(),
	names: z.record(z.string(), z.string()).default({}),
	/** Last day that it stands; empty for good. */
	until: z.string().default(''),
	/** Which of the papers that were made from its record, from 1. */
	version: z.number().default(1),
	/** Whether it gets a number of a register. */
	numbered: z.boolean().default(true),
	/** What stands for a number where the kind has no register, once it is issued. */
	mark: z.string().default(''),
})
export type PaperPart = z.infer<typeof paperPartSchema>

/** The last day of a paper: its own day and so many more. Empty where it stands for good. */
export const lastDay = (day: Day, stands: number | null): string => (stands === null ? '' : addDays(day, stands))

/**
 * Why a kind cannot be as it is said; empty where it can. Only what has prices can become an order, and only what is not an order already.
 */
export function kindFault(base: PaperBase, source: PaperSource, { becomesOrder }: PaperKindBody): string {
	if (source === 'sheet' && base === 'priced')
		return 'Figures of a sheet are its own: its sums and products are reckoned in the layout. Let the kind be without prices.'
	if (!becomesOrder) return ''
	if (base === 'unpriced') return 'Only a paper with prices can become an order: let it be priced, or become none.'
	return source === 'orders' ? 'What is made from orders is an order already: it cannot become one again.' : ''
}

/** Where the accepting of a paper stands: lines by their place on its record, and the orders that they became. */
type AcceptedLine = { line: number; order: string }
type Accepting = {
	/** Places of the lines that are wanted. */
	lines: readonly number[]
	/** Places of the lines that the paper has. */
	all: readonly number[]
	taken: readonly AcceptedLine[]
	/** Last day of the paper, empty for good; and the day on which it is accepted. */
	until: string
	day: Day
	/** Why it is accepted after its last day. */
	reason: string
}

/** Why lines of a paper cannot be accepted; empty where they can. Each line is accepted once; after the last day only with a reason. */
export function whyNotAccepted({ lines, all, taken, until, day, reason }: Accepting): string {
	if (lines.length === 0) return 'Choose at least one line.'
	const stray = lines.find((line) => !all.includes(line))
	if (stray !== undefined || new Set(lines).size < lines.length)
		return 'A line that was chosen is not on it. Read the page anew.'
	const twice = taken.filter(({ line }) => lines.includes(line))
	if (twice.length > 0) {
		const orders = [...new Set(twice.map(({ order }) => order))].join(', ')
		return twice.length === all.length || lines.length === twice.length
			? `It was accepted before: order ${orders}.`
			: `${twice.length === 1 ? 'One of these lines' : `${twice.length} of these lines`} stand on order ${orders} already. Leave them out.`
	}
	if (until !== '' && day > until && reason.trim() === '') return 'after its last day'
	return ''
}

/** The last day of the years that something issued on a day is kept: to the end of the year that they end in. Empty for good. */
export const keptTo = (day: Day, years: number | null): string =>
	years === null ? '' : `${Number(day.slice(0, 4)) + years}-12-31`
