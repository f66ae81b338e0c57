import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { readFileOfOrders } from '@/cli/read'
import { plainNumber } from '@/core/decimal'
import { readingSchema } from '@/intake/reading'
import { lookAt } from '@/runs/bringIn/atOnce'
import { openQuestions, readAnswers, reviewOf } from '@/runs/bringIn/review'
import { saveCustomer } from '@/store/customers'
import { readFile } from '@/store/files'
import { refusedRows } from '@/store/outcomes'
import { openStaging } from '@/store/staging'
import { customer, desk, firmBooks } from './support'

// Worked cases of how a file of orders is read, by the command line and by what the page of a file does: one reader, no second way.

type Line = { item: string; quantity: string; unitPrice: string | null }
type Case = {
	name: string
	file: string
	args: string[]
	expect: {
		error?: object
		questions?: string[]
		refused?: { row: number }[]
		orders?: { number: string; customer: string; lines: Line[] }[]
	}
}
const folder = join(import.meta.dirname, 'cases/reading')
const cases: Case[] = JSON.parse(readFileSync(join(folder, 'cases.json'), 'utf8'))
const optionsOf = (args: string[]) =>
	Object.fromEntries(
		args.flatMap((arg, place) => (arg.startsWith('--') ? [[arg.slice(2), args[place + 1] ?? '']] : [])),
	)

describe.each(cases)('$name', ({ file, args, expect: wanted }) => {
	test('as the command line reads it', async () => {
		const read = await readFileOfOrders(join(folder, file), optionsOf(args))
		if (wanted.error) expect(read).toMatchObject({ error: { why: expect.stringMatching(/\w.*\./) } })
		else expect(read).toMatchObject(wanted)
	})

	test('as its page reads it', async () => {
		const books = firmBooks()
		for (const number of new Set((wanted.orders ?? []).map((order) => order.customer)))
			saveCustomer(books, desk, customer(number))
		const { days } = optionsOf(args)
		const change = days === 'month-first' ? { days: 'month first' as const } : undefined
		const id = await lookAt(books, desk, file, readFileSync(join(folder, file)), change)
		const kept = readFile(books, id)
		if (wanted.error) return expect(kept?.trouble).toMatch(/\w.*\./)
		const review = kept && reviewOf(kept)
		expect(readingSchema.parse(JSON.parse(kept?.reading ?? '{}')).kind).toBe('orders')
		expect(openQuestions(review, readAnswers('{}'))).toEqual(wanted.questions)
		const staging = openStaging(books.folder, id)
		const orders = staging.db.prepare('SELECT seq, number FROM staged_order ORDER BY first_row').all() as {
			seq: number
			number: string
		}[]
		const lines = staging.db.prepare(
			'SELECT item_code AS item, quantity, unit_price AS unitPrice FROM staged_line WHERE id > ? AND id < ? ORDER BY id',
		)
		const linesOf = (seq: number) =>
			(lines.all(seq * 1e6, (seq + 1) * 1e6) as Line[]).map((line) => ({
				...line,
				unitPrice: line.unitPrice === null ? null : plainNumber(line.unitPrice),
			}))
		const found = orders.map(({ seq, number }) => ({ number, lines: linesOf(seq) }))
		const refused = refusedRows(staging, 0, 1000).map(({ row }) => row)
		staging.close()
		expect(found).toEqual(
			(wanted.orders ?? []).map(({ number, lines: own }) => ({
				number,
				lines: own.map(({ item, quantity, unitPrice }) => ({ item: item.toUpperCase(), quantity, unitPrice })),
			})),
		)
		expect(refused).toEqual((wanted.refused ?? []).map(({ row }) => row))
	})
})
