import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { Outcome } from '@/core/outcome'
import { closeRun, giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { startRun } from '@/runs/bench/steps'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { divideDraft } from '@/runs/drafts/divide'
import { gather } from '@/runs/drafts/gather'
import { mergeDrafts } from '@/runs/drafts/merge'
import { undoChange } from '@/runs/drafts/undo'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { holdBack, releaseHeld } from '@/runs/recheck/hold'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveTaxRate } from '@/store/catalogue'
import { saveCustomer } from '@/store/customers'
import { readBill } from '@/store/documents'
import { endJob, nextJob } from '@/store/jobs'
import { waitingOrders } from '@/store/orders'
import { benchRows, runGroups } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { bringOrders, customer, desk, firmBooks, plainRegister } from './support'
import { walked, walks } from './walks'

// Acts in random orders, against a model apart from the product's code: it knows only which lines there are, and what
// a person changed. All arithmetic here is in whole pence.

type Line = { order: string; text: string }
type Model = {
	lines: Map<string, Line>
	/** What a person added to or took off the net, by changing prices; and what can be undone of it. */
	changed: number
}

const pounds = (pence: number) => `${Math.floor(pence / 100)}.${String(pence % 100).padStart(2, '0')}`

/**
 * Books with twenty orders of five customers, one in another currency, over days on which a rate of tax and the worth of that currency change;
 * some with discounts of every kind and freight.
 */
async function world(seed: number): Promise<{ books: Books; model: Model }> {
	const books = firmBooks()
	saveDiscount(books, desk, {
		...{ label: 'Fair', percent: '', amount: '7.00', currency: 'GBP', from_day: '2026-01-01', to_day: '' },
		for_all: 0,
	})
	saveCustomer(books, desk, customer('D1', { discount: '3' }))
	saveTaxRate(books, desk, { code: 'STD', name: 'VAT STD', rate: '25', from_day: '2026-10-10' })
	saveCustomer(books, desk, customer('E1', { currency: 'EUR', grouping: seed % 2 === 0 ? 'all' : 'order' }))
	saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.85' })
	saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-10-10', rate: '0.9' })
	if (seed % 3 === 0) changeSettings(books, desk, { freight: { amount: '4.50', percent: '' } })
	if (seed % 3 === 1) changeSettings(books, desk, { freight: { amount: '', percent: '4' } })
	const lines = new Map<string, Line>()
	const rows: string[] = []
	const customers = ['A1', 'A1', 'B1', 'D1', 'E1']
	for (let order = 1; order <= 20; order++) {
		const count = 1 + ((seed + order * 7) % 4)
		for (let line = 1; line <= count; line++) {
			const pence = 101 + ((seed * 31 + order * 977 + line * 131) % 9000)
			const text = `o${order}l${line}`
			lines.set(text, { order: String(order), text })
			const code = ['STD', 'STD', 'ZERO', 'RED'][(order + line) % 4]
			const day = (seed + order) % 3 === 0 ? '20' : '03'
			const discount = order % 5 === 0 ? '7' : order % 7 === 3 ? 'GBP 1.00' : ''
			const freight = order % 4 === 0 ? '6.35' : ''
			rows.push(
				`${order},${day}/10/2026,${customers[order % 5]},,${text},1,${pounds(pence)},,${code},${discount},${freight}`,
			)
		}
	}
	// What came back, and what costs next to nothing, stand among the lines of some.
	for (const order of [2, 5, 9, 12]) {
		const day = (seed + order) % 3 === 0 ? '20' : '03'
		const discount = order % 5 === 0 ? '7' : order % 7 === 3 ? 'GBP 1.00' : ''
		const freight = order % 4 === 0 ? '6.35' : ''
		const put = (text: string, quantity: string, price: string) => {
			lines.set(text, { order: String(order), text })
			rows.push(
				`${order},${day}/10/2026,${customers[order % 5]},,${text},${quantity},${price},,STD,${discount},${freight}`,
			)
		}
		put(`o${order}back`, '-1', pounds(1 + ((seed + order) % 90)))
		put(`o${order}least`, '1', '0.01')
	}
	rows.sort((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10))
	await bringOrders(books, ...rows)
	books.db.exec(`UPDATE sales_order SET discount_label = 'Fair' WHERE CAST(number AS INTEGER) % 6 = 0`)
	return { books, model: { lines, changed: 0 } }
}

function gatherAll(books: Books): number {
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	if (!started.ok || !started.id) throw new Error('no run')
	gather(books, desk, started.id, '2026-10-31')
	const job = nextJob(books)
	if (job) endJob(books, job.id, 'done', '', desk.now())
	return started.id
}

const drafts = (books: Books, run: number) => benchRows(books, run).filter(({ number }) => number === null)

