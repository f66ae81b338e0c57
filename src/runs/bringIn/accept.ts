import { amountText } from '@/core/currency'
import { ownText, readOwn } from '@/core/ownFields'
import { correctedRows } from '@/intake/corrected'
import type { IntakePayment } from '@/intake/payments'
import { type Reading, readingSchema } from '@/intake/reading'
import { settled } from '@/intake/settled'
import { type Books, inOneStep } from '@/store/books'
import { itemSchema, saveItem, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { correctionsOf, leftOutOf } from '@/store/corrections'
import { customerSchema, saveCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import {
	type Acceptance,
	acceptancesOf,
	endAcceptance,
	goingAcceptance,
	markAccepted,
	reachAcceptance,
	readFile,
	type SourceFile,
	setReview,
} from '@/store/files'
import {
	attachSheet,
	clearStopped,
	enterStaged,
	ordersOfAcceptance,
	ordersOfNumber,
	putAway,
} from '@/store/orderIntake'
import { readSettings } from '@/store/settings'
import {
	isWhole,
	openSheet,
	recordsIn,
	rowsIn,
	type Sheet,
	type SheetRecord,
	sheetPath,
	stagedCount,
	stagedOrders,
} from '@/store/sheet'
import { acceptExtract } from '../extract'
import { enterPayment } from '../ledger'
import { askToLookAgain } from '../mend'
import { knownBooks, stampOf } from './knownBooks'
import { keepReader } from './readerActs'
import { type Answers, openQuestions, type Review, readAnswers, reviewOf } from './review'
import { Stopped, takeFile, type Watch } from './take'
import { extractIn } from './takeOpenItems'

export type Accepted = { ok: true; words: string } | { ok: false; message: string }
const no = (message: string): Accepted => ({ ok: false, message })

/** Lets others write between two steps. */
const breathe = () => new Promise((resolve) => setTimeout(resolve, 1))
const stepSize = 1000

/**
 * Puts what a file would bring into the books: what the clerk had in view, no other. Where the books changed since, it is worked out anew,
 * and accepted only if it comes out the same. Its orders come in step by step and count all at once, when the last is in; one that was torn
 * goes on where it was.
 * @param seen the outcome that the clerk had in view
 */
export async function acceptFile(
	books: Books,
	desk: Desk,
	fileId: number,
	seen: string,
	watch: Watch,
): Promise<Accepted> {
	const file = readFile(books, fileId)
	if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
	const going = acceptancesOf(books, fileId).find(({ state }) => state === 'going')
	const ready = going ? freshReview(books, file) : await readyReview(books, file, seen, watch)
	if (!ready.ok) return ready
	const { review } = ready
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const answers = readAnswers(file.answers)
	const sheet = openSheet(books.folder, fileId)
	try {
		if (!isWhole(sheet)) return no('What was read of this file is lost. Read it again.')
		if (reading.kind === 'orders') return await acceptOrders(books, desk, file, sheet, review, answers, watch)
		return acceptOthers(books, desk, file, sheet, review, reading, answers)
	} finally {
		sheet.close()
	}
}

type Ready = { ok: true; review: Review } | { ok: false; message: string }

function freshReview(books: Books, { id }: SourceFile): Ready {
	const review = reviewOf(readFile(books, id) ?? { review: null })
	return review ? { ok: true, review } : no_('What it would bring is being worked out. Look again in a moment.')
}
const no_ = (message: string): Ready => ({ ok: false, message })

async function readyReview(books: Books, file: SourceFile, seen: string, watch: Watch): Promise<Ready> {
	const before = freshReview(books, file)
	if (!before.ok) return before
	if (before.review.digest.startsWith('accepted ')) return no_('All that can be taken of it is in the books.')
	if (before.review.digest !== seen)
		return no_('It was changed since you looked. Look at it again, and accept it then.')
	const open = openQuestions(before.review, readAnswers(file.answers))
	if (open.length > 0 || before.review.missing.length > 0)
		return no_('A question is open, or a column is missing. Answer it first.')
	if (before.review.extract?.hindered) return no_(before.review.extract.hindered)
	if (before.review.stamp === stampOf(books)) return before
	const review = takeFile(books, file.id, watch)
	if (!review) return no_('What it would bring could not be worked out.')
	return review.digest === seen
		? { ok: true, review }
		: no_('The books changed since you looked, and it comes out otherwise now. Look at it again, and accept it then.')
}

const restWords = (review: Review): string =>
	review.rows.refused === 0
		? ''
		: `; ${review.rows.refused === 1 ? 'one row was' : `${review.rows.refused} rows were`} refused`

async function acceptOrders(
	books: Books,
	desk: Desk,
	file: SourceFile,
	sheet: Sheet,
	review: Review,
	answers: Answers,
	watch: Watch,
): Promise<Accepted> {
	const { freightTaxCode } = readSettings(books)
	const acceptance = inOneStep(books, () => goingAcceptance(books, desk, file.id))
	const total = stagedCount(sheet)
	const met: string[] = []
	const detach = attachSheet(books, sheetPath(books.folder, file.id))
	try {
		for (let reached = acceptance.reached; reached < total; ) {
			const to = Math.min(reached + stepSize, total)
			const step: [number, number] = [reached, to]
			inOneStep(books, () => {
				const entered = enterStaged(books, file.id, acceptance.id, 'new', step, freightTaxCode)
				met.push(...entered.met.map((number) => `order ${number}`))
				reachAcceptance(books, acceptance.id, to)
			})
			reached = to
			watch.seen(reached, total)
			await breathe()
		}
		return inOneStep(books, () => allAreIn(books, desk, file, sheet, acceptance, review, answers, freightTaxCode, met))
	} catch (error) {
		if (error instanceof Stopped) await stop(books, acceptance)
		throw error
	} finally {
		detach()
	}
}

/** From now on the orders of an accepting count; amended ones take the place of those that wait. */
function allAreIn(
	books: Books,
	desk: Desk,
	file: SourceFile,
	sheet: Sheet,
	acceptance: Acceptance,
	review: Review,
	answers: Answers,
	freightTaxCode: string,
	met: string[],
): Accepted {
	const replaced =
		answers.amended === 'replace' ? replaceWaiting(books, desk, file, acceptance, sheet, freightTaxCode, met) : 0
	const { orders, lines } = ordersOfAcceptance(books, acceptance.id)
	const known = review.standings.known ?? 0
	const parts = [
		`${orders === 1 ? '1 order' : `${orders} orders`} with ${lines === 1 ? '1 line was' : `${lines} lines were`} added`,
		...(replaced > 0 ? [`${replaced} of them in place of waiting ones`] : []),
		...(known > 0 ? [known === 1 ? '1 was here already' : `${known} were here already`] : []),
		...(met.length > 0 ? [`${met.length} had come in meanwhile and were not: ${met.slice(0, 3).join('; ')}`] : []),
	]
	const words = `${parts.join('; ')}${restWords(review)}.`
	endAcceptance(books, acceptance.id, 'done', words)
	const { new: fresh = 0, changed = 0, 'of another': others = 0 } = review.standings
	const left = changed - replaced
	return finish(books, desk, file, words, {
		...review,
		standings: { known: known + fresh + others + replaced, ...(left > 0 ? { changed: left } : {}) },
	})
}

/** Removes what came in of an accepting that is stopped; none of it ever counted. */
async function stop(books: Books, acceptance: Acceptance): Promise<void> {
	inOneStep(books, () => endAcceptance(books, acceptance.id, 'stopped', 'Stopped; nothing of it is in the books.'))
	while (inOneStep(books, () => clearStopped(books, acceptance.id, stepSize)) > 0) await breathe()
}

/** Puts amended orders in the place of those that wait; one that a run took meanwhile stays as it is. */
function replaceWaiting(
	books: Books,
	desk: Desk,
	file: SourceFile,
	acceptance: Acceptance,
	sheet: Sheet,
	freightTaxCode: string,
	met: string[],
): number {
	let replaced = 0
	let after = 0
	for (;;) {
		const staged = stagedOrders(sheet, 'changed', after, stepSize)
		const last = staged.at(-1)
		if (!last) return replaced
		after = last.seq
		for (const { seq, number, replaces } of staged) {
			const before = ordersOfNumber(books, number).find(({ id }) => id === replaces)
			if (before?.place !== 'waits' || !putAway(books, desk, before.id, 'replaced', `amended by ${file.name}`)) {
				met.push(`order ${number}, which waits no more`)
				continue
			}
			const { entered, met: stands } = enterStaged(
				books,
				file.id,
				acceptance.id,
				'changed',
				[seq - 1, seq],
				freightTaxCode,
			)
			replaced += entered
			met.push(...stands.map((one) => `order ${one}`))
		}
	}
}

/** What was taken is in the books now: of the file there is nothing left to bring but what is mended yet. */
function finish(books: Books, desk: Desk, file: SourceFile, words: string, left: Review): Accepted {
	markAccepted(books, desk, file.id, words)
	keepReader(books, desk, file.id, left.decided)
	setReview(books, file.id, JSON.stringify({ ...left, digest: `accepted ${left.digest}`, stamp: '' }))
	record(books, desk, { subject: 'file', id: file.id, act: 'accepted the file', detail: words })
	return { ok: true, words }
}

function acceptOthers(
	books: Books,
	desk: Desk,
	file: SourceFile,
	sheet: Sheet,
	review: Review,
	reading: Reading,
	answers: Answers,
): Accepted {
	return inOneStep(books, (): Accepted => {
		const acceptance = goingAcceptance(books, desk, file.id)
		const words =
			reading.kind === 'payments'
				? enterPayments(books, desk, sheet, review, reading, answers)
				: reading.kind === 'open items'
					? enterExtract(books, desk, file, sheet, reading)
					: enterRecords(books, desk, sheet, review, reading)
		endAcceptance(books, acceptance.id, 'done', words)
		return finish(books, desk, file, words, { ...review, standings: {}, payments: [] })
	})
}

function* eachRecord(sheet: Sheet): Generator<SheetRecord> {
	for (let after = 0; ; ) {
		const records = recordsIn(sheet, null, after, 1000)
		const last = records.at(-1)
		if (!last) return
		after = last.seq
		yield* records
	}
}

function enterPayments(
	books: Books,
	desk: Desk,
	sheet: Sheet,
	review: Review,
	reading: Reading,
	answers: Answers,
): string {
	let entered = 0
	for (const { standing, body } of eachRecord(sheet)) {
		if (standing === 'again' && answers.twice !== 'enter') continue
		const payment: IntakePayment = JSON.parse(body)
		const outcome = enterPayment(books, desk, {
			customer: payment.customerId,
			day: payment.day,
			amount: amountText(BigInt(payment.amount), payment.currency),
			currency: payment.currency,
			reference: payment.reference,
			to: reading.to,
		})
		if (!outcome.ok) throw new Error(outcome.message)
		entered++
	}
	const left =
		(review.standings.again ?? 0) > 0 && answers.twice !== 'enter'
			? `; ${review.standings.again} were entered before`
			: ''
	return `${entered} payments were entered${left}${restWords(review)}.`
}

function enterExtract(books: Books, desk: Desk, file: SourceFile, sheet: Sheet, reading: Reading): string {
	const known = knownBooks(books)
	const leftOut = new Set(leftOutOf(books, file.id).map(({ row }) => row))
	const rows = correctedRows(rowsIn(sheet), correctionsOf(books, file.id), leftOut, reading.lineFrom)
	const evidence = JSON.parse(file.look ?? '{}').evidence ?? []
	const extract = extractIn(books, file.id, rows, reading, settled(rows, reading, evidence, known.own), known)
	return acceptExtract(books, desk, file.id, extract, reading.ours)
}

function enterRecords(books: Books, desk: Desk, sheet: Sheet, review: Review, reading: Reading): string {
	const counts = { added: 0, changed: 0, same: 0 }
	for (const { body } of eachRecord(sheet)) {
		const fields: { own?: string } = JSON.parse(body)
		if (reading.kind === 'customers') counts[saveCustomer(books, desk, customerSchema.parse(fields))]++
		else if (reading.kind === 'items')
			counts[saveItem(books, desk, itemSchema.parse({ ...fields, own: ownText(readOwn(fields.own ?? '{}')) }))]++
		else counts[saveTaxRate(books, desk, taxRateSchema.parse(fields))]++
	}
	if (counts.added + counts.changed > 0) askToLookAgain(books, desk, `a file of ${reading.kind}`)
	return `${counts.added} ${reading.kind} were added, ${counts.changed} changed, ${counts.same} were the same${restWords(review)}.`
}
