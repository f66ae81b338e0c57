import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { parseAmount } from '@/core/currency'
import { sharesByOrder } from '@/core/divideBill'
import { type BillContent, billSchema } from '@/core/document'
import { type AnyContent, billsOrders, entering, readContent, verifyContent } from '@/kinds'
import { arrivalCounts, openPracticePost } from '@/post/practiceMail'
import { filesFolder } from '@/runs/files/pdfOf'
import { type Books, inOneReading } from '@/store/books'
import { sealFaults } from '@/store/seals'
import {
	allLines,
	type Bill,
	creditedBill,
	creditedBills,
	databaseSound,
	dividedAndIssued,
	knownRates,
	ledgerHolds,
	messagesOnce,
	numberedAllTheSame,
	numbersOnce,
	numbersWithoutGap,
	ordersOnce,
	practiceSent,
	recordHolds,
	rootsOf,
	type Verdict,
	validBills,
	waits,
} from '@/store/verify'
import { allListed, frozenHashes, type Listed, listedByNumber, oneListed } from '@/store/watch'
import { contentHash } from './contentHash'
import { creditFaults } from './creditFaults'
import { listedFaults } from './watch/listed'
import { partiesKnown, partyFaults, type Then } from './watch/parties'
import { keptRight, messagesRight, recordSealed, registersRight } from './watch/record'
import { sourceFaults } from './watch/sources'

type Verified = Verdict & { check: string }
/** A check over all books; it gets how far it is to be heard of. */
type Look = (books: Books, progress: (done: number) => void) => Verdict
type Options = {
	/** Hears which check is on, and how far it is. */
	onProgress?: (check: string, done: number) => void
}

const checks: [check: string, look: Look][] = [
	['the database is sound', databaseSound],
	['numbers run on without a gap', numbersWithoutGap],
	['registers stand where they were left', registersRight],
	['each number is on one frozen document', numbersOnce],
	['each order is billed once', ordersOnce],
	['each line of an order is on one document, or waits', linesOnce],
	['each document is what was issued', documentsRight],
	['discounts and freight of divided orders add up', sharesHold],
	['credit notes stay within what they credit', creditsWithin],
	['the ledger is what documents and entries make it', ledgerHolds],
	['nothing was numbered that was hindered', numberedAllTheSame],
	['the record speaks of what is there', recordHolds],
	['the record is as it was written', recordSealed],
	['what was set is as the last act left it', sealFaults],
	['what was brought in is as it came', keptRight],
	['each made document has the file that was recorded', filesRight],
	['each message has its file and went once', messagesOnce],
	['each message is as it was written', messagesRight],
	['practice mail arrived once each', arrivedOnce],
]

/**
 * Looks whether the books hold together, reckoned from the sources: the lines of orders, the frozen contents, the entries of the ledger,
 * the record. All of it is read as of one moment; it changes nothing. A check that breaks says so and the others go on.
 */
export const verify = (books: Books, { onProgress = () => {} }: Options = {}): Verified[] =>
	inOneReading(books, () =>
		checks.map(([check, look]) => {
			onProgress(check, 0)
			try {
				return { check, ...look(books, (done) => onProgress(check, done)) }
			} catch (error) {
				const words = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error)
				return { check, looked: 0, wrong: [`could not be looked at: ${words}`] }
			}
		}),
	)

/** What is wrong with the one document of a number, as lists show it; null where there is none. */
export const verifyOne = (books: Books, number: string): string[] | null =>
	inOneReading(books, () => {
		const row = listedByNumber(books, number)
		if (!row) return null
		const content = readContent(row.content)
		return [
			...faultsOf(books, row, content, knownBy(books, frozenHashes(books))),
			...creditsOfOne(books, row),
			...fileFaults(books, row),
		]
	})

/** What a document is frozen with, and the text that it is kept as. */
export type ToFreeze = { content: AnyContent; text: string }

/**
 * What is wrong with a document that was just numbered, before it is committed; empty for nothing. It is read back from the books.
 * @param toFreeze what was to be frozen
 */
