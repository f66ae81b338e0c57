import type { Finding } from '@/core/checks'
import { amountText, parseAmount } from '@/core/currency'
import { formatAmount } from '@/core/format'
import { no, type Outcome } from '@/core/outcome'
import type { StatementContent } from '@/core/statement'
import { isStatement } from '@/kinds'
import { type Books, inOneStep } from '@/store/books'
import { everyCustomer, oneCustomer, readCustomer } from '@/store/customers'
import { type DocumentRow, findingsOf, readAnyDocument, replaceFindings } from '@/store/documents'
import { draftsOf, hold, noteChanged, noteLetStand, replaceStatement } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { readSettings } from '@/store/settings'
import { type Drafted, drafter } from './draft'
import { checkStatement, choiceOf, minorOf } from './gather'

// A statement says what was so when it was gathered. Before it is numbered, and before it is sent, it is compared with the ledger as it is:
// one that is no longer true is named, and a person has it made anew, or lets it stand.

type Statement = DocumentRow & { content: StatementContent }

function statementOf(books: Books, id: number): Statement | null {
	const row = readAnyDocument(books, id)
	return row && isStatement(row.content) ? { ...row, content: row.content } : null
}

/** Gives a statement as it would be drafted now, as of its own day; null when its account has nothing to state any more. */
export type DraftedNow = (row: Statement) => Drafted | null

/** What statements of one run would be now. @param span the customers that will be asked for: no more is read than they take */
export function draftingNow(books: Books, runId: number, span = everyCustomer): DraftedNow {
	const choice = choiceOf(books, runId)
	const drafters = new Map<boolean, ReturnType<typeof drafter>>()
	return ({ customer_id, content }) => {
		const customer = readCustomer(books, customer_id)
		if (!choice || !customer) return null
		const charges = choice.charges && !content.chargeDropped
		const draft = drafters.get(charges) ?? drafter(books, runId, { ...choice, charges }, span)
		drafters.set(charges, draft)
		return draft([customer]).find((one) => one.content.currency === content.currency) ?? null
	}
}
const draftedNow = (books: Books, row: Statement): Drafted | null =>
	draftingNow(books, row.run_id, oneCustomer(row.customer_id))(row)

const figures: [
	keyof StatementContent & ('balance' | 'asked' | 'pastDue' | 'disputed' | 'unapplied' | 'total'),
	string,
][] = [
	['balance', 'owed in all'],
	['total', 'comes to'],
	['asked', 'asked for'],
	['pastDue', 'past due'],
	['disputed', 'in dispute'],
	['unapplied', 'to their credit'],
]

/** What of a statement is otherwise now, in words; empty where it is true. What issuing it entered itself makes it no other. */
function otherwise(books: Books, { content: then, number }: Statement, now: Drafted | null): string {
	if (!now) return 'nothing is open on this account any more'
	const { content, reason } = now
	const { stages } = readSettings(books)
	const letter = ({ stage, spared }: StatementContent) =>
		stage > 0 ? `“${stages[stage - 1]?.name ?? stage}”` : spared ? `none (${spared})` : 'none past due'
	const moved = figures.flatMap(([key, words]) =>
		then[key] === content[key] || then[key] === ''
			? []
			: [`${words} ${formatAmount(then[key])} → ${formatAmount(content[key])}`],
	)
	const items = (one: StatementContent) =>
		JSON.stringify([
			one.items.filter(({ id }) => id !== 0),
			one.opening,
			one.movements.map(({ said: _, ...movement }) => movement),
		])
	const words = [
		...moved,
		...(number !== null || then.charge?.amount === content.charge?.amount
			? []
			: [`late charge ${then.charge?.amount ?? 'none'} → ${content.charge?.amount ?? 'none'}`]),
		...(then.stage === content.stage ? [] : [`letter ${letter(then)} → ${letter(content)}`]),
		...(reason !== '' && reason !== then.kept ? [reason] : []),
	]
	if (words.length === 0 && number === null && items(then) !== items(content)) words.push('its items are otherwise')
	return words.join('; ')
}

const code = 'changed-since'
const findingOf = (row: DocumentRow, words: string): Finding => ({
	code,
	level: 'stop',
	brief: 'no longer true',
	text: `The account of ${row.customer_name} changed since this was gathered: ${words}. Make the statement anew, or let it stand as it is.`,
})

/**
 * Looks whether a draft statement is still true; where it is not, it is stopped until a person decides. What was decided counts for just that.
 * @returns what is otherwise and was not known before, in words; empty for nothing
 */
