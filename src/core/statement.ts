import { z } from 'zod'
import type { AgedAccount } from './age'
import type { Day } from './calendar'
import { type Chase, type Demand, demandOf } from './chase'
import { amountText } from './currency'
import { customerSchema, filedSchema, issuedSchema, issuerSchema, layoutRefSchema, spokenSchema } from './document'
import { leastsShape } from './leasts'
import { accountsAsOf, type Entry, entriesAsOf, itemKinds } from './ledger'
import { whyItem } from './why'

/** Which customers a run of statements is for, and what stands on each. */
export const statementChoiceSchema = z.object({
	asOf: z.string(),
	/** Open items, or opening balance, what happened since, closing balance. */
	form: z.enum(['open items', 'balance forward']),
	/** First day of what happened, for a balance forward. */
	since: z.string(),
	/** Every open item, or the undisputed debits past due alone. */
	show: z.enum(['all', 'past-due']),
	/** Credits in a part of their own, or not at all. Past due alone never has credits. */
	credits: z.enum(['apart', 'left out']),
	/** Least amounts worth a letter, of what the statement asks for. */
	...leastsShape,
	/** Whether messages are held to be read before they go. */
	hold: z.boolean().default(false),
	/** Whether copies of the invoices past due go along. */
	copies: z.boolean().default(false),
	/** Whether late charges are proposed. */
	charges: z.boolean().default(false),
	/** Chosen customers by id; none: all. */
	customers: z.array(z.number().int()),
})
export type StatementChoice = z.infer<typeof statementChoiceSchema>

const text = z.string()
const itemSchema = z.object({
	/** The ledger's own id. */
	id: z.number(),
	kind: z.enum(itemKinds),
	number: text,
	day: text,
	due: text,
	theirOrder: text,
	/** Decimal text; a credit is below zero. */
	amount: text,
	open: text,
	daysPastDue: z.number(),
	/** Past due and not in dispute. */
	pastDue: z.boolean(),
	disputed: z.boolean(),
})
/** What happened on a day of a balance forward, and the balance after it. */
const movementSchema = z.object({
	day: text,
	words: text,
	/** What the words say, to be said in another language; left out on statements from before it was kept. */
	said: z
		.object({
			/** What came, or what happened to what was there. */
			what: text,
			/** The entry's. */
			number: text,
			/** Before and after. */
			amounts: z.array(text).optional(),
			due: z.array(text).optional(),
			dated: text.optional(),
		})
		.optional(),
	change: text,
	balance: text,
})
export type Movement = z.infer<typeof movementSchema>

/** Everything that a statement says, in the shape that is frozen when it is numbered. Amounts are decimal text. */
export const statementSchema = z.object({
	kind: z.literal('statement'),
	layout: layoutRefSchema,
	filed: filedSchema.optional(),
	issued: issuedSchema.optional(),
	spoken: spokenSchema,
	number: text,
	revision: z.number(),
	/** The day it is as of. */
	day: text,
	dueDay: text,
	currency: text,
	locale: text,
	issuer: issuerSchema,
	customer: customerSchema,
	form: statementChoiceSchema.shape.form,
	show: statementChoiceSchema.shape.show,
	credits: statementChoiceSchema.shape.credits,
	items: z.array(itemSchema),
	since: text,
	opening: text,
	movements: z.array(movementSchema),
	buckets: z.array(z.object({ name: text, amount: text })),
	pastDue: text,
	disputed: text,
	unapplied: text,
	/** What the customer owes in all as of the day. */
	balance: text,
	/**
	 * What it comes to: what the customer owes in all, or, where past due alone stands on it, what is asked for.
	 */
	total: text,
	/** What is asked for now: what is past due less what stands to their credit and what is promised. Empty on statements of before. */
	asked: text.default(''),
	/** What of that is not asked for, since it is promised. */
	promised: text.default(''),
	/** Days that the oldest undisputed debit is past due; 0 for none. */
	oldest: z.number(),
	/** The late charge that it brings, and how that was reached; null for none. */
	charge: z
		.object({
			amount: text,
			working: z.array(text),
			/** Items that it is on; statements of before have them alone. */
			items: z.array(z.number()),
			parts: z.array(z.object({ id: z.number(), amount: z.number(), interest: z.number() })).default([]),
		})
		.nullable()
		.default(null),
	/** The letter that goes with it. */
	letter: text,
	/** The stage of that letter, from 1; 0 where it asks for nothing past due. */
	stage: z.number().default(0),
	/** Why no past-due letter goes although something is past due; empty when one does. */
	spared: text,
	/** From when on one goes, where it is only too soon after the last. */
	sparedUntil: text.optional(),
	/** Why it was held back as it was gathered; empty where it was not. */
	kept: text.default(''),
	/** How many rows its paper would have, where that is too many to be listed; its items are left out then. */
	tooLong: z.number().optional(),
	/** Whether a person took its late charge off. */
	chargeDropped: z.boolean().default(false),
})
export type StatementContent = z.infer<typeof statementSchema>
export type StatementItem = StatementContent['items'][number]

