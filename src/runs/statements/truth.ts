import type { Day } from '@/core/calendar'
import { amountText, parseAmount } from '@/core/currency'
import { formatAmount } from '@/core/format'
import { chargeNumber, type StatementContent, statementSchema } from '@/core/statement'
import { isStatement } from '@/kinds'
import { customerWords } from '@/runs/drafts/difference'
import type { Books } from '@/store/books'
import { everyCustomer, readCustomer, type Span } from '@/store/customers'
import { type DocumentRow, readAnyDocument } from '@/store/documents'
import { readSettings } from '@/store/settings'
import { choiceOf } from './choice'
import { type Drafted, drafter, emailOf } from './draft'

// Whether a statement may leave as it is: it is drafted anew from the ledger as of its own day, and compared as a whole; and what a letter asks
// for is compared, item by item, with what is owed by now. Nothing that an act left behind is trusted.

export type Statement = DocumentRow & { content: StatementContent }

/** A statement; null for another document. */
export function statementOf(books: Books, id: number): Statement | null {
	const row = readAnyDocument(books, id)
	return row && isStatement(row.content) ? { ...row, content: row.content } : null
}

/** Gives a statement as it would be drafted now, as of its own day; null when its account has nothing to state any more. */
type DraftedNow = (row: Statement) => Drafted | null

