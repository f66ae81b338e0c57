import type { z } from 'zod'
import type { Day } from '@/core/calendar'
import type { customerSchema, issuerSchema } from '@/core/document'
import type { ItemKind, Side } from '@/core/ledger'
import type { FieldValues } from '@/core/letter'

/** What every document says, whatever its kind. */
type CommonContent = {
	kind: string
	number: string
	revision: number
	day: Day
	dueDay: Day
	currency: string
	locale: string
	issuer: z.infer<typeof issuerSchema>
	customer: z.infer<typeof customerSchema>
}

/** What issuing a document enters in its customer's ledger. Amounts in minor units, above zero. */
export type Entering = {
	kind: ItemKind
	side: Side
	number: string
	day: Day
	dueDay: Day
	amount: bigint
	theirOrder: string
	note: string
	/** Ledger items that it charges for being late, up to its day. */
	charged: { id: number; amount: number; interest: number }[]
}

/** A letter that goes with documents of a kind until the firm writes its own. */
export type FirstLetter = { name: string; subject: string; body: string }

/**
 * All that is particular to a kind of document: what it says, how it is called, numbered and written about, and what issuing
 * and verifying it do. A new kind is a file here and its place in the list of `index.ts`.
 */
export type DocumentKind<Content extends CommonContent = CommonContent> = {
	kind: Content['kind']
	schema: z.ZodType<Content>
	words: {
		/** As the paper's title has it: "Credit note". */
		name: string
		/** Within a sentence, one and several. */
		noun: string
		nouns: string
		/** A run of them within a sentence; its day follows. */
		run: string
		/** What a run's tally counts. */
		unit: 'order' | 'item' | 'record'
		/** What throwing all drafts of a run away is called, with its question and what it means. */
		drop: { button: string; question: string; meaning: string; yes: string }
		/** What closing a run means for what is held back. */
		close: string
	}
	/** The register as it is first offered. */
	register: { prefix: string; yearly: 0 | 1 }
	/** The letters that may go with it, by key, and which one goes with a document. */
	letters: Record<string, FirstLetter>
	letter: (content: Content) => string
	/** Values of merge fields, in its customer's figures and dates. */
	fields: (content: Content) => FieldValues
	/** Every text on it, for what the fonts must have. */
	texts: (content: Content) => string[]
	/** What it counts as in the tally: orders, or open items. */
	count: (content: Content) => number
	numbered: (content: Content, number: string) => Content
	/** Whether its orders count as billed from then on. */
	bills: boolean
	/** What issuing it enters in the ledger; null for nothing. */
	enters: (content: Content) => Entering | null
	/** What is wrong with its figures when they are reckoned anew from what it says; empty for nothing. */
	verify: (content: Content) => string
}
