import { createHash } from 'node:crypto'
import { join } from 'node:path'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import { addDays, type Day, daysBetween } from '@/core/calendar'
import { readContent } from '@/kinds'
import type { MailLine } from '@/post/smtp'
import { leaveInPeace, notePromise } from '@/runs/customers/promises'
import { fileOf, type MakeBatch, placeFile } from '@/runs/files/make'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { holdBack, printed, releaseHeld } from '@/runs/recheck/hold'
import { actOnPost } from '@/runs/send/postroom'
import { writeMessages } from '@/runs/send/send'
import { holdUntrue } from '@/runs/statements/beforeSending'
import { startStatements } from '@/runs/statements/start'
import type { Books } from '@/store/books'
import { saveCustomer } from '@/store/customers'
import { addItem } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { inPostroom } from '@/store/postroom'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { line, nextStep, sendRun, work } from './runs'
import { choice, contentOf } from './stated'
import { customer, desk, firmBooks, plainRegister } from './support'
import { walked, walks } from './walks'

// Letters over a year, beside a model that knows only what happened: who owes what since when, what is in dispute, promised, at peace, and which
// letter reached whom on which day. What a draft says is what the model says of its day; what leaves is owed as it leaves, and no letter goes twice.

const stages = [
	{ name: 'Friendly', days: 7, least: 300, leasts: {}, read: false },
	{ name: 'Firm', days: 10, least: 0, leasts: {}, read: false },
	{ name: 'Final', days: 14, least: 2000, leasts: {}, read: false },
]
type Item = {
	id: number
	day: Day
	due: Day
	pence: number
	paid: { day: Day; pence: number }[]
	disputes: [Day, Day | null][]
}
type Firm = {
	id: number
	items: Item[]
	credits: { day: Day; pence: number }[]
	promises: { day: Day; left: number }[]
	peace: Day
	letters: { stage: number; day: Day }[]
}
type Model = { firms: Firm[]; runs: number[]; left: number; letters: number; told: Set<number> }

const sum = <One>(some: readonly One[], of: (one: One) => number) => some.reduce((total, one) => total + of(one), 0)
const openOn = (item: Item, on: Day) =>
	item.day > on ? 0 : item.pence - sum(item.paid, ({ day, pence }) => (day <= on ? pence : 0))
const disputedOn = ({ disputes }: Item, on: Day) =>
	disputes.some(([since, ended]) => since <= on && (ended === null || on < ended))
const lateItems = ({ items }: Firm, on: Day) =>
	items.filter((item) => item.due < on && !disputedOn(item, on) && openOn(item, on) > 0)
const lateOn = (firm: Firm, on: Day) => sum(lateItems(firm, on), (item) => openOn(item, on))
const creditsOn = ({ credits }: Firm, on: Day) => sum(credits, ({ day, pence }) => (day <= on ? pence : 0))
const balanceOn = (firm: Firm, on: Day) => sum(firm.items, (item) => openOn(item, on)) - creditsOn(firm, on)
function askedOn(firm: Firm, on: Day): number {
	const owed = Math.max(0, lateOn(firm, on) - creditsOn(firm, on))
	return (
		owed -
		Math.min(
			owed,
			sum(firm.promises, ({ day, left }) => (day >= on ? left : 0)),
		)
	)
}
/** Letters that count on a day: those since the last day on which nothing was past due. */
function lettersOn(firm: Firm, on: Day): Firm['letters'] {
	const first = firm.letters.map(({ day }) => day).sort()[0]
	if (first === undefined) return []
	let day = on
	while (day >= first && lateOn(firm, day) > 0) day = addDays(day, -1)
	return firm.letters.filter((letter) => day < first || letter.day > day)
}
/** The letter that a firm gets in a draft as of a day; 0 for none. */
function stageOn(firm: Firm, on: Day): number {
	const late = lateItems(firm, on)
	const asked = askedOn(firm, on)
	if (late.length === 0 || asked === 0 || (firm.peace !== '' && firm.peace >= on)) return 0
	const letters = lettersOn(firm, on)
	const last = letters.sort((a, b) => a.stage - b.stage || (a.day < b.day ? -1 : 1)).at(-1)
	const next = stages[last?.stage ?? 0]
	const oldest = Math.max(...late.map((item) => daysBetween(item.due, on)))
	if (!next || asked < next.least) return 0
	if (last ? addDays(last.day, next.days) > on : oldest < next.days) return 0
	return (last?.stage ?? 0) + 1
}
const pence = (text: string) => Math.round(Number(text) * 100)
const pounds = (amount: number) => (amount / 100).toFixed(2)