/** A second run, open beside the first, of orders of its own. */
async function gatherBeside(books: Books, model: Model): Promise<number> {
	const orders = ['A1', 'B1', 'E1'].map((who, place) => ({ who, order: 31 + place, text: `o${31 + place}beside` }))
	for (const { order, text } of orders) model.lines.set(text, { order: String(order), text })
	await bringOrders(
		books,
		...orders.map(({ who, order, text }) => `${order},05/10/2026,${who},,${text},2,12.34,,STD,,`),
	)
	return gatherAll(books)
}

/** A customer pays, with what it is for left open or taken on what is oldest. */
function pay(books: Books, pick: number): void {
	const customers = books.db
		.prepare<[], { id: number; currency: string }>("SELECT id, currency FROM customer WHERE id > 0 AND currency <> ''")
		.all()
	const { id = 0, currency = 'GBP' } = customers[pick % customers.length] ?? {}
	const to = pick % 2 === 0 ? 'oldest' : 'nothing'
	const amount = pounds(1 + ((pick * 17) % 30_000))
	const entered = enterPayment(
		books,
		desk,
		paymentSchema.parse({
			customer: id,
			day: '2026-10-31',
			amount,
			currency,
			reference: `P-${pick}`,
			to,
			sure: ['ahead', 'again'],
		}),
	)
	expect(entered.ok ? '' : entered.message).toBe('')
}

/** Numbers what is ready of a run; what has become otherwise since it was checked is shown once, and then it is numbered. */
function numberReady(books: Books, run: number): void {
	for (const { id, held_reason } of drafts(books, run)) if (held_reason) releaseHeld(books, desk, id)
	lookAgain(books, desk, run)
	const { act, count } = nextAct(runGroups(books, run))
	if (act !== 'number') return
	const numbered = numberDocuments(books, desk, run, count)
	expect(numbered.ok ? '' : numbered.message).toBe('')
}

/** Parts of what was issued are credited until nothing is left or it is refused in words; then all holds. */
function creditParts(books: Books, picks: readonly Step[]): void {
	for (const { pick, other } of picks) {
		const issued = books.db
			.prepare<[], number>(
				`SELECT id FROM document WHERE kind = 'invoice' AND number IS NOT NULL AND credits_id IS NULL ORDER BY id`,
			)
			.pluck()
			.all()
		const id = issued[pick % Math.max(1, issued.length)] ?? 0
		const lines = readBill(books, id)?.content.lines ?? []
		const chosen = lines.flatMap(({ quantity }, line) =>
			(other + line * 5) % 3 === 0
				? [{ line, quantity: other % 2 === 0 ? quantity : quantity.startsWith('-') ? '-0.5' : '0.5' }]
				: [],
		)
		const credit = creditSchema.safeParse({ lines: chosen, freight: other % 5 === 0, reason: 'came back' })
		if (!credit.success) continue
		const started = startCredit(books, desk, id, credit.data)
		if (!started.ok) {
			expect(started.message).toMatch(/^[A-Z].{5,}\.$/)
			continue
		}
		numberReady(books, started.id ?? 0)
		pay(books, pick + other)
	}
}

/** Where each line stands: on which drafts, and on how many waiting orders; by its text, which is its name here. */
function places(books: Books, runs: number[]): Map<string, number> {
	const found = new Map<string, number>()
	const put = (text: string) => found.set(text, (found.get(text) ?? 0) + 1)
	for (const { id } of runs.flatMap((run) => drafts(books, run)))
		for (const { description } of readBill(books, id)?.content.lines ?? []) put(description)
	const waiting = new Set(waitingOrders(books).map(({ id }) => id))
	const rows = books.db.prepare('SELECT order_id, description FROM order_line').all() as {
		order_id: number
		description: string
	}[]
	for (const { order_id, description } of rows) if (waiting.has(order_id)) put(description)
	return found
}

const netOf = (books: Books, run: number): number => drafts(books, run).reduce((sum, { net }) => sum + net, 0)
type Terms = { discounts: { amount?: string; percent?: string }[]; charges: { amount?: string; percent?: string }[] }
/**
 * What drafts come to where every order has its figures, and its amounts off count as they do on the whole of it. Where a person made prices
 * lower than the amounts off, or turned an order over, a draft is stopped and counts nothing until its orders are apart or gathered anew. Where
 * they turned a part of a divided order, its share counts the other way until the order is whole, and by its own terms, again.
 */
