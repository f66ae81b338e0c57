import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import type { Outcome } from '@/core/outcome'
import { panelOf } from '@/runs/bench/panel'
import { startRun } from '@/runs/bench/steps'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { divideDraft } from '@/runs/drafts/divide'
import { mergeDrafts } from '@/runs/drafts/merge'
import { undoChange } from '@/runs/drafts/undo'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { reviseDocument } from '@/runs/issue/revise'
import { voidDocument } from '@/runs/issue/void'
import { undoAct } from '@/runs/receivables/acts'
import { writeOff } from '@/runs/receivables/writeOff'
import { holdBack } from '@/runs/recheck/hold'
import type { Books } from '@/store/books'
import { saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { saveCustomer } from '@/store/customers'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { billed, gatherRun } from './runs'
import { bringOrders, company, customer, desk, emptyBooks, firmBooks, plainRegister } from './support'

// What a refusal of an act on documents says to do is done, and the act is refused no more for that. Over every such refusal of the sources.

const source = join(import.meta.dirname, '../src/runs')
/** Words by which a refusal says what to do. */
const remedial =
	/(?:[.;] |^)(?:To \w+|Credit|Take|Make|Change|Open|Give|Say|Bring|Look|Stop|Withdraw|Correct|Something|credit|revise|divide|hold|make|look|write|change|to change)\b/
/** What acts on documents refuse by, as the sources have it, where it says what to do. */
const refusals = ['drafts', 'issue', 'recheck', 'bench'].flatMap((room) =>
	readdirSync(join(source, room))
		.filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts'))
		.flatMap((name) =>
			[
				...readFileSync(join(source, room, name), 'utf8').matchAll(
					/(?:\bno\(|message: |\breturn |[?:] )\s*(['`])((?:(?!\1)[^\n])+)\1/g,
				),
			]
				.map(([, , words]) => words ?? '')
				.filter((words) => /^[A-Z$].{8,}\.$/.test(words) && remedial.test(words)),
		),
)

const sources = ['drafts', 'issue', 'recheck', 'bench']
	.flatMap((room) =>
		readdirSync(join(source, room))
			.filter((name) => name.endsWith('.ts'))
			.map((name) => readFileSync(join(source, room, name), 'utf8')),
	)
	.join('\n')
const idOf = (books: Books, run: number, place = 0) => benchRows(books, run)[place]?.id ?? 0
const two = [
	'1,03/10/2026,A1,,Line,10,2.10,,STD,,',
	'1,03/10/2026,A1,,Other,4,2.00,,STD,,',
	'2,03/10/2026,A1,,More,3,2.00,,STD,,',
]
const change = (books: Books, id: number, more: object) => {
	const view = panelOf(books, id)
	const lines = (view?.lines ?? []).map(({ order: _, item: __, ...line }, place) => ({ ...line, line: place }))
	const { due_day: dueDay, email } = view?.document ?? { due_day: '', email: '' }
	return changeSchema.parse({ lines, dueDay, email, reason: 'as it says', ...more })
}
const priced = (books: Books, id: number, unitPrice: string) => {
	const given = change(books, id, {})
	return { ...given, lines: given.lines.map((line, place) => (place === 0 ? { ...line, unitPrice } : line)) }
}
const returned = (books: Books, id: number) => {
	const given = change(books, id, {})
	return { ...given, lines: given.lines.map((line) => ({ ...line, quantity: '-10' })) }
}
const credit = (books: Books, id: number, quantity = '1') =>
	startCredit(books, desk, id, creditSchema.parse({ lines: [{ line: 0, quantity }], freight: false, reason: 'wet' }))
const withCredits = (books: Books) =>
	saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'CN-', digits: 3, next: 1 })
const sent = (books: Books, id: number) =>
	books.db.prepare(`UPDATE document SET made_at = 'x', printed_at = 'x' WHERE id = ?`).run(id)

/** An act that is refused, and what it says to do; then it is not refused any more, or what was done is what was wanted. */
type Case = () => Promise<{
	refused: () => Outcome | { ok: boolean; message?: string }
	remedy: () => unknown
	again?: () => unknown
}>
const cases: Record<string, Case> = {
	'To leave all of it, hold the invoice back': async () => {
		const books = firmBooks()
		const id = idOf(books, await gatherRun(books, two))
		return {
			refused: () => divideDraft(books, desk, id, { lines: [0, 1], to: 'next run', reason: 'all' }),
			remedy: () => holdBack(books, desk, id, 'all of it'),
			again: () => benchRows(books, panelOf(books, id)?.document.run_id ?? 0).find((row) => row.id === id)?.held_reason,
		}
	},
	'A credit note is not divided; change how much it credits': async () => {
		const books = firmBooks()
		withCredits(books)
		const started = credit(books, idOf(books, await billed(books, ...two)), '4')
		const id = idOf(books, started.ok ? (started.id ?? 0) : 0)
		const less = () => {
			const given = change(books, id, {})
			return changeDraft(books, desk, id, { ...given, lines: given.lines.map((line) => ({ ...line, quantity: '-2' })) })
		}
		return {
			refused: () => divideDraft(books, desk, id, { lines: [0], to: 'own', reason: 'less' }),
			remedy: less,
			again: () => benchRows(books, panelOf(books, id)?.document.run_id ?? 0)[0]?.net === -420,
		}
	},
	'was changed since. Take that back first': async () => {
		const books = firmBooks()
		const run = await gatherRun(books, two)
		const [one, other] = [idOf(books, run), idOf(books, run, 1)]
		const divided = divideDraft(books, desk, one, { lines: [1], to: 'own', reason: 'apart' })
		const part = benchRows(books, run).find(({ id }) => id !== one && id !== other)?.id ?? 0
		expect(divided.ok).toBe(true)
		expect(changeDraft(books, desk, part, priced(books, part, '9.00')).ok).toBe(true)
		return { refused: () => undoChange(books, desk, one), remedy: () => undoChange(books, desk, part) }
	},
	'Make these agree with Change first': async () => {
		const books = firmBooks()
		const run = await gatherRun(books, ['1,03/10/2026,A1,,Line,10,2.10,,STD,,', '2,03/10/2026,A1,,More,3,2.00,,STD,7,'])
		const id = idOf(books, run)
		return {
			refused: () => mergeDrafts(books, desk, id, { other: idOf(books, run, 1), reason: 'one' }),
			remedy: () =>
				changeDraft(
					books,
					desk,
					idOf(books, run, 1),
					change(books, idOf(books, run, 1), { discounts: [], charges: [] }),
				),
		}
	},
	'stands in for this invoice; credit that one': async () => {
		const books = firmBooks()
		withCredits(books)
		const run = await billed(books, ...two)
		const id = idOf(books, run)
		const revised = reviseDocument(books, desk, id, priced(books, id, '2.20'))
		expect(revised.ok).toBe(true)
		return {
			refused: () => credit(books, id),
			remedy: () => true,
			again: () => credit(books, (revised.ok && revised.id) || 0).ok,
		}
	},
	'stands in for this invoice already; revise that one': async () => {
		const books = firmBooks()
		const id = idOf(books, await billed(books, ...two))
		const revised = reviseDocument(books, desk, id, priced(books, id, '2.20'))
		const now = (revised.ok && revised.id) || 0
		return {
			refused: () => reviseDocument(books, desk, id, priced(books, id, '2.30')),
			remedy: () => true,
			again: () => reviseDocument(books, desk, now, priced(books, now, '2.30')).ok,
		}
	},
	'stands in for it; make that one void': async () => {
		const books = firmBooks()
		const id = idOf(books, await billed(books, ...two))
		const revised = reviseDocument(books, desk, id, priced(books, id, '2.20'))
		return {
			refused: () => voidDocument(books, desk, id, 'wrong'),
			remedy: () => true,
			again: () => voidDocument(books, desk, (revised.ok && revised.id) || 0, 'wrong').ok,
		}
	},
	'It has reached the customer, or may have. Credit it instead': async () => {
		const books = firmBooks()
		withCredits(books)
		const id = idOf(books, await billed(books, ...two))
		sent(books, id)
		expect(reviseDocument(books, desk, id, priced(books, id, '2.20'))).toMatchObject({
			message: expect.stringContaining('Credit it instead'),
		})
		return {
			refused: () => voidDocument(books, desk, id, 'wrong'),
			remedy: () => true,
			again: () => credit(books, id).ok,
		}
	},
	'Say why it is void': async () => {
		const books = firmBooks()
		const id = idOf(books, await billed(books, ...two))
		return {
			refused: () => voidDocument(books, desk, id, ' '),
			remedy: () => true,
			again: () => voidDocument(books, desk, id, 'wrong').ok,
		}
	},
	'Say why it is held back': async () => {
		const books = firmBooks()
		const id = idOf(books, await gatherRun(books, two))
		return {
			refused: () => holdBack(books, desk, id, ' '),
			remedy: () => true,
			again: () => holdBack(books, desk, id, 'asked').ok,
		}
	},
	'was written off in part or whole': async () => {
		const books = firmBooks()
		const id = idOf(books, await billed(books, ...two))
		const item =
			books.db.prepare<[number], number>('SELECT id FROM ledger_item WHERE document_id = ?').pluck().get(id) ?? 0
		expect(writeOff(books, desk, item, 'small')).toMatchObject({ ok: true })
		const act = () => books.db.prepare<[], number>('SELECT max(id) FROM account_act').pluck().get() ?? 0
		return { refused: () => voidDocument(books, desk, id, 'wrong'), remedy: () => undoAct(books, desk, act()) }
	},
	'Open one under Number registers': async () => {
		const books = firmBooks()
		const started = credit(books, idOf(books, await billed(books, ...two)))
		return {
			refused: () => numberDocuments(books, desk, started.ok ? (started.id ?? 0) : 0, 1),
			remedy: () => withCredits(books),
		}
	},
	'were to be numbered, but now it would be': async () => {
		const books = firmBooks()
		const run = await gatherRun(books, two)
		return {
			refused: () => numberDocuments(books, desk, run, 1),
			remedy: () => true,
			again: () => numberDocuments(books, desk, run, benchRows(books, run).length).ok,
		}
	},
	'Say which the revision is to have': async () => {
		const books = firmBooks()
		const id = idOf(books, await billed(books, ...two))
		saveCustomer(books, desk, customer('A1', { address: '9 New Quay\nTarn' }))
		const given = () => priced(books, id, '2.20')
		return {
			refused: () => reviseDocument(books, desk, id, given()),
			remedy: () => true,
			again: () => reviseDocument(books, desk, id, { ...given(), particulars: 'as now' }).ok,
		}
	},
	'A revision stays an invoice; what comes below zero is credited': async () => {
		const books = firmBooks()
		withCredits(books)
		const id = idOf(books, await billed(books, ...two))
		return {
			refused: () => reviseDocument(books, desk, id, returned(books, id)),
			remedy: () => true,
			again: () => credit(books, id).ok,
		}
	},
	'Give the firm its name under Company first': async () => {
		const books = emptyBooks()
		return {
			refused: () => startRun(books, desk, '2026-10-31', '2026-10-31'),
			remedy: () => saveCompany(books, desk, company),
		}
	},
	'There are no tax codes yet': async () => {
		const books = emptyBooks()
		saveCompany(books, desk, company)
		return {
			refused: () => startRun(books, desk, '2026-10-31', '2026-10-31'),
			remedy: () => saveTaxRate(books, desk, { code: 'STD', name: 'VAT', rate: '20', from_day: '2000-01-01' }),
		}
	},
	'orders were chosen, and': async () => {
		const books = firmBooks()
		await bringOrders(books, ...two)
		return {
			refused: () => startRun(books, desk, '2026-10-31', '2026-10-31', [1, 999]),
			remedy: () => true,
			again: () => startRun(books, desk, '2026-10-31', '2026-10-31', [1]).ok,
		}
	},
	'what is credited keeps its sign; write': async () => {
		const books = firmBooks()
		withCredits(books)
		const started = credit(books, idOf(books, await billed(books, ...two)), '4')
		const id = idOf(books, started.ok ? (started.id ?? 0) : 0)
		const of = (quantity: string) => {
			const given = change(books, id, {})
			return { ...given, lines: given.lines.map((line) => ({ ...line, quantity })) }
		}
		return {
			refused: () => changeDraft(books, desk, id, of('2')),
			remedy: () => true,
			again: () => changeDraft(books, desk, id, of('-2')).ok,
		}
	},
	'cannot be priced as it is. Make it right with Change first': async () => {
		const books = firmBooks()
		await bringOrders(books, '1,03/10/2026,A1,,Line,10,2.10,,STD,,', '2,03/10/2026,A1,,More,3,2.00,,STD,,')
		books.db.exec(`UPDATE sales_order SET discount_amount = '900.00' WHERE number = '2'`)
		const run = await gatherRun(books, [])
		const of = (order: string) => benchRows(books, run).find((row) => row.order_numbers === order)?.id ?? 0
		const [id, other] = [of('1'), of('2')]
		return {
			refused: () => mergeDrafts(books, desk, id, { other, reason: 'one' }),
			remedy: () => changeDraft(books, desk, other, change(books, other, { discounts: [] })),
			again: () => mergeDrafts(books, desk, id, { other, reason: 'one' }).ok,
		}
	},
	'Only an invoice is revised; make another credit note instead': async () => {
		const books = firmBooks()
		withCredits(books)
		const invoice = idOf(books, await billed(books, ...two))
		const started = credit(books, invoice)
		const run = started.ok ? (started.id ?? 0) : 0
		numberDocuments(books, desk, run, 1)
		const id = idOf(books, run)
		return {
			refused: () => reviseDocument(books, desk, id, priced(books, id, '2.20')),
			remedy: () => true,
			again: () => credit(books, invoice).ok,
		}
	},
	'Give both days of the run': async () => {
		const books = firmBooks()
		await bringOrders(books, ...two)
		return {
			refused: () => startRun(books, desk, '2026-10-31', ''),
			remedy: () => true,
			again: () => startRun(books, desk, '2026-10-31', '2026-10-31').ok,
		}
	},
	'in books that are closed to': async () => {
		const books = firmBooks()
		withCredits(books)
		const id = idOf(books, await billed(books, ...two))
		changeSettings(books, desk, { closedTo: '2026-10-31' })
		return {
			refused: () => voidDocument(books, desk, id, 'wrong'),
			remedy: () => changeSettings(books, desk, { workDate: '2026-11-02' }),
			again: () => credit(books, id).ok,
		}
	},
}
/** Those that are shown elsewhere, or say what to do only where nothing can bring them about. */
const elsewhere: Record<string, string> = {
	'Only an invoice is divided. Make the paper again from its record': 'papers.test.ts makes papers anew',
	'It was numbered meanwhile': 'meanwhile.test.ts',
	'Give this one another number': 'papers.test.ts, orderForm.test.ts',
	'Give this order another': 'orderForm.test.ts',
	'divide it instead': 'of drafts from before drafts were kept',
	'Take that back on the account first': 'above, of a write-off; ledger.test.ts of credits',
	'Nothing was numbered; look at them again': 'number.test.ts looks again',
	'Order ${order} came of it. Withdraw that first': 'papers.test.ts',
	'Credit it instead.': 'above, of closed books',
	'Correct it with another document': 'the same for what is no invoice',
	'That is more than a run can come to': 'a figure of more than fifteen digits',
	'A step of this run is still going. Stop it first': 'runs.test.ts stops steps',
	'Something changed meanwhile; look at the run again': 'to look again is to load the page',
	'Look at the run again': 'runs.test.ts',
}

test('each refusal that says what to do has its case', () => {
	const known = [...Object.keys(cases), ...Object.keys(elsewhere)]
	expect(refusals.length).toBeGreaterThan(15)
	expect(refusals.filter((words) => !known.some((key) => words.includes(key)))).toEqual([])
	expect(known.filter((key) => !sources.includes(key))).toEqual([])
})

test.each(Object.entries(cases))('%s', async (said, make) => {
	const { refused, remedy, again } = await make()
	const before = refused()
	expect(before).toMatchObject({ ok: false, message: expect.stringContaining(said) })
	const done = remedy()
	if (typeof done === 'object' && done !== null && 'ok' in done)
		expect(done).toEqual(expect.objectContaining({ ok: true }))
	if (again) expect(again()).toBeTruthy()
	else {
		const now = refused()
		expect(now.ok ? '' : (now as { message?: string }).message).not.toContain(said)
	}
})
