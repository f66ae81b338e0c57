import fc from 'fast-check'
import { expect, test } from 'vitest'
import { paperKindSchema } from '@/core/paperKind'
import { blankLine } from '@/intake/orderForm'
import { withdrawOrder } from '@/runs/bringIn/takeBack'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { acceptPaper } from '@/runs/papers/accept'
import { issueOne } from '@/runs/papers/issue'
import { makeKind } from '@/runs/papers/kinds'
import { makeOne } from '@/runs/papers/one'
import { withdraw, writeRecord } from '@/runs/papers/write'
import type { Books } from '@/store/books'
import { readAnyDocument, readBill } from '@/store/documents'
import { readOrder } from '@/store/orders'
import { allPaperKinds } from '@/store/paperKinds'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { billed, work } from './runs'
import { desk, firmBooks, opened, plainRegister } from './support'
import { walks } from './walks'

// Quotes are written, made, made again, issued, made void, withdrawn, accepted in parts and billed in any order. What may be done is foretold
// by a model apart from the books, which knows papers and lines alone; no line is ever billed twice, and the parts come to the whole.

const today = '2026-10-31'
const prices = [
	['100', '2.10'],
	['3', '41.33'],
	['1', '17.77'],
	['7', '0.35'],
] as const
const choice = fc.nat({ max: 1000 })
const write = fc.record({
	act: fc.constant('write' as const),
	lines: fc.integer({ min: 1, max: 4 }),
	off: fc.constantFrom('', '7', 'GBP 5.55'),
})
const accept = fc.record({
	act: fc.constant('accept' as const),
	on: choice,
	mask: fc.integer({ min: 1, max: 15 }),
	stray: fc.nat(9).map((one) => one === 0),
	late: fc.nat(3).map((one) => one === 0),
	reason: fc.boolean(),
})
const again = fc.constantFrom(null, 'replace' as const, 'both' as const)
const act = fc.oneof(
	{ weight: 1, arbitrary: write },
	{ weight: 2, arbitrary: fc.record({ act: fc.constant('make' as const), on: choice, again }) },
	{ weight: 3, arbitrary: fc.record({ act: fc.constant('issue' as const), on: choice }) },
	{ weight: 8, arbitrary: accept },
	{
		weight: 2,
		arbitrary: fc.record({
			act: fc.constantFrom(
				...(['void', 'void', 'withdraw order', 'withdraw order', 'withdraw order', 'withdraw'] as const),
			),
			on: choice,
		}),
	},
	{ weight: 1, arbitrary: fc.record({ act: fc.constant('bill' as const) }) },
)
/** A quote is out before anything happens. */
const acts = fc
	.tuple(write, fc.array(act, { minLength: 4, maxLength: 20 }))
	.map(([first, rest]) => [
		first,
		{ act: 'make' as const, on: 0, again: null },
		{ act: 'issue' as const, on: 0 },
		...rest,
	])

type Paper = { id: number; state: 'draft' | 'issued' | 'void' | 'dropped' }
type Order = { id: number; paper: number; lines: number[]; day: string; state: 'waits' | 'billed' | 'withdrawn' }
type Model = { id: number; lines: number; percent: boolean; gone: boolean; papers: Paper[]; orders: Order[] }

function firm(): { books: Books; kind: number } {
	const books = firmBooks()
	const quote = { name: 'Quote', several: 'quotes', numbered: true, stands: 30, becomesOrder: true }
	makeKind(books, desk, 'priced', 'form', paperKindSchema.parse(quote))
	const [kind] = allPaperKinds(books)
	if (!kind) throw new Error('no kind')
	saveRegister(books, desk, { ...plainRegister, kind: kind.key, prefix: 'QU-', digits: 3, next: 1 })
	return { books, kind: kind.id }
}

const pick = <One>(list: One[], on: number): One | undefined => list[on % Math.max(list.length, 1)]
let writing = 0