function moneyOf(books: Books, run: number): number {
	const bills = drafts(books, run).flatMap(({ id, net }) => {
		const content = readBill(books, id)?.content
		return content ? [{ content, net }] : []
	})
	const grossOf = ({ lines }: (typeof bills)[number]['content'], place: number) =>
		lines
			.filter(({ order }) => order === place)
			.reduce((own, line) => own + Math.round(Number(line.quantity) * Number(line.unitPrice ?? 0) * 100), 0)
	const rootOf = (number: string) => number.split('/')[0] ?? ''
	const wholes = new Map<string, number>()
	for (const { content } of bills)
		content.orders.forEach(({ number }, place) => {
			wholes.set(rootOf(number), (wholes.get(rootOf(number)) ?? 0) + grossOf(content, place))
		})
	const amounts = (shares: { amount?: string }[]) =>
		shares.reduce((pence, { amount }) => pence + Math.round(Number(amount ?? 0) * 100), 0)
	const percents = (shares: { percent?: string }[], base: number) =>
		shares.reduce((pence, { percent }) => pence + Math.round((base * Number(percent ?? 0)) / 100), 0)
	const way = (pence: number) => (pence < 0 ? -1 : 1)
	return bills.reduce((sum, { content, net }) => {
		const hasFigures = content.priced.taxes.length > 0
		return content.orders.reduce(
			(pence, { number, brings }, place) => {
				const { discounts, charges }: Terms = brings ?? { discounts: [], charges: [] }
				const [gross, whole] = [grossOf(content, place), wholes.get(rootOf(number)) ?? 0]
				if (hasFigures) return pence + (way(gross) - way(whole)) * amounts(discounts)
				const own = gross - way(whole) * amounts(discounts) - percents(discounts, gross)
				return pence + own + amounts(charges) + percents(charges, own)
			},
			sum + (hasFigures ? net : 0),
		)
	}, 0)
}
const percentsOn = (books: Books, run: number): number =>
	drafts(books, run).reduce((sum, { id }) => {
		const content = readBill(books, id)?.content
		return (
			sum + [...(content?.discounts ?? []), ...(content?.charges ?? [])].filter((share) => 'percent' in share).length
		)
	}, 0)

const step = fc.record({
	act: fc.constantFrom('change', 'divide', 'leave', 'merge', 'undo', 'hold', 'release', 'again', 'back'),
	pick: fc.nat(1000),
	other: fc.nat(1000),
})
type Step = { act: string; pick: number; other: number }

/** Does a step on the books; gives what came of it and by how much a person changed the net. */
function take(books: Books, run: number, { act, pick, other }: Step): { run: number; outcome: Outcome; id: number } {
	const open = drafts(books, run)
	const draft = open[pick % Math.max(1, open.length)]
	const id = draft?.id ?? 0
	const content = readBill(books, id)?.content
	const lines = content?.lines ?? []
	const done = (outcome: Outcome) => ({ run, outcome, id })
	if (act === 'change') {
		const line = lines[other % Math.max(1, lines.length)]
		const place = line ? lines.indexOf(line) : 0
		const { quantity = '1', discountPercent = '0', description = '', taxCode = 'STD' } = line ?? {}
		const price = pounds(100 + ((pick * 37 + other * 11) % 8000))
		return done(
			changeDraft(
				books,
				desk,
				id,
				changeSchema.parse({
					lines: [{ line: place, quantity, unitPrice: price, discountPercent, description, taxCode }],
					...{ dueDay: content?.dueDay ?? '2026-11-30', email: draft?.email ?? '', reason: 'agreed' },
				}),
			),
		)
	}
	if (act === 'divide' || act === 'leave') {
		const chosen = lines.flatMap((_, place) => ((pick + other * 3 + place * 7) % 3 === 0 ? [place] : []))
		return done(
			divideDraft(books, desk, id, { lines: chosen, to: act === 'leave' ? 'next run' : 'own', reason: 'divided' }),
		)
	}
	if (act === 'merge') {
		const beside = panelOf(books, id)?.beside ?? []
		return done(
			mergeDrafts(books, desk, id, {
				other: beside[other % Math.max(1, beside.length)]?.id ?? id,
				reason: 'one parcel',
			}),
		)
	}
	if (act === 'undo') return done(undoChange(books, desk, id))
	if (act === 'hold') return done(holdBack(books, desk, id, 'to be asked'))
	if (act === 'release') return done(releaseHeld(books, desk, id))
	if (act === 'back' && other % 4 !== 0) return done({ ok: true })
	const outcome = giveRunBack(books, desk, run)
	return { run: gatherAll(books), outcome, id: 0 }
}