export function verifyNumbered(books: Books, id: number, { content, text }: ToFreeze, known: KnownThen): string[] {
	const row = oneListed(books, id)
	if (!row) return [`document ${id} has no number`]
	if (row.content !== text) return [`${row.number} was frozen otherwise than it was numbered`]
	return [...faultsOf(books, row, content, known, () => true), ...creditsOfOne(books, row)]
}

/** What was known when documents were numbered, by the record: customers, the firm, rates of tax. */
type KnownThen = {
	parties: ReturnType<typeof partiesKnown>
	rates: ReturnType<typeof knownRates>
	frozen: ReturnType<typeof frozenHashes>
}
/** @param frozen the hashes of what was issued, where any of it is to be compared */
export const knownBy = (books: Books, frozen: KnownThen['frozen'] = new Map()): KnownThen => ({
	parties: partiesKnown(books),
	rates: knownRates(books),
	frozen,
})

/** What had been recorded before a document was issued: by the record's order, and by the clock for what was issued before it had hashes. */
const asOf = (frozen: KnownThen['frozen'], { id, numbered_at }: Listed): Then => {
	const issued = frozen.get(id)
	return ({ at, event }) => (issued ? event < issued.event : at < numbered_at)
}

/** What of one issued document is otherwise than what determines it. @param then what was known by then */
const faultsOf = (
	books: Books,
	row: Listed,
	content: AnyContent,
	known: KnownThen,
	then: Then = asOf(known.frozen, row),
): string[] => [
	...frozenFaults(known.frozen, row),
	...figureFaults(row, content),
	...listedFaults(row, content),
	...entryFaults(row, content),
	...sourceFaults(books, row, content),
	...partyFaults(known.parties, row, content, then),
	...rateFaults(known.rates, row, content, then),
]

/** The content is, letter by letter, what the record has the hash of from when it was issued. */
function frozenFaults(frozen: KnownThen['frozen'], { id, number, content }: Listed): string[] {
	const hash = frozen.get(id)?.hash
	return hash === undefined || hash === contentHash(content)
		? []
		: [`${number} says something else than when it was issued`]
}

function documentsRight(books: Books, progress: (done: number) => void): Verdict {
	const known = knownBy(books, frozenHashes(books))
	const wrong: string[] = []
	let looked = 0
	for (const row of allListed(books)) {
		wrong.push(...faultsOf(books, row, readContent(row.content), known))
		if (++looked % 1000 === 0) progress(looked)
	}
	return { looked, wrong }
}

function creditsOfOne(books: Books, { id, credits_id, credited: some }: Listed): string[] {
	if (credits_id === null && some === 0) return []
	const credited = creditedBill(books, credits_id ?? id)
	return credited && credited.notes.length > 0 ? creditFaults(credited.bill, credited.notes) : []
}

const billOf = ({ content }: Pick<Bill, 'content'>): BillContent => billSchema.parse(JSON.parse(content))

/** Every line of every order stands on exactly one valid document, or waits: by what the documents say, not by where the books put it. */
function linesOnce(books: Books): Verdict {
	/** Documents that bill a line, by the line's id; those from before lines had ids name its order and its row in the file. */
	const bills = new Map<string, { which: string; names: string[] }>()
	for (const bill of validBills(books)) {
		const { lines, orders } = billOf(bill)
		for (const { line, order, sourceRow } of lines) {
			const key = line === 0 ? `${orders[order]?.id} ${sourceRow}` : String(line)
			const known = bills.get(key) ?? { which: `row ${sourceRow} of order ${orders[order]?.number}`, names: [] }
			known.names.push(bill.number ?? `the draft of ${bill.order_numbers}`)
			bills.set(key, known)
		}
	}
	const wrong: string[] = []
	let looked = 0
	for (const { id, order_id, source_row, number, place } of allLines(books)) {
		looked++
		const keys = [String(id), `${order_id} ${source_row}`]
		const on = keys.flatMap((key) => bills.get(key)?.names ?? [])
		for (const key of keys) bills.delete(key)
		const which = `row ${source_row} of order ${number}`
		if (on.length > 1) wrong.push(`${which} stands on ${on.join(' and ')}`)
		else if (on.length === 1 && place === 'waits') wrong.push(`${which} waits, but stands on ${on[0]}`)
		else if (on.length === 0 && place !== 'waits') wrong.push(`${which} stands on no valid document and does not wait`)
	}
	for (const { which, names } of bills.values()) wrong.push(`${names.join(' and ')} bills ${which}, which is not there`)
	return { looked, wrong }
}

