import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { amountText, parseAmount } from '@/core/currency'
import { sharesByOrder } from '@/core/divideBill'
import { type BillContent, billSchema } from '@/core/document'
import { type AnyContent, billsOrders, entering, isBill, readContent, verifyContent } from '@/kinds'
import { arrivalCounts, openPracticePost } from '@/post/practiceMail'
import { filesFolder } from '@/runs/files/pdfOf'
import type { Books } from '@/store/books'
import {
	allLines,
	type Bill,
	creditedBill,
	creditedBills,
	databaseSound,
	dividedAndIssued,
	enteredFor,
	type Issued,
	issuedDocument,
	issuedDocuments,
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
import { creditFaults } from './creditFaults'

type Verified = Verdict & { check: string }

/**
 * Looks whether the books hold together, reckoned from the sources: the lines of orders, the frozen contents, the entries of the ledger,
 * the record. Works on any books at any time and changes nothing; a check that breaks says so and the others go on.
 */
export function verify(books: Books): Verified[] {
	const checks: [check: string, look: (books: Books) => Verdict][] = [
		['the database is sound', databaseSound],
		['numbers run on without a gap', numbersWithoutGap],
		['each number is on one frozen document', numbersOnce],
		['each order is billed once', ordersOnce],
		['each line of an order is on one document, or waits', linesOnce],
		['each figure is what its document comes to', figuresRight],
		['discounts and freight of divided orders add up', sharesHold],
		['credit notes stay within what they credit', creditsWithin],
		['the ledger is what documents and entries make it', ledgerRight],
		['nothing was numbered that was hindered', hinderedNot],
		['the record speaks of what is there', recordHolds],
		['each made document has the file that was recorded', filesRight],
		['each message has its file and went once', messagesOnce],
		['practice mail arrived once each', arrivedOnce],
	]
	return checks.map(([check, look]) => {
		try {
			return { check, ...look(books) }
		} catch (error) {
			const words = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error)
			return { check, looked: 0, wrong: [`could not be looked at: ${words}`] }
		}
	})
}

/**
 * What is wrong with a document that was just numbered, before it is committed; empty for nothing. It is read back from the books.
 * @param content what was to be frozen
 */
export function verifyNumbered(books: Books, id: number, content: AnyContent): string[] {
	const issued = issuedDocument(books, id)
	if (!issued) return [`document ${id} has no number`]
	if (issued.content !== JSON.stringify(content)) return [`${issued.number} was frozen otherwise than it was numbered`]
	const credited = issued.credits_id === null ? null : creditedBill(books, issued.credits_id)
	return [
		...figureFaults(issued, content),
		...entryFaults(books, issued, content),
		...(credited ? creditFaults(credited.bill, credited.notes) : []),
	]
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

/** Prices a frozen content anew and compares it with what was frozen and with what the lists show. */
function figureFaults({ number, net, tax, total }: Issued, content: AnyContent): string[] {
	const fault = verifyContent(content)
	if (fault) return [`${number} ${fault}`]
	if (!isBill(content)) return []
	const shown = [net, tax, total].map((minor) => amountText(BigInt(minor), content.currency))
	const { priced } = content
	return [priced.net, priced.taxTotal, priced.total].join() === shown.join()
		? []
		: [`${number} is listed with other figures than were frozen`]
}

/** What a valid document entered in the ledger is what issuing it enters. */
function entryFaults(books: Books, { id, number, customer_id, place }: Issued, content: AnyContent): string[] {
	if (place === 'void' || place === 'replaced') return []
	const due = entering(content)
	const entered = enteredFor(books, id)
	if (!due && !entered) return []
	if (!due) return [`${number} enters nothing, but is in the ledger`]
	if (!entered) return [`${number} is not in the ledger`]
	const same =
		entered.side === due.side &&
		BigInt(entered.amount) === due.amount &&
		entered.currency === content.currency &&
		entered.customer_id === customer_id &&
		(entered.day === due.day || (content.revision > 1 && entered.day > due.day))
	return same ? [] : [`${number} stands in the ledger otherwise than it was issued`]
}

function figuresRight(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const issued of issuedDocuments(books)) {
		looked++
		wrong.push(...figureFaults(issued, readContent(issued.content)))
	}
	return { looked, wrong }
}

function ledgerRight(books: Books): Verdict {
	const { looked, wrong } = ledgerHolds(books)
	const faults: string[] = []
	for (const issued of issuedDocuments(books)) faults.push(...entryFaults(books, issued, readContent(issued.content)))
	return { looked, wrong: [...wrong, ...faults] }
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

/** What was known when a bill was numbered did not hinder it: holds, closed books, the rate of its day. */
function hinderedNot(books: Books): Verdict {
	const { looked, wrong } = numberedAllTheSame(books)
	const rates = knownRates(books)
	const faults: string[] = []
	for (const { number, content, numbered_at, credits_id } of issuedDocuments(books)) {
		const read = readContent(content)
		if (!billsOrders(read) || credits_id !== null || read.customer.tax !== 'standard') continue
		// Before the day of supply was kept, the document's day decided.
		const days = read.supply === null ? [read.day] : [read.day, ...read.orders.map(({ day }) => day)]
		for (const { code, rate } of read.taxCodes) {
			const on = (day: string) =>
				rates
					.filter((known) => known.code === code && known.at < numbered_at && known.from_day <= day)
					.reduce<(typeof rates)[number] | null>(
						(best, known) => (!best || known.from_day >= best.from_day ? known : best),
						null,
					)
			const possible = days.flatMap((day) => on(day)?.rate ?? [])
			if (possible.length > 0 && !possible.some((one) => Number(one) === Number(rate)))
				faults.push(`${number} has ${code} at ${rate}%, which was ${possible[0]}% on its day`)
		}
	}
	return { looked, wrong: [...wrong, ...faults] }
}

function filesRight(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const { number, file_name, file_sha256, files_away_at } of issuedDocuments(books)) {
		if (!file_name || !file_sha256 || files_away_at) continue
		looked++
		const path = join(filesFolder(books), file_name)
		if (!existsSync(path)) wrong.push(`${number}: ${file_name} is missing; opening the document makes it again`)
		else if (createHash('sha256').update(readFileSync(path)).digest('hex') !== file_sha256)
			wrong.push(`${number}: ${file_name} is not the file that was recorded`)
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