/** An item as the ledger holds it, with what a statement says of it. */
export type StatementEntry = Entry & { their_order: string; called?: string }
/** Something that changed the balance: an item entered, or an amount that an extract settled. */
export type BalanceChange = { day: Day; words: string; said: NonNullable<Movement['said']>; change: number }

/** Why each item of an account is on its statement or not, in words; in the ledger's order. */
export type Why = { id: number; on: boolean; words: string; open: number }

/** More rows than these are on no paper: some 300 pages. */
export const mostRows = 10_000

/** The parts of a statement that come from the ledger. */
export type Stated = Pick<
	StatementContent,
	| 'items'
	| 'opening'
	| 'movements'
	| 'buckets'
	| 'pastDue'
	| 'disputed'
	| 'unapplied'
	| 'balance'
	| 'total'
	| 'asked'
	| 'promised'
	| 'oldest'
>

/**
 * What a customer's statement in one currency says as of a day (CALCULATION, what a customer owes).
 * @param changes everything that changed the balance from the first day of a balance forward on; in any order
 * @param promised payments that are promised, and what of them has not come (minor units)
 * @returns null when the account has no entry
 */
export function state(
	entries: readonly StatementEntry[],
	currency: string,
	choice: Pick<StatementChoice, 'asOf' | 'show' | 'credits' | 'form' | 'since'>,
	changes: readonly BalanceChange[] = [],
	promised: Chase['promised'] = [],
): { stated: Stated; why: Why[]; aged: AgedAccount; demand: Demand } | null {
	const own = entriesAsOf(
		entries.filter((entry) => entry.currency === currency),
		choice.asOf,
	)
	const [aged] = accountsAsOf(own, choice.show)
	if (!aged) return null
	const money = (minor: bigint | number) => amountText(BigInt(minor), currency)
	const items: StatementItem[] = []
	const why: Why[] = []
	let oldest = 0
	own.forEach((entry, place) => {
		const found = aged.items[place]
		if (!found) return
		const open = found.open ?? 0n
		const on = found.included && (entry.side === 'debit' || choice.credits === 'apart')
		why.push({ id: entry.id, on, words: whyItem(entry, found), open: Number(open) })
		const pastDue = found.reason === 'past due'
		if (pastDue) oldest = Math.max(oldest, found.daysPastDue ?? 0)
		if (!on) return
		items.push({
			id: entry.id,
			kind: entry.kind,
			number: entry.number,
			day: entry.dated || entry.day,
			due: entry.due_day,
			theirOrder: entry.their_order,
			amount: money(entry.side === 'debit' ? entry.amount : -entry.amount),
			open: money(open),
			daysPastDue: found.daysPastDue ?? 0,
			pastDue,
			disputed: found.reason === 'disputed',
		})
	})
	items.sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.id - b.id))
	const moved = movementsOf(changes, choice, aged.balance, money)
	const demand = demandOf(aged, { promised }, choice.asOf)
	return {
		aged,
		why,
		demand,
		stated: {
			items,
			...moved,
			buckets: Object.entries(aged.buckets).map(([name, amount]) => ({ name, amount: money(amount) })),
			pastDue: money(aged.pastDue),
			disputed: money(aged.disputed),
			unapplied: money(aged.unappliedCredits),
			balance: money(aged.balance),
			total: money(choice.show === 'past-due' ? demand.asked : aged.balance),
			asked: money(demand.asked),
			promised: money(demand.promised),
			oldest,
		},
	}
}

/** Opening balance and what happened from a day on, up to the statement's: opening and what happened come to the balance. */
function movementsOf(
	changes: readonly BalanceChange[],
	{ form, since, asOf }: Pick<StatementChoice, 'form' | 'since' | 'asOf'>,
	closing: bigint,
	money: (minor: number | bigint) => string,
): Pick<StatementContent, 'opening' | 'movements'> {
	if (form === 'open items') return { opening: money(0), movements: [] }
	const within = changes
		.filter(({ day }) => day >= since && day <= asOf)
		.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0))
	let balance = closing - within.reduce((sum, { change }) => sum + BigInt(change), 0n)
	const opening = money(balance)
	const movements = within.map(({ day, words, said, change }) => {
		balance += BigInt(change)
		return { day, words, said, change: money(change), balance: money(balance) }
	})
	return { opening, movements }
}

/** What an entry is called: by its own word, else by its kind. */
export const calledOf = ({ called, kind }: Pick<StatementEntry, 'called' | 'kind'>): string => called || kind

/** The entry by which a statement brings a late charge; the ledger gives it an id when the statement is numbered. */
export const chargeEntry = (amount: bigint, asOf: Day, currency: string): StatementEntry => ({
	id: 0,
	kind: 'charge',
	side: 'debit',
	number: 'Late charge',
	day: asOf,
	due_day: asOf,
	currency,
	amount: Number(amount),
	applied: [],
	disputes: [],
	their_order: '',
})

/** A statement with its number, which its late charge bears too. */
export const numberedStatement = (content: StatementContent, number: string): StatementContent => ({
	...content,
	number,
	items: content.items.map((item) => (item.id === 0 ? { ...item, number: chargeNumber(number) } : item)),
})

/** The number of the late charge that a statement brings. */
export const chargeNumber = (statement: string): string => `${statement}/C`