test('whatever is done with quotes in whatever order, each line is accepted and billed once, and the parts come to the whole', async () => {
	await fc.assert(
		fc.asyncProperty(acts, async (history) => {
			const { books, kind } = firm()
			const records: Model[] = []
			for (const one of history) {
				const standing = (record: Model) => record.papers.filter(({ state }) => state === 'draft' || state === 'issued')
				const record = 'on' in one ? pick(records, one.on) : undefined
				if (one.act === 'write') {
					const written = writeRecord(
						books,
						desk,
						kind,
						{
							...{
								key: `history ${++writing}`,
								number: '',
								customer: 'A1',
								day: '2026-10-20',
								purchaseOrder: '',
								currency: '',
							},
							...{ discount: one.off, discountName: '', freight: '4.44', note: '', delivery: '', own: {} },
							lines: prices.slice(0, one.lines).map(([quantity, unitPrice], place) => ({
								...{
									...blankLine,
									description: `Line ${place}`,
									quantity,
									unitPrice,
									taxCode: place % 2 ? 'RED' : 'STD',
								},
							})),
						},
						today,
					)
					expect(written.ok).toBe(true)
					if (written.ok)
						records.push({
							id: written.id,
							lines: one.lines,
							percent: one.off === '7',
							gone: false,
							papers: [],
							orders: [],
						})
				} else if (one.act === 'bill') {
					const waiting = records
						.flatMap(({ orders }) => orders)
						.filter(({ state, day }) => state === 'waits' && day <= today)
					if (waiting.length === 0) continue
					const run = await billed(books)
					const nets = benchRows(books, run).reduce((sum, { net }) => sum + net, 0)
					expect(nets).toBe(waiting.reduce((sum, { id }) => sum + netOf(books, id), 0))
					for (const order of waiting) order.state = 'billed'
				} else if (!record) continue
				else if (one.act === 'make') {
					const [draft, some] = [standing(record).find(({ state }) => state === 'draft'), standing(record).length > 0]
					const may =
						!record.gone &&
						(some ? one.again === 'both' || (one.again === 'replace' && draft) : one.again !== 'replace')
					const made = makeOne(books, desk, record.id, one.again, today)
					expect(made.ok).toBe(Boolean(may))
					// The latest open draft is the one that makes room.
					if (made.ok && one.again === 'replace') {
						const last = record.papers.findLast(({ state }) => state === 'draft')
						if (last) last.state = 'dropped'
					}
					if (made.ok) record.papers.push({ id: made.id, state: 'draft' })
				} else if (one.act === 'issue') {
					const draft = record.papers.find(({ state }) => state === 'draft')
					if (!draft) continue
					const issued = issueOne(books, desk, draft.id, 'file')
					// A record that is withdrawn stops its drafts when they are looked at again.
					expect(issued.ok).toBe(!record.gone)
					if (issued.ok) draft.state = 'issued'
					await work(books)
				} else if (one.act === 'void') {
					const paper = record.papers.find(({ state }) => state === 'issued')
					if (!paper) continue
					// An order that came of it holds it.
					const may = record.orders.every((order) => order.paper !== paper.id || order.state === 'withdrawn')
					expect(voidDocument(books, desk, paper.id, 'wrong').ok).toBe(may)
					if (may) paper.state = 'void'
				} else if (one.act === 'withdraw') {
					expect(withdraw(books, desk, record.id, 'no').ok).toBe(!record.gone)
					record.gone = true
				} else if (one.act === 'withdraw order') {
					const order = pick(record.orders, one.on)
					if (!order) continue
					expect(withdrawOrder(books, desk, order.id, 'no').ok).toBe(order.state === 'waits')
					if (order.state === 'waits') order.state = 'withdrawn'
				} else if (one.act === 'accept') {
					const paper = pick(record.papers, one.on)
					if (!paper) continue
					// Seldom a line that is not on it.
					const lines = [0, 1, 2, 3].filter((line) => one.mask & (1 << line) && (line < record.lines || one.stray))
					const taken = record.orders.filter(({ state }) => state !== 'withdrawn').flatMap((order) => order.lines)
					const may =
						paper.state === 'issued' &&
						!record.gone &&
						lines.length > 0 &&
						lines.every((line) => line < record.lines && !taken.includes(line)) &&
						(!one.late || one.reason)
					const day = one.late ? '2026-12-01' : today
					const accepted = acceptPaper(books, desk, paper.id, {
						lines,
						number: '',
						day,
						reason: one.reason ? 'holds' : '',
					})
					expect(accepted.ok).toBe(may)
					if (accepted.ok) record.orders.push({ id: accepted.id, paper: paper.id, lines, day, state: 'waits' })
				}
			}
			for (const record of records) {
				const stands = record.orders.filter(({ state }) => state !== 'withdrawn')
				const lines = stands.flatMap((order) => order.lines)
				expect(new Set(lines).size).toBe(lines.length)
				const whole = record.papers.map(({ id }) => readAnyDocument(books, id)).find((paper) => paper?.number)
				// All lines accepted, none of them withdrawn between: the orders come to what was quoted. A percent is taken on each part, and rounded there.
				if (whole && lines.length === record.lines && stands.length === record.orders.length) {
					const out = stands.reduce((sum, { id }) => sum + netOf(books, id), 0) - whole.net
					expect(Math.abs(out)).toBeLessThanOrEqual(record.percent ? stands.length - 1 : 0)
				}
				for (const { id } of stands) {
					const bill = readOrder(books, id)?.document_id
					if (bill) expect(readBill(books, bill)?.content.orders.some((order) => order.id === id)).toBe(true)
				}
			}
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			for (const done of opened.splice(0)) done.db.close()
		}),
		{ numRuns: walks(6) },
	)
})

/** Net of an order by its id, minor units. */
const netOf = (books: Books, id: number): number => {
	const order = readOrder(books, id)
	return order ? netOfOrder(books, order) : 0
}