/** Files without drawing: what is on a page is another test's. */
const makeBatch = async ({ folder, runId, documents }: MakeBatch) =>
	documents.map(({ id, content: text }) => {
		const name = fileOf(runId, readContent(text))
		const bytes = Buffer.from(`%PDF-1.7 ${id}`)
		placeFile(join(folder, name), bytes)
		const file_sha256 = createHash('sha256').update(bytes).digest('hex')
		return { id, file_name: name, file_sha256, file_size: bytes.length, pages: 1, beside: [] }
	})

function world(firms: number): { books: Books; model: Model } {
	const books = firmBooks()
	saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 4, next: 1 })
	changeSettings(books, desk, { stages, workDate: '2026-01-02' })
	for (let at = 0; at < firms; at++)
		saveCustomer(books, desk, customer(`F${at}`, { email: at % 5 === 4 ? '' : `f${at}@firm.example` }))
	const ids = books.db.prepare<[], number>(`SELECT id FROM customer WHERE number LIKE 'F%' ORDER BY id`).pluck().all()
	const plain = { items: [], credits: [], promises: [], peace: '', letters: [] }
	return {
		books,
		model: {
			firms: ids.map((id) => ({ ...structuredClone(plain), id })),
			runs: [],
			left: 0,
			letters: 0,
			told: new Set(),
		},
	}
}

/** What leaves to a firm, or is posted, is true of its day, owed today, and the next of its letters. */
function leaves(books: Books, model: Model, firm: Firm, document: number, today: Day): number {
	const content = contentOf(books, document)
	model.left++
	expect([content.number, pence(content.balance)]).toEqual([content.number, balanceOn(firm, content.day)])
	if (content.stage === 0) return 0
	model.letters++
	const said = `${content.number} to ${firm.id} as of ${content.day} on ${today}, stage ${content.stage}`
	expect([said, pence(content.asked) <= askedOn(firm, today)]).toEqual([said, true])
	expect([said, firm.peace >= today]).toEqual([said, false])
	for (const { id, pastDue, open } of content.items.filter((item) => item.pastDue && pence(item.open) > 0)) {
		const item = firm.items.find((one) => one.id === id)
		expect([said, id, item ? openOn(item, today) : 0, item && disputedOn(item, today)]).toEqual([
			said,
			id,
			pence(open),
			false,
		])
		expect(pastDue).toBe(true)
	}
	const before = Math.max(0, ...lettersOn(firm, today).map(({ stage }) => stage))
	expect([said, content.stage]).toEqual([said, before + 1])
	return content.stage
}

type Step = { act: string; firm: number; pick: number; pence: number; ahead: number }
const outcomes = ['sent', 'sent', 'unsure', 'sent', 'sent', 'sent', 'refused', 'sent', 'sent', 'away', 'sent'] as const

