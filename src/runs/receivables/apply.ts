import { type AppliedTo, sharesOf } from '@/core/applying'
import type { Day } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { earliestDayOpen } from '@/core/ledger'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import {
	addApplication,
	applicationsOfItem,
	disputedItems,
	entryOf,
	openItems,
	readApplication,
	readItem,
} from '@/store/ledger'
import { today, whyNotOn } from './days'

/** An amount in minor units, in words with its currency. */
export const money = (minor: number, currency: string): string => `${formatMinor(minor, currency)} ${currency}`

/** What applying is part of: an act of a person, an extract. */
type PartOf = { act?: number | null; extract?: number | null; knownThere?: number }
type Applying = { debit: number; credit: number; amount: number; from: Day; reason: string } & PartOf

/**
 * Applies a credit to a debit from a day on: that day, or the first later one from which neither ever has more applied to it than it
 * had (what was taken back since then is applied to nothing else before it was free).
 * @returns the day; @throws where more is to be applied than is open of one
 */
export function applyOn(
	books: Books,
	desk: Desk,
	{ debit, credit, amount, from, reason, act = null, extract = null, knownThere = 0 }: Applying,
): Day {
	const entries = [debit, credit].flatMap((id) => entryOf(books, id) ?? [])
	const day = earliestDayOpen(entries, from, amount)
	if (day === null || entries.length < 2) throw new Error('More was to be applied than is open.')
	addApplication(books, desk, {
		debit_id: debit,
		credit_id: credit,
		day,
		amount,
		reason,
		act_id: act,
		extract_id: extract,
		known_there: knownThere,
	})
	return day
}

/** Applies so much again of what was taken back, as far as both are open by now. */
export function applyAgain(books: Books, desk: Desk, { amount, ...rest }: Applying): void {
	const share = Math.min(amount, readItem(books, rest.debit)?.open ?? 0, readItem(books, rest.credit)?.open ?? 0)
	if (share > 0) applyOn(books, desk, { ...rest, amount: share })
}

/** What stands of the applications of an item, by the other item: what was taken back is left out. */
export function applicationsInForce(
	books: Books,
	itemId: number,
): { id: number; otherId: number | null; amount: number; extract: boolean; act: number | null }[] {
	const all = applicationsOfItem(books, itemId)
	const back = new Set(all.flatMap(({ takes_back }) => takes_back ?? []))
	return all
		.filter(({ id, takes_back }) => takes_back === null && !back.has(id))
		.map(({ id, debit_id, credit_id, amount, extract_id, act_id }) => ({
			id,
			otherId: debit_id === itemId ? credit_id : debit_id,
			amount,
			extract: extract_id !== null,
			act: act_id,
		}))
}

/** Takes an application back as of a day on or after its own. */
export function unapplyOn(
	books: Books,
	desk: Desk,
	id: number,
	day: Day,
	reason: string,
	{ act = null, extract = null }: PartOf = {},
): void {
	const application = readApplication(books, id)
	if (!application) return
	const { debit_id, credit_id, amount, known_there } = application
	addApplication(books, desk, {
		...{ debit_id, credit_id, amount: -amount, known_there, reason, takes_back: id, act_id: act, extract_id: extract },
		day: application.day > day ? application.day : day,
	})
}

/** What a payment or another credit could be applied to and take along, as of now: open debits, and credit notes that are open. */
export function openOf(books: Books, customerId: number, currency: string) {
	const disputed = disputedItems(books, customerId)
	const debits = openItems(books, customerId, currency, 'debit').map((item) => ({
		...item,
		disputed: disputed.has(item.id),
	}))
	const credits = openItems(books, customerId, currency, 'credit').filter(({ kind }) => kind !== 'payment')
	return { debits, credits }
}

/**
 * Applies what is open of a credit to debits of the same customer and currency, and the credit notes that its reference names with it.
 * @returns how much of it, and in words to what
 */
export function applyTo(
	books: Books,
	desk: Desk,
	creditId: number,
	{ to, from, reference, act = null }: { to: AppliedTo; from: Day; reference?: string; act?: number | null },
): { amount: number; words: string } {
	const credit = readItem(books, creditId)
	if (!credit) return { amount: 0, words: '' }
	const { debits, credits } = openOf(books, credit.customer_id, credit.currency)
	const given = { reference: reference ?? credit.number, open: credit.open }
	const notes = credit.kind === 'payment' ? credits : []
	const { shares, left } = sharesOf(given, debits, to, notes)
	for (const { debit, credit: note, amount, why } of shares)
		applyOn(books, desk, { debit: debit.id, credit: note?.id ?? credit.id, amount, from, reason: why, act })
	const names = [...new Set(shares.filter(({ credit: note }) => note === null).map(({ debit }) => debit.number))]
	const notesNamed = [...new Set(shares.flatMap(({ credit: note }) => note?.number ?? []))]
	const words = [
		names.length === 0 ? '' : ` to ${names.join(', ')}`,
		notesNamed.length === 0 ? '' : `, with ${notesNamed.join(', ')}`,
	].join('')
	return { amount: credit.open - left, words }
}

/** What a credit is applied to: the oldest due, chosen items, or the numbers that a reference names. */
type ApplyTo = 'oldest' | number[] | { reference: string }

/** Applies what is unapplied of a credit, as of the day worked on. */
export function applyCredit(books: Books, desk: Desk, creditId: number, to: ApplyTo): Outcome {
	return inOneStep(books, (): Outcome => {
		const credit = readItem(books, creditId)
		if (credit?.side !== 'credit' || credit.open === 0) return no('Nothing of it is unapplied.')
		const from = today(books, desk)
		const hindered = whyNotOn(books, desk, from)
		if (hindered) return no(hindered)
		const how =
			typeof to === 'object' && 'reference' in to
				? { to: 'named' as const, reference: to.reference, from }
				: { to, from }
		const applied = applyTo(books, desk, creditId, how)
		if (applied.amount === 0)
			return no(
				how.reference === undefined
					? 'There is no open item that it could be applied to.'
					: `“${how.reference}” names no open item of theirs in ${credit.currency}. Choose the items instead.`,
			)
		const detail = `${money(applied.amount, credit.currency)} of ${credit.number}${applied.words}`
		record(books, desk, { subject: 'customer', id: credit.customer_id, act: 'applied a credit', detail })
		return { ok: true }
	})
}
