import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { SheetRow } from '../../cell'
import { sourceOf } from '../../source'
import { recognise } from '..'
import { report } from '.'
import { type Marks, marksSchema, namesOf, type Spot } from './marks'

const sample = (name: string) => sourceOf(name, readFileSync(`demo/samples/${name}`))
const text = (words: string, at: number | null): Spot => ({ text: words, at, like: 'text' })
const value = (name: string, label: Spot | null, from: number, to: number | null, more = {}) => ({
	names: [name],
	label,
	line: 0,
	lines: 1,
	from,
	to,
	whole: false,
	...more,
})
const column = (name: string, from: number, to: number | null, more = {}) => ({
	name,
	line: 0,
	from,
	to,
	wraps: false,
	...more,
})

const billing = (): Marks =>
	marksSchema.parse({
		top: [
			'TARN BOOKING OFFICE                     PICKING AND BILLING LIST             PAGE   1',
			'RUN 31/10/26 18.04                                                           31/10/26',
		],
		begins: text('ORDER:', 0),
		number: 'Order number',
		need: ['Order number', 'Order date', 'Customer number'],
		values: [
			value('Order number', text('ORDER:', 0), 6, 14),
			value('Order date', text('DATE:', 30), 5, 20),
			value('Customer number', text('ACCT:', 54), 5, null),
			value('Purchase order', text('THEIR REF:', 50), 10, null),
			value('', text('SHIP TO:', 0), 10, 48, { names: ['Delivery 1', 'Delivery 2', 'Delivery 3'], lines: 3 }),
			value('Order total', text('ORDER TOTAL', 53), 11, null),
			value('Total', text('REPORT TOTAL', 52), 12, null, { whole: true }),
		],
		rows: {
			under: text('ITEM', 0),
			after: 1,
			height: 1,
			key: ['Quantity'],
			columns: [
				column('Item', 0, 13),
				column('Description', 13, 49, { wraps: true }),
				column('Quantity', 49, 56),
				column('Unit', 57, 60),
				column('Unit price', 60, 70),
				column('Line total', 70, null),
			],
		},
	})

async function read(name: string, settings: Marks) {
	const rows: SheetRow[] = []
	await report.read(sample(name), settings, { row: (row) => rows.push(row), columns: () => {} })
	const names = namesOf(settings)
	const at = (row: SheetRow | undefined, key: string) => row?.cells[names.indexOf(key)]
	return { rows, at }
}

describe('a text report', () => {
	it('is known by how it is printed; a table is not', async () => {
		const found = recognise(sample('tarn-billing.txt'))
		expect(found.ok && found.value.name).toBe('report')
		expect((await report.propose(sample('yard-dockets.prn'))).control).toBe(true)
		const table = recognise(sourceOf('a.csv', Buffer.from('Order,Qty\n1,2\n2,3\n3,4\n4,5\n5,6\n6,7\n')))
		expect(table.ok && table.value.name).toBe('csv')
	})

	it('has every row of every order, wrapped texts whole, orders that run over pages one', async () => {
		const { rows, at } = await read('tarn-billing.txt', billing())
		expect(rows.filter(({ trouble }) => trouble)).toEqual([])
		expect(new Set(rows.map((row) => at(row, 'Order number'))).size).toBe(163)
		expect(at(rows[1], 'Description')).toBe('RADAR REFLECTOR, OCTAHEDRAL (CUT AND WHIPPED, LABELLED FOR THE BERTH)')
		const sum = rows.slice(0, -1).reduce((all, row) => all + Number(String(at(row, 'Line total')).replace(/,/g, '')), 0)
		expect(sum.toFixed(2)).toBe('464284.85')
		expect(rows.at(-1)?.cells[0]).toBe('Total')
	})
})