export function lookIfTrue(books: Books, desk: Desk, row: Statement, now: DraftedNow): string {
	// Who is held back gets nothing: there is nothing to be true.
	const words = row.held_reason === null ? otherwise(books, row, now(row)) : ''
	const standing = words === row.let_stand ? '' : words
	if (standing === row.changed) return ''
	const others = findingsOf(books, row.id).filter((finding) => finding.code !== code)
	replaceFindings(books, row.id, standing === '' ? others : [findingOf(row, standing), ...others])
	noteChanged(books, row.id, standing)
	const act = standing === '' ? 'is true again' : 'is no longer true'
	record(books, desk, { subject: 'document', id: row.id, act, detail: `${row.customer_name}: ${standing}` })
	return standing === '' ? '' : `${row.customer_name}: ${standing}`
}

/** Drafts a statement anew from the ledger as it is, as of its own day. */
export function makeAnew(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row || row.number !== null) return no('It is numbered, and stays as it is. Make it void, and gather another.')
		const now = draftedNow(books, row)
		const { layout } = row.content
		if (!now) {
			replaceFindings(books, documentId, [])
			noteChanged(books, documentId, '')
			hold(books, desk, documentId, 'nothing is open on this account any more')
		} else {
			const content = { ...now.content, layout, chargeDropped: row.content.chargeDropped }
			replaceStatement(books, documentId, content, minorOf(content), now)
			replaceFindings(books, documentId, checkStatement(books, content, now.customer, now.balance))
			noteChanged(books, documentId, '')
			if (now.reason !== '') hold(books, desk, documentId, now.reason)
			if (now.read) holdMessage(books, documentId, true)
		}
		noteLetStand(books, documentId, '')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'made anew from the ledger',
			detail: `${row.customer_name}: ${row.changed}`,
		})
		return { ok: true }
	})
}

/** Drafts all statements of a run anew that are no longer true. @returns how many */
export function makeAllAnew(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const stale = draftsOf(books, runId).filter((id) => statementOf(books, id)?.changed)
		if (stale.length === 0) return no('None of the drafts is out of date.')
		for (const id of stale) makeAnew(books, desk, id)
		return { ok: true, words: `${stale.length} made anew` }
	})
}

/** Lets a draft statement stand as it was gathered, with the reason; what changes further is found again. */
export function letStand(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it stands; the record shows the reason.')
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row?.changed) return no('Nothing of it is otherwise.')
		noteLetStand(books, documentId, row.changed)
		noteChanged(books, documentId, '')
		replaceFindings(
			books,
			documentId,
			findingsOf(books, documentId).filter((finding) => finding.code !== code),
		)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'let it stand',
			detail: `${row.customer_name}, though ${row.changed}: ${words}`,
		})
		return { ok: true }
	})
}

/** Takes the proposed late charge off a draft statement, which is drafted anew without it. */
export function dropCharge(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row || row.number !== null || !row.content.charge) return no('There is no proposed charge to drop.')
		const dropped = { ...row, content: { ...row.content, chargeDropped: true } }
		const now = draftedNow(books, dropped)
		if (!now) return no('Nothing is open on this account any more.')
		const content: StatementContent = { ...now.content, layout: row.content.layout, chargeDropped: true }
		replaceStatement(books, documentId, content, minorOf(content), now)
		const detail = `${row.customer_name}: ${row.content.charge?.amount} ${content.currency}`
		record(books, desk, { subject: 'document', id: documentId, act: 'dropped the late charge', detail })
		return { ok: true }
	})
}

/**
 * Tells why numbered statements of a run are not to leave as they are, in words: the account is otherwise as of its day, or the letter asks
 * for more than is asked for as of today, or must not go today. Empty where one may leave.
 * @param span the customers that will be asked for: no more is read than they take
 */
export function truthOf(
	books: Books,
	runId: number,
	today: string,
	span = everyCustomer,
): (documentId: number) => string {
	const choice = choiceOf(books, runId)
	if (!choice) return () => ''
	const then = draftingNow(books, runId, span)
	const asOf = today > choice.asOf ? today : choice.asOf
	const plain = { asOf, show: 'all', form: 'open items', charges: false } as const
	const draftToday = drafter(books, runId, { ...choice, ...plain }, span)
	return (documentId) => {
		const row = statementOf(books, documentId)
		const customer = row && readCustomer(books, row.customer_id)
		if (!row || !customer) return ''
		const { content } = row
		const minor = (amount: string) => parseAmount(amount || '0', content.currency, 'amount')
		const otherThen = otherwise(books, row, then(row))
		const words: string[] = otherThen === '' ? [] : [otherThen]
		if (customer.statements === 0) words.push('set to get no statements')
		if (content.stage > 0) {
			const now = draftToday([customer]).find((one) => one.content.currency === content.currency)?.content
			const asked = now ? minor(now.asked) : 0n
			if (asked < minor(content.asked))
				words.push(
					`it asks for ${formatAmount(content.asked)}, and ${formatAmount(amountText(asked, content.currency))} is asked for now`,
				)
			if (now?.spared && now.stage === 0 && now.sparedUntil === undefined) words.push(now.spared)
		}
		return [...new Set(words)].join('; ')
	}
}