async function walk(seed: number, steps: Step[]): Promise<void> {
	const { books, model } = await world(seed)
	let run = gatherAll(books)
	const beside = await gatherBeside(books, model)
	const money = () => moneyOf(books, run)
	let expected = money()
	let rounding = percentsOn(books, run)
	for (const one of steps) {
		const before = money()
		const events = Number((books.db.prepare('SELECT count(*) AS n FROM event').get() as { n: number }).n)
		const { run: now, outcome } = take(books, run, one)
		run = now
		const net = money()
		// No line lost or doubled, whatever was done.
		if (one.pick % 4 === 0) pay(books, one.pick)
		const at = places(books, [run, beside])
		for (const { text } of model.lines.values()) expect([text, at.get(text)]).toEqual([text, 1])
		// Money moves only where a person changed a price, or takes that back; but for the rounding of percents on parts.
		rounding = Math.max(rounding, percentsOn(books, run))
		if (one.act === 'change' || one.act === 'undo') expected += net - before
		expect(Math.abs(net - expected), `${one.act} moved ${net - before}`).toBeLessThanOrEqual(rounding * 2)
		// The tally says so too, and nothing is unexplained.
		for (const strip of tallyOf(books, run)) expect([strip.currency, strip.untied]).toEqual([strip.currency, 0])
		if (outcome.ok && !['back'].includes(one.act))
			expect(Number((books.db.prepare('SELECT count(*) AS n FROM event').get() as { n: number }).n)).toBeGreaterThan(
				events,
			)
		if (!outcome.ok) expect(outcome.message).toMatch(/^[A-Z].{5,}\.$/)
	}
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	// All that can be taken back is taken back, down to the run as it was gathered.
	for (let left = 500; left > 0; left--) {
		const changed = drafts(books, run).filter(({ changes }) => changes > 0)
		if (changed.length === 0) break
		const taken = changed.map(({ id }) => undoChange(books, desk, id))
		expect(taken.some(({ ok }) => ok)).toBe(true)
	}
	expect(netOf(books, run)).toBe(tallyOf(books, run).reduce((sum, { broughtIn }) => sum + broughtIn, 0))
	numberReady(books, beside)
	numberReady(books, run)
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'CN-', digits: 3, next: 1 })
	creditParts(books, steps.slice(0, 8))
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	books.db.exec(`UPDATE document SET printed_at = 'x', made_at = 'x' WHERE number IS NOT NULL`)
	if (nextAct(runGroups(books, run)).act === 'close') expect(closeRun(books, desk, run)).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	books.db.close()
	walked()
}

const times = walks(8)

test('random histories lose and double no line, keep the money, leave a trace, and can be taken back', async () => {
	await fc.assert(
		fc.asyncProperty(fc.nat(10_000), fc.array(step, { minLength: 30, maxLength: 30 }), (seed, steps) =>
			walk(seed, steps),
		),
		{ numRuns: times, endOnFailure: true },
	)
})

/** What stands of the books, to the byte: drafts with their contents, findings and places, orders and their lines. The record goes on. */
function standing({ db }: Books): string {
	const all = (sql: string) => db.prepare(sql).all()
	return JSON.stringify([
		all(
			`SELECT d.*, c.content FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.dropped_at IS NULL ORDER BY d.id`,
		),
		all(
			`SELECT f.* FROM finding f JOIN document d ON d.id = f.document_id WHERE d.dropped_at IS NULL ORDER BY f.document_id, f.place`,
		),
		all('SELECT * FROM sales_order WHERE joined_to IS NULL ORDER BY id'),
		all('SELECT * FROM order_line ORDER BY id'),
		all('SELECT * FROM ledger_item ORDER BY id'),
		all('SELECT * FROM register_count ORDER BY register_id, year'),
	])
}

test('three acts in a row, taken back, leave the books as they were, to the byte', async () => {
	const act = fc.constantFrom('change', 'divide', 'leave', 'merge')
	const three = fc.array(fc.record({ act, pick: fc.nat(1000), other: fc.nat(1000) }), { minLength: 3, maxLength: 3 })
	await fc.assert(
		fc.asyncProperty(fc.nat(10_000), fc.array(three, { minLength: 1, maxLength: 4 }), async (seed, rounds) => {
			const { books } = await world(seed)
			const run = gatherAll(books)
			lookAgain(books, desk, run)
			for (const acts of rounds) {
				const states: string[] = []
				const latest = () =>
					books.db
						.prepare<[], number | null>('SELECT max(id) FROM document_change WHERE undone_at IS NULL')
						.pluck()
						.get() ?? 0
				for (const one of acts) {
					const [before, was] = [standing(books), latest()]
					const { outcome } = take(books, run, one)
					// A change with lines added or taken off would be several; these are one each.
					if (outcome.ok && latest() !== was) states.push(before)
				}
				for (const before of states.reverse()) {
					const of = books.db
						.prepare<[], number>(
							'SELECT document_id FROM document_change WHERE undone_at IS NULL ORDER BY id DESC LIMIT 1',
						)
						.pluck()
						.get()
					expect(undoChange(books, desk, of ?? 0)).toEqual({ ok: true })
					const now = standing(books)
					const at = [...now].findIndex((sign, place) => sign !== before[place])
					expect([now.slice(at - 200, at + 100)]).toEqual([before.slice(at - 200, at + 100)])
				}
			}
			books.db.close()
			walked()
		}),
		{ numRuns: walks(4) },
	)
})