async function take(
	books: Books,
	model: Model,
	{ act, firm: at, pick, pence: amount }: Step,
	today: Day,
): Promise<void> {
	const firm = model.firms[at % model.firms.length]
	if (!firm) return
	const open = firm.items.filter((item) => openOn(item, today) > 0 && openOn(item, '9999-12-31') > 0)
	const item = open[pick % Math.max(1, open.length)]
	// One of the last two, and now and then an old one.
	const run =
		model.runs.at(pick % 5 === 0 ? pick % Math.max(1, model.runs.length) : -1 - ((pick >> 3) % 2)) ??
		model.runs.at(-1) ??
		0
	const rows = () => benchRows(books, run)
	const firmOf = (document: number) =>
		model.firms.find(({ id }) => id === rows().find((row) => row.id === document)?.customer_id)
	const reached = (document: number, stage: number) => {
		const content = contentOf(books, document)
		if (stage > 0) firmOf(document)?.letters.push({ stage, day: content.day > today ? content.day : today })
	}
	const pay = (to: 'nothing' | number[], sum: number) => {
		const given = { customer: firm.id, day: today, amount: pounds(sum), currency: 'GBP', reference: `P${pick}`, to }
		expect(enterPayment(books, desk, paymentSchema.parse({ ...given, sure: ['again', 'ahead'] }))).toMatchObject({
			ok: true,
		})
		let left = sum
		for (const promise of [...firm.promises].sort((a, b) => (a.day < b.day ? -1 : 1))) {
			const part = Math.min(left, promise.left)
			promise.left -= part
			left -= part
		}
	}
	if (act === 'owe') {
		const due = addDays(today, (pick % 50) - 35)
		const id = addItem(books, desk, {
			...{
				customer_id: firm.id,
				kind: 'invoice',
				side: 'debit',
				number: `I-${firm.id}-${firm.items.length}`,
				day: today,
			},
			...{
				due_day: due,
				currency: 'GBP',
				amount,
				their_order: '',
				note: '',
				document_id: null,
				extract_id: null,
			},
		})
		firm.items.push({ id, day: today, due, pence: amount, paid: [], disputes: [] })
	} else if (act === 'pay' && item) {
		const part = pick % 3 === 0 ? Math.max(1, Math.floor(openOn(item, today) / 2)) : openOn(item, today)
		pay([item.id], part)
		item.paid.push({ day: today, pence: part })
	} else if (act === 'on account') {
		pay('nothing', Math.max(1, Math.floor(amount / 8)))
		firm.credits.push({ day: today, pence: Math.max(1, Math.floor(amount / 8)) })
	} else if (act === 'dispute' && item) {
		const going = item.disputes.find(([, ended]) => ended === null)
		expect(setDispute(books, desk, item.id, going ? '' : 'torn')).toMatchObject({ ok: true })
		if (going) going[1] = today
		else item.disputes.push([today, null])
	} else if (act === 'promise') {
		const day = addDays(today, pick % 20)
		if (notePromise(books, desk, { customer: firm.id, day, amount: pounds(amount), currency: 'GBP', note: '' }).ok)
			firm.promises.push({ day, left: amount })
	} else if (act === 'peace') {
		firm.peace = pick % 3 === 0 ? '' : addDays(today, pick % 15)
		expect(leaveInPeace(books, desk, firm.id, firm.peace, firm.peace && 'flood')).toMatchObject({ ok: true })
	} else if (act === 'run') await gather(books, model, pick, today)
	else if (act === 'number' && run) {
		// What is no longer true is shown first, and is not numbered; asked again, the rest is.
		for (let again = 0; again < 2; again++)
			numberDocuments(books, desk, run, rows().filter(({ place }) => place === 'to number').length)
		await nextStep(books, run, { makeBatch })
	} else if (act === 'send' && run) {
		holdUntrue(books, desk, run)
		writeMessages(books, desk, run)
		let turn = pick
		const plain = line('sent')
		const watching: MailLine = {
			...plain,
			send: async (envelope, raw) => {
				const going = books.db
					.prepare<[], number>(`SELECT document_id FROM message WHERE state = 'sending' ORDER BY id`)
					.pluck()
					.all()
					.find((id) => envelope.to.includes(rows().find((row) => row.id === id)?.email ?? '-'))
				const to = going && firmOf(going)
				const stage = going && to ? leaves(books, model, to, going, today) : 0
				const outcome = outcomes[turn++ % outcomes.length] ?? 'sent'
				// While the others wait, somebody pays, disputes, promises, or gets peace.
				const between = ['pay', 'dispute', 'promise', 'peace', 'on account'][turn % 7]
				if (between)
					await take(books, model, { act: between, firm: at + turn, pick: pick + turn, pence: amount, ahead: 0 }, today)
				const answer = await line(outcome).send(envelope, raw)
				if (going && outcome === 'sent') reached(going, stage)
				return answer
			},
		}
		await sendRun(books, desk, run, [watching])
		for (const row of rows().filter(({ place }) => place === 'to print')) {
			if (pick % 4 === 0) continue
			const to = firmOf(row.id)
			// One that is no longer true is said to be so; noted once more, it went all the same, and counts.
			if (!printed(books, desk, row.id).ok) model.told.add(row.id)
			else if (to)
				reached(
					row.id,
					model.told.has(row.id) ? contentOf(books, row.id).stage : leaves(books, model, to, row.id, today),
				)
		}
	} else if (act === 'post') {
		for (const row of inPostroom(books, { words: '', state: pick % 2 ? 'unsure' : 'refused' })) {
			const say = pick % 3 === 0 ? 'arrived' : 'again'
			const done = actOnPost(books, desk, { rows: [{ id: row.id, copy: row.copy }] }, say, '')
			if (!done.ok || say === 'again' || row.post !== 'unsure') continue
			const content = contentOf(books, row.document_id)
			const of = model.firms.find(({ id }) =>
				benchRows(books, row.run_id).some((one) => one.id === row.document_id && one.customer_id === id),
			)
			if (content.stage > 0) of?.letters.push({ stage: content.stage, day: content.day > today ? content.day : today })
		}
	} else if (act === 'hold' && run) {
		const held = rows().filter(({ place }) => place === 'to number')
		const one = held[pick % Math.max(1, held.length)]
		if (one) holdBack(books, desk, one.id, 'ask first')
	} else if (act === 'release' && run)
		for (const row of rows()) if (row.place === 'held' && pick % 2) releaseHeld(books, desk, row.id)
	if (act === 'void' && run) {
		const made = rows().filter(({ number }) => number !== null)
		const one = made[pick % Math.max(1, made.length)]
		if (one) voidDocument(books, desk, one.id, 'not so')
	}
}

