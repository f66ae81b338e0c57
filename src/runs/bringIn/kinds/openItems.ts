import { correctedRows } from '@/intake/corrected'
import { formatNamed } from '@/intake/formats'
import { type IntakeItem, readOpenItems } from '@/intake/openItems'
import type { Decided, Reading } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import { settled } from '@/intake/settled'
import { type Books, inOneStep } from '@/store/books'
import { correctionsOf, leftOutOf } from '@/store/corrections'
import type { Desk } from '@/store/events'
import { readFile, sourceOfFile } from '@/store/files'
import type { RowThen } from '@/store/ledgerThen'
import { rowsIn } from '@/store/staging'
import { acceptExtract } from '../../extract/accept'
import type { Ended } from '../../extract/doubts'
import type { Likely, Pair } from '../../extract/likely'
import { reviewExtract, whyNotAccepted } from '../../extract/review'
import type { ExtractReview } from '../../extract/reviewed'
import { signed } from '../../extract/sums'
import { today } from '../../receivables/days'
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
	{ twins, pairs }: Answers,
	desk: Desk,
): ExtractReview & { ended: Ended } {
	const read = readOpenItems(rows, reading, decided, known, known.home)
	const customer = (number: string) => (number === '' ? undefined : known.customer(number)?.id)
	const ended = { totalled: read.totalled, line: endsLine(books, fileId, reading.format) }
	const given = { ours: reading.ours, twins, pairs }
	return {
		...reviewExtract(books, fileId, read, reading.asOf, customer, given, { worked: today(books, desk), ended }),
		ended,
	}
}

/** Whether a file ends with the end of a line. */
function endsLine(books: Books, fileId: number, format: string): boolean {
	const file = readFile(books, fileId)
	if (!file || file.size === 0) return false
	// Other formats end in their own way, and are refused where they do not.
	if (formatNamed(format)?.lines !== true) return true
	return /[\r\n]\0?$/.test(
		sourceOfFile(books, file)
			.read(Math.max(0, file.size - 2), 2)
			.toString('latin1'),
	)
}

/** So many likely pairs are kept for asking at a time. */
const askedAtOnce = 200

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
	/** Of one that is likely one of here: what of it is otherwise, what was said of it, and what was paid on it here. */
	ways?: Likely['ways']
	answer?: Likely['answer']
	paid?: number
	numberWas?: string
	currencyWas?: string
	/** What kind it is here, where the file has it as another. */
	kindWas?: string
}

/** Takes an extract: every item that is new, changed, gone, here and not there, left, or the same. */
function takeItemsOpen({
	books,
	desk,
	fileId,
	known,
	reading,
	decided,
	rows,
	answers,
	refuse,
	left,
	record,
}: Taking): Taken {
	const review = extractIn(books, fileId, rows, reading, decided, known, answers, desk)
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
			...(item.kind === before.kind ? {} : { kindWas: before.called || before.kind }),
			...(day === item.day ? {} : { dayWas: day, day: item.day }),
		}
	}
	const unanswered = new Set(review.likely.flatMap(({ item, answer }) => (answer === null ? [item.row] : [])))
	const likely = (one: Likely) => ({
		...pair(one),
		from: one.before.customer_id === one.item.customerId ? null : (names.get(one.before.customer_id) ?? ''),
		...{ ways: one.ways, answer: one.answer, paid: one.paid, numberWas: one.before.number },
		currencyWas: one.before.currency,
	})
	for (const one of review.changed.filter(({ item }) => !unanswered.has(item.row)))
		say('changed item', one.item.row, one.item.number, pair(one))
	for (const one of review.likely.filter(({ answer }) => answer === null))
		say('likely item', one.item.row, one.item.number, likely(one))
	for (const one of review.replaced.filter(({ answer }) => answer !== null))
		say('changed item', one.item.row, one.item.number, likely(one))
	for (const one of review.stillVoid.filter(({ answer }) => answer !== null))
		say('left as it is', one.item.row, one.item.number, likely(one))
	for (const item of review.gone) say('gone', 0, item.number, fromBooks(item))
	for (const item of review.ours) say('not in it', 0, item.number, fromBooks(item))
	for (const item of review.untouchedItems) say('left as it is', 0, item.number, fromBooks(item))
	for (const item of review.added) say('new item', item.row, item.number, fromFile(item))
	for (const one of review.same.filter(({ item }) => !unanswered.has(item.row)))
		say('same item', one.item.row, one.item.number, pair(one))
	return {
		rows: review.items.length,
		extract: {
			asOf: review.asOf,
			previous: review.previous,
			hindered: whyNotAccepted(books, review),
			currencies: review.currencies,
			doubts: review.doubts,
			unsigned: review.signs === null ? review.unsigned : [],
			unanswered: unanswered.size,
			likely: review.likely
				.filter(({ answer }) => answer === null)
				.slice(0, askedAtOnce)
				.map(({ item, before, key, ways, answers: may, paid }) => ({
					...{ key, ways, answers: may, paid },
					here: {
						...{ customer: names.get(before.customer_id) ?? '', number: before.number, currency: before.currency },
						...{ kind: before.called || before.kind, day: before.dated || before.day },
						...{ amount: signed(before.amount_then, before.side), open: signed(before.open_then, before.side) },
					},
					there: {
						...{ customer: names.get(item.customerId) ?? '', number: item.number, currency: item.currency },
						...{ kind: item.called || item.kind, day: item.day },
						...{ amount: signed(item.amount, item.side), open: signed(item.open, item.side) },
					},
				})),
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
		desk,
	)
	const hindered = whyNotAccepted(books, extract)
	if (hindered) return hindered
	if (extract.likely.some(({ answer }) => answer === null)) return 'A question is open. Answer it first.'
	const reason = extract.doubts.length > 0 ? answers.reason : ''
	const given = { ours: reading.ours, reason, ended: extract.ended }
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