/** Prices a frozen content anew and compares it with what was frozen. */
function figureFaults({ number }: Listed, content: AnyContent): string[] {
	const fault = verifyContent(content)
	return fault ? [`${number} ${fault}`] : []
}

/** What a valid document entered in the ledger is what issuing it enters, in all its fields; what extracts changed since is their word, kept beside it. */
function entryFaults({ number, customer_id, place, entries }: Listed, content: AnyContent): string[] {
	if (entries.length > 1) return [`${number} is in the ledger ${entries.length} times`]
	if (place === 'void' || place === 'replaced') return []
	const due = entering(content)
	const [entered] = entries
	if (!due && !entered) return []
	if (!due) return [`${number} enters nothing, but is in the ledger`]
	if (!entered) return [`${number} is not in the ledger`]
	const facts: [what: string, is: unknown, said: unknown][] = [
		['kind', entered.kind, due.kind],
		['side', entered.side, due.side],
		['number', entered.number, due.number],
		['amount', BigInt(entered.amount), due.amount],
		['currency', entered.currency, content.currency],
		['customer', entered.customer_id, customer_id],
		['due day', entered.due_day, due.dueDay],
		['order', entered.their_order, due.theirOrder],
		['note', entered.note, due.note],
		['name', entered.called, ''],
		['date in an extract', entered.dated, ''],
		['being away', entered.away, 0],
	]
	const wrong = facts.flatMap(([what, is, said]) =>
		is === said
			? []
			: [`${number} stands in the ledger otherwise than it was issued: its ${what} is ${is}, not ${said}`],
	)
	const day = entered.day === due.day || (content.revision > 1 && entered.day > due.day)
	return day
		? wrong
		: [
				...wrong,
				`${number} stands in the ledger otherwise than it was issued: its day is ${entered.day}, not ${due.day}`,
			]
}

/** No line is credited beyond what was billed, and no credit note is dated before its invoice. */
function creditsWithin(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const _ of validBills(books)) looked++
	for (const { bill, notes } of creditedBills(books)) {
		looked += notes.length
		wrong.push(...creditFaults(bill, notes))
	}
	return { looked, wrong }
}

type Shares = Map<string, bigint>

/** The bill that was put on another, where that was kept with it. */
function putOn(kept: string): BillContent[] {
	const { content } = z.object({ content: z.unknown().optional() }).parse(JSON.parse(kept || '{}'))
	return content === undefined ? [] : [billSchema.parse(content)]
}

/** Amounts off and of freight that a bill has for a set of orders, by name; a percent counts by its name and rate. */
function addShares(into: Shares, content: BillContent, ours: (orderId: number) => boolean): { percents: Set<string> } {
	const percents = new Set<string>()
	sharesByOrder(content).forEach(({ discounts, charges }, place) => {
		if (!ours(content.orders[place]?.id ?? 0)) return
		for (const share of [...discounts, ...charges]) {
			const name = 'taxCode' in share ? 'freight' : share.label || 'the order’s discount'
			if ('percent' in share) percents.add(`${name} ${share.percent}%`)
			else into.set(name, (into.get(name) ?? 0n) + parseAmount(share.amount, content.currency, name))
		}
	})
	return { percents }
}