/** Starts a run as of today or some days before, and compares every draft with what the model says. */
async function gather(books: Books, model: Model, pick: number, today: Day): Promise<void> {
	const asOf = addDays(today, -(pick % 5))
	const show = pick % 2 ? 'past-due' : 'all'
	const waiting = new Set(
		books.db
			.prepare<[], number>(
				`SELECT d.customer_id FROM placed d JOIN run r ON r.id = d.run_id WHERE r.state = 'open' AND d.kind = 'statement' AND d.stage > 0
					AND d.place NOT IN ('held', 'void', 'replaced', 'dropped', 'sent', 'printed')`,
			)
			.pluck()
			.all(),
	)
	const started = startStatements(books, desk, choice({ asOf, show, least: 0 }), true)
	if (!started.ok || !started.id) return
	await work(books, { makeBatch })
	model.runs.push(started.id)
	for (const row of benchRows(books, started.id)) {
		const firm = model.firms.find(({ id }) => id === row.customer_id)
		if (!firm) continue
		const content = contentOf(books, row.id)
		const stage = waiting.has(firm.id) ? 0 : stageOn(firm, asOf)
		const asked = askedOn(firm, asOf)
		const name = `firm ${firm.id} as of ${asOf} on ${today}, ${show}: ${content.spared}`
		expect([name, pence(content.balance), pence(content.asked), content.stage]).toEqual([
			name,
			balanceOn(firm, asOf),
			asked,
			stage,
		])
	}
}

test('over a year, every letter goes to whom it should, for what is owed as it leaves, and never twice', async () => {
	const acts = [
		...[
			'owe',
			'owe',
			'owe',
			'owe',
			'owe',
			'owe',
			'pay',
			'pay',
			'on account',
			'dispute',
			'promise',
			'peace',
			'run',
			'run',
			'run',
		],
		...['number', 'number', 'number', 'number', 'send', 'send', 'send', 'send', 'post', 'hold', 'release', 'void'],
	]
	const step = fc.record({
		...{ act: fc.constantFrom(...acts), firm: fc.nat(1000), pick: fc.nat(10_000) },
		...{ pence: fc.integer({ min: 100, max: 9000 }), ahead: fc.constantFrom(0, 0, 0, 1, 1, 2, 3, 5) },
	})
	const firms = Number(process.env.FIRMS ?? 10)
	const went = { all: 0, letters: 0 }
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 200, maxLength: 240 }), async (steps) => {
			const { books, model } = world(firms)
			let today: Day = '2026-01-02'
			for (const one of steps) {
				today = addDays(today, one.ahead)
				changeSettings(books, desk, { workDate: today })
				await take(books, model, one, today)
			}
			went.all += model.left
			went.letters += model.letters
			const wrong = verify(books).filter(({ check }) => check !== 'what was set is as the last act left it')
			expect(wrong.flatMap((one) => one.wrong)).toEqual([])
			books.db.close()
			walked()
		}),
		{ numRuns: walks(3), endOnFailure: true, seed: process.env.SEED ? Number(process.env.SEED) : undefined },
	)
	if (process.env.HISTORIES) console.log(went)
	expect(went.letters).toBeGreaterThan(walks(3))
})
