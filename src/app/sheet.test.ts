import { parse } from 'csv-parse/sync'
import { strFromU8, unzipSync } from 'fflate'
import { expect, test } from 'vitest'
import { type Sheet, sheetFile } from './sheet'

const sheet: Sheet = {
	name: 'accounts 2026-10-31',
	head: ['Customer', 'Balance'],
	rows: [
		['=Brack "&" Sons', { minor: 123_456, currency: 'GBP' }],
		['Kaigan', { minor: -5000, currency: 'JPY' }],
	],
}

test('a CSV file has the amounts with their currency’s digits, and no cell that a spreadsheet would take for a formula', async () => {
	const answer = await sheetFile(sheet, 'csv')
	expect(answer.headers.get('content-disposition')).toContain('accounts%202026-10-31.csv')
	expect(parse(Buffer.from(await answer.arrayBuffer()), { bom: true })).toEqual([
		['Customer', 'Balance'],
		[`'=Brack "&" Sons`, '1234.56'],
		['Kaigan', '-5000'],
	])
})

test('a spreadsheet has the amounts as numbers with their currency’s digits', async () => {
	const parts = unzipSync(new Uint8Array(await (await sheetFile(sheet, 'xlsx')).arrayBuffer()))
	const part = (name: string) => strFromU8(parts[name] ?? new Uint8Array())
	const cells = [...part('xl/worksheets/sheet1.xml').matchAll(/<v>([^<]*)<\/v>/g)].map(([, value]) => value)
	expect(cells).toEqual(expect.arrayContaining(['1234.56', '-5000']))
	expect(part('xl/styles.xml')).toContain('#,##0.00')
})
