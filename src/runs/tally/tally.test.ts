import { describe, expect, test } from 'vitest'
import { benchView } from '@/runs/bench/view'
import { holdBack, printed } from '@/runs/recheck/hold'
import { writeMessages } from '@/runs/send/send'
import type { Books } from '@/store/books'
import { benchRows, runGroups } from '@/store/places'
import { gatherRun, nextStep } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { nextAct, tallyOf } from './tally'

const orders = (count: number, customer = 'A1') =>
	Array.from(
		{ length: count },
		(_, index) => `${customer}${index},03/10/2026,${customer},ROPE,Line,${index + 1},2.00,,STD,,`,
	)
const put = (books: Books, id: number, state: string) =>
	books.db
		.prepare('UPDATE message SET state = ?, last_answer = ? WHERE document_id = ?')
		.run(state, `the server: ${state}`, id)

/** A made run of one invoice each: sent, refused, unsure, waiting, to print, printed, and one held back. */
async function everywhere() {
	const books = firmBooks()
	const run = await gatherRun(books, [...orders(5), ...orders(2, 'B1')])
	const idOf = (order: string) => benchRows(books, run).find(({ order_numbers }) => order_numbers === order)?.id ?? 0
	holdBack(books, desk, idOf('A14'), 'asked about')
	await nextStep(books, run)
	await nextStep(books, run)
	writeMessages(books, desk, run)
	put(books, idOf('A10'), 'sent')
	put(books, idOf('A11'), 'refused')
	put(books, idOf('A12'), 'unsure')
	printed(books, desk, idOf('B10'))
	return { books, run, idOf }
}

test('every stage counts the orders and money that came so far, in the same unit', async () => {
	const { books, run } = await everywhere()
	const [strip] = tallyOf(books, run)
	expect(strip?.stages.map(({ name, orders: count, net }) => [name, count, net])).toEqual([
		['Gathered', 7, 3600],
		['Checked', 6, 2600],
		['Numbered', 6, 2600],
		['Made', 6, 2600],
		['Sent', 2, 400],
	])
	expect(strip?.stages.map(({ gap }) => gap.documents)).toEqual([0, 1, 0, 0, 4])
})

test('a difference opens to the very documents that make it, each with its reason', async () => {
	const { books, run } = await everywhere()
	const stages = tallyOf(books, run)[0]?.stages ?? []
	expect(stages[1]?.gapRows.map(({ orders: order, reason }) => [order, reason])).toEqual([
		['A14', 'held back by Wren: asked about'],
	])
	expect(stages[4]?.gapRows.map(({ orders: order, reason }) => [order, reason]).sort()).toEqual([
		['A11', 'refused: the server: refused'],
		['A12', 'unsure whether it arrived: decide in the Postroom'],
		['A13', 'not sent yet'],
		['B11', 'no email: to be printed'],
	])
	expect(stages[4]?.gap.net).toBe(stages[4]?.gapRows.reduce((sum, { net }) => sum + net, 0))
})

test('the list says of each document where it is', async () => {
	const { books, run } = await everywhere()
	const stages = benchRows(books, run).map((row) => [row.order_numbers, benchView(row).place])
	expect(Object.fromEntries(stages)).toEqual({
		A10: 'sent',
		A11: 'refused',
		A12: 'unsure',
		A13: 'waiting',
		A14: 'held',
		B10: 'printed',
		B11: 'to print',
	})
})

describe('one act comes next, the earliest that is left', () => {
	test('number, make, send, decide, print, solve, close', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [...orders(1), ...orders(1, 'B1'), 'X,03/10/2026,A1,BUOY,Line,1,,,STD,,'])
		const seen: string[] = []
		const look = () => seen.push(nextAct(runGroups(books, run)).act)
		const idOf = (order: string) => benchRows(books, run).find(({ order_numbers }) => order_numbers === order)?.id ?? 0
		look()
		await nextStep(books, run)
		look()
		await nextStep(books, run)
		look()
		writeMessages(books, desk, run)
		put(books, idOf('A10'), 'refused')
		look()
		put(books, idOf('A10'), 'sent')
		look()
		printed(books, desk, idOf('B10'))
		look()
		holdBack(books, desk, idOf('X'), 'no price to be had')
		look()
		expect(seen).toEqual(['number', 'make', 'send', 'decide', 'print', 'solve', 'close'])
	})

	test('none in a run without documents', () => {
		expect(nextAct([])).toEqual({ act: 'none', count: 0 })
	})
})

test('an unfinished stage says that it comes next and has no difference to open yet', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, orders(2))
	const [strip] = tallyOf(books, run)
	expect(strip?.stages.map(({ begun, gapRows }) => [begun, gapRows.length])).toEqual([
		[true, 0],
		[true, 0],
		[false, 0],
		[false, 0],
		[false, 0],
	])
})
