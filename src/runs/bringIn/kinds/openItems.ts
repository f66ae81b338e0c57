import { correctedRows } from '@/intake/corrected'
import { type IntakeItem, readOpenItems } from '@/intake/openItems'
import type { Decided, Reading } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import { settled } from '@/intake/settled'
import { type Books, inOneStep } from '@/store/books'
import { correctionsOf, leftOutOf } from '@/store/corrections'
import type { RowThen } from '@/store/ledgerThen'
import { rowsIn } from '@/store/staging'
import { acceptExtract } from '../../extract/accept'
import { type ExtractReview, type Pair, reviewExtract, signed, whyNotAccepted } from '../../extract/review'
import { type Known, knownBooks } from '../knownBooks'
import type { Answers } from '../review'
import { type Entered, type Entering, type KindRules, standing, type Taken, type Taking } from './kind'

/** What an extract says beside the ledger. */
function extractIn(
	books: Books,
	fileId: number,
	rows: Rows,
	reading: Reading,
	decided: Decided,
	known: Known,
	{ twins }: Answers,
): ExtractReview {
	const read = readOpenItems(rows, reading, decided, known, known.home)
	const customer = (number: string) => (number === '' ? undefined : known.customer(number)?.id)
	return reviewExtract(books, fileId, read, reading.asOf, customer, { ours: reading.ours, twins })
}

/** What lists show of an item of an extract: what it was here and is there, signed. */
export type ItemBrief = {
	customer: string
	kind: string
	due: string
	currency: string
	was: number | null
	is: number | null
	/** What of it is otherwise beside what is open, in pairs of before and after. */
	amount: [number, number] | null
	dueWas: string | null
	dayWas: string | null
	day: string | null
	from: string | null
}

/** Takes an extract: every item that is new, changed, gone, here and not there, left, or the same. */
function takeItemsOpen({ books, fileId, known, reading, decided, rows, answers, refuse, left, record }: Taking): Taken {
	const review = extractIn(books, fileId, rows, reading, decided, known, answers)
	for (const refusal of review.refused) refuse(refusal)
	for (const { row, why } of review.left) left(row, why)
	const names = new Map([...known.customers.values()].map(({ id, name }) => [id, name]))
	const say = (what: string, row: number, number: string, brief: Partial<ItemBrief> & Pick<ItemBrief, 'currency'>) =>
		record({
			...{ key: number, first_row: row, standing: what, body: '', said: '' },
			brief: JSON.stringify({
				...{ customer: '', kind: '', due: '', was: null, is: null },
				...{ amount: null, dueWas: null, dayWas: null, day: null, from: null },
				...brief,
			} satisfies ItemBrief),
		})
	const fromFile = (item: IntakeItem) => ({
		...{ kind: item.called || item.kind, currency: item.currency, due: item.due },
		customer: names.get(item.customerId) ?? '',
		is: signed(item.open, item.side),
	})
	const fromBooks = (item: RowThen) => ({
		...{ kind: item.called || item.kind, currency: item.currency, due: item.due_then },
		customer: names.get(item.customer_id) ?? '',
		was: signed(item.open_then, item.side),
	})
	const pair = ({ item, before }: Pair) => {
		const day = before.dated || before.day
		const amounts: [number, number] = [signed(before.amount_then, before.side), signed(item.amount, item.side)]
		return {
			...fromBooks(before),
			...fromFile(item),
			amount: amounts[0] === amounts[1] ? null : amounts,
			dueWas: before.due_then === item.due ? null : before.due_then,
			...(day === item.day ? {} : { dayWas: day, day: item.day }),
		}
	}
	for (const one of review.changed) say('changed item', one.item.row, one.item.number, pair(one))
	for (const one of review.moved)
		say('changed item', one.item.row, one.item.number, { ...pair(one), from: names.get(one.before.customer_id) ?? '' })
	for (const item of review.gone) say('gone', 0, item.number, fromBooks(item))
	for (const item of review.ours) say('not in it', 0, item.number, fromBooks(item))
	for (const item of review.untouchedItems) say('left as it is', 0, item.number, fromBooks(item))
	for (const item of review.added) say('new item', item.row, item.number, fromFile(item))
	for (const one of review.same) say('same item', one.item.row, one.item.number, pair(one))
	return {
		rows: review.items.length,
		extract: {
			asOf: review.asOf,
			previous: review.previous,
			hindered: whyNotAccepted(books, review),
			currencies: review.currencies,
			doubts: review.doubts,
			unsigned: review.signs === null ? review.unsigned : [],
			twins: review.twins.map(({ payment, free, settles }) => ({
				...{ id: payment.id, reference: payment.number, day: payment.day, currency: payment.currency, free, settles },
				customer: names.get(payment.customer_id) ?? '',
			})),
		},
	}
}

function enterExtract({ books, desk, file, staging, reading, review, answers }: Entering): Entered | string {
	const known = knownBooks(books)
	const leftOut = new Set(leftOutOf(books, file.id).map(({ row }) => row))
	const rows = correctedRows(rowsIn(staging), correctionsOf(books, file.id), leftOut, reading.lineFrom)
	const evidence = JSON.parse(file.look ?? '{}').evidence ?? []
	const extract = extractIn(
		books,
		file.id,
		rows,
		reading,
		settled(rows, reading, evidence, known.ownFields),
		known,
		answers,
	)
	const hindered = whyNotAccepted(books, extract)
	if (hindered) return hindered
	const given = { ours: reading.ours, twins: answers.twins, reason: extract.doubts.length > 0 ? answers.reason : '' }
	return { words: acceptExtract(books, desk, file.id, extract, given), left: { ...review, standings: {} } }
}

export const openItemsRules: KindRules = {
	take: takeItemsOpen,
	enter: (entering, end) =>
		inOneStep(entering.books, () => {
			const entered = enterExtract(entering)
			return typeof entered === 'string' ? { ok: false, message: entered } : end(entered)
		}),
	countToAccept: (review, accepted) => standing(review, 'new item', 'changed item', ...(accepted ? [] : ['same item'])),
	one: 'open item',
	several: 'open items',
}