/** What statements of one run would be now. @param span the customers that will be asked for: no more is read than they take */
export function draftingNow(books: Books, runId: number, span: Span): DraftedNow {
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

/** What is called how where it is otherwise; amounts are said before and after. */
const amounts = {
	balance: 'owed in all',
	total: 'comes to',
	asked: 'asked for',
	pastDue: 'past due',
	disputed: 'in dispute',
	unapplied: 'to their credit',
} as const satisfies Partial<Record<keyof StatementContent, string>>

/** Parts of a statement that are not compared by themselves, each with why. Every other is. */
const apart = {
	kind: 'always the same',
	layout: 'of a draft it follows by itself; of what is numbered it is how its file was made',
	spoken: 'how its file was made',
	filed: 'where its file lies',
	issued: 'what numbering gave it',
	number: 'what numbering gave it',
	revision: 'what numbering gave it',
	letter: 'goes by its stage',
	stage: 'said with the letters’ names',
	charge: 'said with its amount; once numbered it stands among the items',
	kept: 'why it is held, which is said',
	spared: 'why no letter goes, where its stage says that none does',
	sparedUntil: 'the same',
	chargeDropped: 'what a person chose',
} as const satisfies Partial<Record<keyof StatementContent, string>>

/** Who writes to whom: of a draft it follows by itself (`particulars`). */
export const particulars = ['issuer', 'customer', 'locale'] as const satisfies (keyof StatementContent)[]

type Compared = Exclude<keyof StatementContent, keyof typeof apart | keyof typeof amounts>
const compared = (Object.keys(statementSchema.shape) as (keyof StatementContent)[]).filter(
	(key): key is Compared => !(key in apart) && !(key in amounts),
)
/** How the rest is called. */
const called: Partial<Record<Compared, string>> = {
	items: 'its items are otherwise',
	movements: 'what happened is otherwise',
	opening: 'its opening balance is otherwise',
	buckets: 'how long it is due is otherwise',
	tooLong: 'how many rows it has is otherwise',
	oldest: 'how long it is due is otherwise',
	promised: 'what is promised is otherwise',
	customer: 'the customer’s particulars are otherwise',
	issuer: 'the firm’s particulars are otherwise',
	locale: 'its language is otherwise',
}

/** What a value says, as far as the one before had it: what was added to the books' shape since is nothing that it said. */
const saysSame = (before: unknown, after: unknown): boolean => {
	if (typeof before !== 'object' || before === null || typeof after !== 'object' || after === null)
		return before === after
	if (Array.isArray(before) || Array.isArray(after))
		return (
			Array.isArray(before) &&
			Array.isArray(after) &&
			before.length === after.length &&
			before.every((one, place) => saysSame(one, after[place]))
		)
	return Object.entries(before).every(([key, one]) => saysSame(one, (after as Record<string, unknown>)[key]))
}

/** A statement drafted anew as one that was numbered has it: the charge that it brought itself is its own, not the ledger's. */
function asNumbered(content: StatementContent, number: string | null): StatementContent {
	if (number === null) return content
	const own = chargeNumber(number)
	return {
		...content,
		items: content.items.map((item) => (item.number === own ? { ...item, id: 0 } : item)),
		movements: content.movements.map((one) =>
			one.said?.number === own
				? { ...one, words: 'Late charge', said: { what: 'charge', number: 'Late charge' } }
				: one,
		),
	}
}
const bare = (movements: StatementContent['movements']) => movements.map(({ said: _, ...movement }) => movement)

/** What of a statement is otherwise now, in words; empty where it is true. What issuing it entered itself makes it no other. */
function otherwise(books: Books, { content: then, number, email }: Statement, drafted: Drafted | null): string {
	if (!drafted) return 'nothing is open on this account any more'
	const { reason, customer } = drafted
	const now = asNumbered(drafted.content, number)
	const { stages } = readSettings(books)
	const letter = ({ stage, spared }: StatementContent) =>
		stage > 0 ? `“${stages[stage - 1]?.name ?? stage}”` : spared ? `none (${spared})` : 'none past due'
	const moved = Object.entries(amounts).flatMap(([key, words]) => {
		const [was, is] = [then[key as keyof typeof amounts], now[key as keyof typeof amounts]]
		return was === is || was === '' ? [] : [`${words} ${formatAmount(was)} → ${formatAmount(is)}`]
	})
	const words = [
		...moved,
		...(number !== null || then.charge?.amount === now.charge?.amount
			? []
			: [`late charge ${then.charge?.amount ?? 'none'} → ${now.charge?.amount ?? 'none'}`]),
		...(then.stage === now.stage ? [] : [`letter ${letter(then)} → ${letter(now)}`]),
		...(reason !== '' && reason !== then.kept ? [reason] : []),
	]
	const told = words.length > 0
	for (const key of compared) {
		const who = particulars.some((one) => one === key)
		// Of a draft who writes to whom follows; and where figures moved, what they are made of moved with them.
		if (who ? number === null : told) continue
		const [was, is] = key === 'movements' ? [bare(then.movements), bare(now.movements)] : [then[key], now[key]]
		if (was === '' || saysSame(was, is)) continue
		const customer = key === 'customer' ? customerWords(then.customer, now.customer) : []
		words.push(...(customer.length > 0 ? customer : [called[key] ?? `${key} is otherwise`]))
	}
	const address = emailOf(customer)
	if (number !== null && email !== address)
		words.push(`it goes to ${email || 'no address'}, and theirs is ${address || 'none'} now`)
	return [...new Set(words)].join('; ')
}

/** What a past-due letter asks for and is no longer owed, in words, item by item and in all. @param now the account as of today */
function lessSince({ content }: Statement, now: StatementContent | null): string[] {
	const { currency } = content
	const minor = (amount: string) => parseAmount(amount || '0', currency, 'amount')
	const money = (amount: bigint) => formatAmount(amountText(amount, currency))
	const today = new Map((now?.items ?? []).map((item) => [item.id, item]))
	let still = 0n
	const items = content.items.flatMap(({ id, number, pastDue, open }) => {
		if (!pastDue || id === 0) return []
		const item = today.get(id)
		const is = item?.pastDue ? minor(item.open) : 0n
		still += is < minor(open) ? is : minor(open)
		return is < minor(open) ? [`${number} ${formatAmount(open)} → ${money(is)}`] : []
	})
	const covered = minor(now?.unapplied ?? '0') + minor(now?.promised ?? '0')
	const asked = still > covered ? still - covered : 0n
	return [
		...(asked < minor(content.asked)
			? [`it asks for ${formatAmount(content.asked)}, and ${money(asked)} is asked for now`]
			: []),
		...items,
	]
}

/** A statement looked at: what is otherwise, in words, empty where it may leave as it is; and what it would be now. */
export type Looked = { words: string; now: Drafted | null }

/**
 * Tells of statements of a run why they are not to leave as they are: the account is otherwise as of its day, or the letter asks for what is not
 * asked for as of today, or must not go today.
 * @param today the work date
 * @param span the customers that will be asked for: no more is read than they take
 */
export function truthOf(books: Books, runId: number, today: Day, span = everyCustomer): (row: Statement) => Looked {
	const choice = choiceOf(books, runId)
	if (!choice) return () => ({ words: '', now: null })
	const anew = draftingNow(books, runId, span)
	const plain = { asOf: today, show: 'all', form: 'open items', charges: false, least: 0, leasts: {} } as const
	let draftToday: ReturnType<typeof drafter> | null = null
	return (row) => {
		const { content } = row
		const now = anew(row)
		const words = [otherwise(books, row, now)]
		if (content.stage > 0 && today > choice.asOf) {
			draftToday ??= drafter(books, runId, { ...choice, ...plain }, span)
			const customer = readCustomer(books, row.customer_id)
			const drafted = customer ? draftToday([customer]) : []
			const by = drafted.find((one) => one.content.currency === content.currency)?.content ?? null
			words.push(...lessSince(row, by))
			if (by?.spared && by.stage === 0) words.push(by.spared)
		}
		return { words: [...new Set(words.filter(Boolean))].join('; '), now }
	}
}