/** What was divided keeps its discounts and freight on the parts together; what was put together keeps those of both. */
function sharesHold(books: Books): Verdict {
	const changes = dividedAndIssued(books)
	const valid = [...validBills(books)]
	if (changes.length === 0) return { looked: valid.length, wrong: [] }
	const roots = rootsOf(books)
	const bills = valid.map((bill) => ({ ...bill, read: billOf(bill) }))
	const wrong: string[] = []
	const seen = new Set<number>()
	for (const { kind, document_id, content_before, kept } of changes) {
		const before = billSchema.parse(JSON.parse(content_before))
		const others = kind === 'merged' ? putOn(kept) : []
		const families = new Set([before, ...others].flatMap(({ orders }) => orders.map(({ id }) => roots.get(id) ?? id)))
		if ([...families].some((root) => seen.has(root))) continue
		for (const root of families) seen.add(root)
		const ours = (orderId: number) => families.has(roots.get(orderId) ?? orderId)
		const was: Shares = new Map()
		const is: Shares = new Map()
		const wanted = [before, ...others].map((content) => addShares(was, content, ours).percents)[0] ?? new Set<string>()
		const on = bills.filter(({ read }) => read.orders.some(({ id }) => ours(id)))
		const issued = bills.find(({ id }) => id === document_id)
		if (on.some(({ number }) => number === null) || !issued) continue
		const names = on.map(({ number }) => number).join(' and ')
		for (const { read, number } of on) {
			const { percents } = addShares(is, read, ours)
			for (const percent of wanted)
				if (!percents.has(percent))
					wrong.push(`${number} has not the ${percent} that its order had before it was divided`)
		}
		// A part that still waits has its share with it.
		const waiting = [...roots].some(
			([id, root]) =>
				families.has(root) && !on.some(({ read }) => read.orders.some((order) => order.id === id)) && waits(books, id),
		)
		for (const [name, amount] of was) {
			const now = is.get(name) ?? 0n
			if (waiting ? now > amount : now !== amount) wrong.push(`${name} was ${amount} before, and is ${now} on ${names}`)
		}
	}
	return { looked: bills.length, wrong }
}

/** Each rate is that of the day that decides it, as it was known when the document was numbered. */
function rateFaults(
	rates: KnownThen['rates'],
	{ number, credits_id }: Listed,
	content: AnyContent,
	then: Then,
): string[] {
	if (!billsOrders(content) || credits_id !== null || content.customer.tax !== 'standard') return []
	const on = (code: string, day: string) =>
		rates
			.filter((known) => known.code === code && then(known) && known.from_day <= day)
			.reduce<(typeof rates)[number] | null>(
				(best, known) => (!best || known.from_day >= best.from_day ? known : best),
				null,
			)?.rate
	// Before the day of supply was kept, the document's day decided; the firm may say that it does.
	const kept = content.supply !== null
	return content.taxCodes.flatMap(({ code, rate }) => {
		const users = content.orders.filter((_, place) => uses(content, place, code))
		const possible = [...(kept ? users.map(({ day }) => day) : []), content.day].flatMap((day) => on(code, day) ?? [])
		return possible.length === 0 || possible.some((one) => Number(one) === Number(rate))
			? []
			: [`${number} has ${code} at ${rate}%, which was ${possible[0]}% on its day`]
	})
}

/** Whether a line or charge of an order is of a tax code. */
const uses = ({ lines, charges }: BillContent, place: number, code: string): boolean =>
	lines.some(({ order, taxCode }) => order === place && taxCode === code) ||
	charges.some((charge) => charge.taxCode === code && ('percent' in charge || charge.order === place))

/** A document's file is there, and is the one that was recorded. */
function fileFaults(books: Books, { number, file_name, file_sha256, files_away_at }: Listed): string[] {
	if (!file_name || !file_sha256 || files_away_at) return []
	const path = join(filesFolder(books), file_name)
	if (!existsSync(path)) return [`${number}: ${file_name} is missing; opening the document makes it again`]
	return createHash('sha256').update(readFileSync(path)).digest('hex') === file_sha256
		? []
		: [`${number}: ${file_name} is not the file that was recorded`]
}

function filesRight(books: Books, progress: (done: number) => void): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const row of allListed(books)) {
		if (!row.file_name || row.files_away_at) continue
		wrong.push(...fileFaults(books, row))
		if (++looked % 1000 === 0) progress(looked)
	}
	return { looked, wrong }
}

function arrivedOnce(books: Books): Verdict {
	const folder = join(books.folder, 'practice-mail')
	if (!existsSync(join(folder, 'practice-mail.db'))) return { looked: 0, wrong: [] }
	const post = openPracticePost(folder)
	const arrived = arrivalCounts(post)
	post.close()
	const sent = practiceSent(books)
	const wrong = sent.flatMap(({ message_id, recipient, number, unsure }) => {
		const times = arrived.get(`${message_id} ${recipient}`) ?? 0
		return times >= 1 && times <= 1 + unsure ? [] : `${number} arrived ${times} times`
	})
	return { looked: sent.length, wrong }
}
