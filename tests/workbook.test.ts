import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { zipSync } from 'fflate'
import { describe, expect, test } from 'vitest'
import writeXlsx from 'write-excel-file/node'
import { sourceOf } from '@/archive/source'
import type { SheetRow } from '@/intake/cell'
import { readSource } from '@/intake/look'
import { workbookOf } from './workbooks'

const read = async (bytes: Buffer, given?: Parameters<typeof readSource>[2]) => {
	const rows: SheetRow[] = []
	const look = await readSource(sourceOf('x', bytes), { add: (row) => rows.push(row) }, given)
	return { rows, look, why: look.ok ? '' : look.refusal.message }
}
const text = (value: string) => Buffer.from(value)
/** A workbook of one sheet. */
const workbook = (sheet: string, more: Record<string, Buffer> = {}) => workbookOf({ One: sheet }, more)
const head =
	'<row r="1"><c r="A1" t="str"><v>Order No</v></c><c r="B1" t="str"><v>Order date</v></c><c r="C1" t="str"><v>Customer No</v></c></row>'

describe('a workbook', () => {
	test('is read from the sheet that has a head, wherever on it the table stands, each cell by what it keeps', async () => {
		const { rows, look } = await read(readFileSync(join(import.meta.dirname, '../demo/samples/tarn.xlsx')))
		expect(look.ok && look.value.settings).toEqual({ sheet: 'Orders', hidden: 'refused' })
		expect(look.ok && look.value.head).toMatchObject({
			row: 3,
			names: ['', 'Order No', 'Order date', 'Customer No', 'Item', 'Quantity', 'Unit price', 'Discount'],
		})
		expect(rows.at(-1)?.cells.slice(1)).toEqual([
			{ is: 'number', text: '70102' },
			{ is: 'day', text: '2026-10-13' },
			'ARDL01',
			'ROPE-16',
			{ is: 'number', text: '80.5' },
			{ is: 'number', text: '2.1' },
			{ is: 'percent', text: '12.5' },
		])
	})

	test('that our own exports write is read back the same', async () => {
		const bytes = await writeXlsx([
			[{ value: 'Number' }, { value: 'Name' }, { value: 'Total' }],
			[{ value: 'SK-1' }, { value: 'Mørk & <Sons>' }, { value: 1234.56, format: '#,##0.00' }],
		]).toBuffer()
		const { rows } = await read(Buffer.from(bytes))
		expect(rows[1]?.cells).toEqual(['SK-1', 'Mørk & <Sons>', { is: 'number', text: '1234.56' }])
	})

	test('keeps the value of a formula, the long numbers and the errors that it shows; a date counts from 1904 where it says so', async () => {
		const cells =
			'<row r="3"><c r="A3"><f>1+1</f><v>450012345678</v></c><c r="B3" t="e"><v>#N/A</v></c><c r="C3"><v>0.30000000000000004</v></c></row>'
		const { rows } = await read(workbook(`<worksheet><sheetData>${head}${cells}</sheetData></worksheet>`))
		// A row that is not written stands for a blank one.
		expect(rows.map(({ row }) => row)).toEqual([1, 2, 3])
		expect(rows[2]?.cells).toEqual([
			{ is: 'number', text: '450012345678' },
			{ is: 'error', text: '#N/A' },
			{ is: 'number', text: '0.3' },
		])
	})
})

test('rows that a sheet hides are not taken until a person says so', async () => {
	const row = (number: number, hidden: string) =>
		`<row r="${number}"${hidden}><c r="A${number}" t="str"><v>O${number}</v></c></row>`
	const bytes = workbook(
		`<worksheet><sheetData>${head}${row(2, '')}${row(3, ' hidden="1"')}${row(4, ' hidden="true"')}${row(5, ' hidden="0"')}<row r="6" hidden="1"/></sheetData></worksheet>`,
	)
	const troubled = (rows: SheetRow[]) => rows.filter(({ trouble }) => trouble !== undefined).map(({ row: at }) => at)
	const { rows } = await read(bytes)
	expect(troubled(rows)).toEqual([3, 4])
	const taken = await read(bytes, { format: 'xlsx', settings: { sheet: 'One', hidden: 'taken' }, headRow: null })
	expect([taken.rows.length, troubled(taken.rows)]).toEqual([6, []])
})

describe('what is made to harm is refused in words', () => {
	const bomb = Buffer.alloc(60_000_000, 0x20)
	test.each([
		[
			'entities of its own',
			() => workbook(`<!DOCTYPE x [<!ENTITY a "aa">]><worksheet><sheetData>${head}</sheetData></worksheet>`),
			'it declares entities',
		],
		[
			'a sheet that grows a thousandfold',
			() => workbook(`<worksheet><sheetData>${head}</sheetData></worksheet>`.concat(bomb.toString())),
			'would unpack to',
		],
		['XML that ends in the middle', () => workbook(`<worksheet><sheetData>${head}`), 'cannot be read'],
		[
			'an archive without a workbook',
			() => Buffer.from(zipSync({ 'a.txt': text('x') })),
			'an archive without a workbook',
		],
		[
			'an archive that is torn',
			() => workbook(`<worksheet><sheetData>${head}</sheetData></worksheet>`).subarray(0, 300),
			'cannot be opened',
		],
		[
			'rows out of order',
			() => workbook(`<worksheet><sheetData><row r="5"/>${head}</sheetData></worksheet>`),
			'out of order',
		],
		['an old workbook', () => Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]), 'of an old kind'],
		[
			'a web page by the name of a sheet',
			() => text('<html><table><tr><td>1</td></tr></table></html>'),
			'It is a web page',
		],
		['JSON that ends in the middle', () => text('[{"orderNumber": 1}, {"orderNumber"'), 'not JSON as it should be'],
		['JSON that is nested without end', () => text('['.repeat(100_000)), 'nested more than'],
		[
			'a record without end',
			() => text(`Order No,Date,Account\n1,2,"${'x'.repeat(11_000_000)}`),
			'does not end within',
		],
		[
			'ten thousand columns',
			() => text(`${Array.from({ length: 10_000 }, (_, at) => `c${at}`).join(',')}\n`),
			'at most 5000 can be read',
		],
		['nothing at all', () => text(''), 'is empty'],
	] as const)('%s', async (_, make, words) => {
		expect((await read(make())).why).toContain(words)
	})

	test('a cell of five million letters, letters that turn the line round, and combining ones are read as they are', async () => {
		const long = 'x'.repeat(5_000_000)
		const { rows } = await read(text(`Order No,Date,Account\n1,\u202eabc,e\u0301\n2,${long},x\n`))
		expect(rows[1]?.cells).toEqual(['1', '\u202eabc', 'e\u0301'])
		expect(String(rows[2]?.cells[1]).length).toBe(5_000_000)
	})
})
