import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, test } from 'vitest'
import { removePiece, replacePiece } from '@/layout/edit'
import { looksOf } from '@/layout/looks'
import { samplePaper } from '@/layout/sample'
import type { Layout } from '@/layout/schema'
import { pdfText } from '../../tests/browser/pdf'
import { firmBooks, invoice } from '../../tests/support'
import { checkFile, drawFile } from './layout'

const folder = mkdtempSync(join(tmpdir(), 'north-tally-cli-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const path = (name: string) => join(folder, name)
const write = (name: string, value: unknown): string => {
	writeFileSync(path(name), typeof value === 'string' ? value : JSON.stringify(value))
	return path(name)
}
const [, , margin] = looksOf('invoice')
const paper = write('paper.json', invoice([{ quantity: '2', unitPrice: '10' }]))
const drawn = async (layout?: string, books = null as Parameters<typeof drawFile>[3]) => {
	const pages = await drawFile(paper, layout, path('out.pdf'), books)
	return { pages, text: (await pdfText(readFileSync(path('out.pdf')))).join(' ') }
}

test('one paper is made from its content: by the first look, by a file, by a layout of the books', async () => {
	const first = await drawn()
	expect(first).toMatchObject({ pages: 1, text: expect.stringContaining('T-0041') })
	expect((await drawn(write('margin.json', margin))).text).toContain('£24.00 Due 30 Nov 2026')
	expect((await drawn('ledger', firmBooks())).text).toContain('Amount due £24.00')
	const bytes = readFileSync(path('out.pdf'))
	await drawn('Ledger', firmBooks())
	expect(readFileSync(path('out.pdf')).equals(bytes)).toBe(true)
})

test.each<[string, () => Promise<unknown>, string]>([
	['a content that is not there', () => drawFile(path('gone.json'), undefined, path('o.pdf'), null), 'is not there'],
	[
		'a content that is none',
		() => drawFile(write('bad.json', { kind: 'invoice', number: 7 }), undefined, path('o.pdf'), null),
		'is no content of a paper',
	],
	[
		'no JSON',
		() => drawFile(write('bad2.json', 'kind=invoice'), undefined, path('o.pdf'), null),
		'is no content of a paper',
	],
	[
		'a layout for another kind of paper',
		() => drawn(write('statement.json', looksOf('statement')[0])),
		'is for papers of the kind statement',
	],
	['a layout that is none', () => drawn(write('broken.json', { ...margin, palette: [] })), 'palette'],
	['a name that no layout has', () => drawn('Nowhere', firmBooks()), 'no released layout “Nowhere”'],
])('%s is refused in words', async (_what, work, words) => {
	await expect(work()).rejects.toThrow(words)
})

test('what is wrong with a layout comes with its place; the shipped ones have nothing', () => {
	for (const kind of ['invoice', 'credit-note', 'statement'] as const)
		for (const look of looksOf(kind)) expect(checkFile(write('look.json', look))).toEqual([])
	const base = margin as Layout
	const worse = replacePiece(removePiece(base, 'logo'), 'asked', {
		type: 'words',
		id: 'asked',
		size: 5,
		says: { en: [{ runs: [{ field: 'due-dae' }] }] },
	})
	expect(checkFile(write('worse.json', worse)).map(({ level, piece, code }) => [level, piece, code])).toEqual([
		['stop', 'asked', 'field'],
		['stop', 'asked', 'size'],
	])
	expect(checkFile(write('shape.json', { ...base, page: { ...base.page, size: 'A3' } }))).toMatchObject([
		{ level: 'stop', code: 'schema', path: 'page.size' },
	])
})

test('papers of every kind are invented where the books have none, and each adds up', () => {
	for (const kind of ['invoice', 'credit-note', 'statement'] as const) {
		const own = samplePaper(kind)
		if (own.kind === 'statement')
			expect(own.items.reduce((sum, { open }) => sum + Number(open), 0)).toBeCloseTo(Number(own.total), 6)
		else expect(Number(own.priced.net) + Number(own.priced.taxTotal)).toBeCloseTo(Number(own.priced.total), 6)
	}
})
