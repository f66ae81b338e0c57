import { parse } from 'csv-parse/sync'
import { strFromU8, unzipSync } from 'fflate'
import { expect, test } from 'vitest'
import { fileAnswer } from './fileAnswer'
import { type TableFile, tableFile } from './tableFile'

const sheet: TableFile = {
	name: 'accounts 2026-10-31',
	head: ['Customer', 'Balance'],
	rows: [
		['=Brack "&" Sons', { minor: 123_456, currency: 'GBP' }],
		['Kaigan', { minor: -5000, currency: 'JPY' }],
	],
}

test('a CSV file has the amounts with their currency’s digits, and no cell that a spreadsheet would take for a formula', async () => {
	const answer = await tableFile(sheet, 'csv')
	expect(answer.headers.get('content-disposition')).toContain('accounts%202026-10-31.csv')
	expect(parse(Buffer.from(await answer.arrayBuffer()), { bom: true })).toEqual([
		['Customer', 'Balance'],
		[`'=Brack "&" Sons`, '1234.56'],
		['Kaigan', '-5000'],
	])
})

test('a cell is inert however it begins, and a figure stays one', async () => {
	const cells = [
		'+44 20 x',
		'-2+3+cmd|calc',
		'=1+1',
		'@SUM(A1)',
		'\tx',
		'\rx',
		'+12',
		'-5.00',
		'-1,234.50',
		'+44 20 79',
		'plain',
	]
	const answer = await tableFile({ name: 'x', head: ['A'], rows: cells.map((cell) => [cell]) }, 'csv')
	const read = parse(Buffer.from(await answer.arrayBuffer()), { bom: true }).map((row: string[]) => row[0])
	expect(read.slice(1)).toEqual([
		...["'+44 20 x", "'-2+3+cmd|calc", "'=1+1", "'@SUM(A1)", "'\tx", "'\rx"],
		...['+12', '-5.00', '-1,234.50', '+44 20 79', 'plain'],
	])
	expect(answer.headers.get('content-disposition')).toMatch(/^attachment/)
})

test('only a PDF and a PNG are shown by the browser; what else there is is saved, under its own type, and never guessed at', () => {
	const how = (type: string) => {
		const { headers } = fileAnswer(Buffer.from('x'), { type, name: 'a b.html' })
		expect(headers.get('x-content-type-options')).toBe('nosniff')
		return [headers.get('content-type'), headers.get('content-disposition')?.split(';')[0]]
	}
	expect(how('application/pdf')).toEqual(['application/pdf', 'inline'])
	expect(how('image/png')).toEqual(['image/png', 'inline'])
	for (const type of [
		'text/html',
		'image/svg+xml',
		'text/xml',
		'application/xhtml+xml',
		'text/html; charset=utf-8',
		'image/jpeg',
	])
		expect(how(type)).toEqual([type, 'attachment'])
	expect(how('text/html\r\nx: y')).toEqual(['application/octet-stream', 'attachment'])
})

test('a spreadsheet has the amounts as numbers with their currency’s digits', async () => {
	const parts = unzipSync(new Uint8Array(await (await tableFile(sheet, 'xlsx')).arrayBuffer()))
	const part = (name: string) => strFromU8(parts[name] ?? new Uint8Array())
	const cells = [...part('xl/worksheets/sheet1.xml').matchAll(/<v>([^<]*)<\/v>/g)].map(([, value]) => value)
	expect(cells).toEqual(expect.arrayContaining(['1234.56', '-5000']))
	expect(part('xl/styles.xml')).toContain('#,##0.00')
})
