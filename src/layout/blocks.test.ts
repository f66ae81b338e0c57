import fc from 'fast-check'
import { expect, test } from 'vitest'
import { writeHtml } from '@/companions/html'
import { look, lookNames } from '../../tests/looks'
import { layouts, papers, tools } from '../../tests/pieces'
import { invoice } from '../../tests/support'
import type { Block } from './blockKit'
import { blocksOf } from './blocks'
import { compileLayout, drawPaper } from './draw'
import type { Content } from './fieldTypes'
import { samplePaper } from './sample'
import { type Layout, layoutSchema } from './schema'

/** All that blocks say, in their order. */
const said = (blocks: readonly Block[]): string[] =>
	blocks.flatMap((block): string[] => {
		if (block.is === 'text') return block.runs.map(({ text }) => text)
		if (block.is === 'box') return said(block.blocks)
		if (block.is === 'beside') return block.columns.flatMap((column) => said(column.blocks))
		if (block.is !== 'table') return []
		return [{ cells: block.head ?? [] }, ...block.rows].flatMap(({ cells }) =>
			cells.flatMap(({ lines }) => lines.flat().map(({ text }) => text)),
		)
	})
/** Blocks, those within others too. */
const all = (blocks: readonly Block[]): Block[] =>
	blocks.flatMap((block) => [
		block,
		...(block.is === 'box'
			? all(block.blocks)
			: block.is === 'beside'
				? block.columns.flatMap((own) => all(own.blocks))
				: []),
	])
const letters = (texts: readonly string[]) => texts.join('').replace(/[\s\u00a0\u202f]/g, '')
const drawn = (layout: Layout, content: Content) =>
	drawPaper(compileLayout(layout), content, tools, null).pages.map((page) =>
		page.flatMap((mark) => (mark.type === 'text' ? [mark.text] : [])),
	)
/** How often each letter stands in a text. */
function counts(text: string): Map<string, number> {
	const found = new Map<string, number>()
	for (const letter of text) found.set(letter, (found.get(letter) ?? 0) + 1)
	return found
}

test('whatever the pieces: what the paper says is in the blocks, and nothing else', () => {
	fc.assert(
		fc.property(layouts, papers, (given, content) => {
			// Marks of lists are the other format's own; a head or foot of pages stands there once, on paper on every page.
			const layout = layoutSchema.parse({ ...given, head: [], foot: [] })
			const pages = drawn(layout, content)
			const paper = letters(pages.flat().filter((text) => !/^(•|\d+\.)$/.test(text)))
			const own = letters(said(blocksOf(compileLayout(layout), content, tools)))
			const repeated = pages.length - 1
			if (repeated === 0) expect([...own].sort().join('')).toBe([...paper].sort().join(''))
			// On several pages the table's head comes again; no letter is there less often.
			const there = counts(paper)
			for (const [letter, count] of counts(own)) expect(there.get(letter) ?? 0).toBeGreaterThanOrEqual(count)
		}),
		{ numRuns: 120 },
	)
})

test.each(lookNames)('the look %s as blocks has its lines in one table with its head, and its figures', (name) => {
	const content = invoice(Array.from({ length: 90 }, (_, place) => ({ quantity: '2', unitPrice: `${place + 1}.50` })))
	const blocks = blocksOf(look('invoice', name), content, tools)
	const table = all(blocks).find((block) => block.is === 'table' && block.rows.length >= 90)
	if (table?.is !== 'table') throw new Error('no table')
	expect(table.head).not.toBe(null)
	const rows = table.rows.map(({ cells }) =>
		cells.flatMap(({ lines }) => lines.flat().map(({ text }) => text)).join(' '),
	)
	const times = content.lines.map(
		({ description }) => rows.filter((row) => row.includes(`${description} `) || row.endsWith(description)).length,
	)
	expect(new Set(times)).toEqual(new Set([1]))
	expect(said(blocks).join(' ')).toContain('9,936')
	for (const row of table.rows) expect([1, table.shares.length]).toContain(row.cells.length)
})

test('lines out of sight are said, and what names pages is left out', () => {
	const plain = layoutSchema.parse(look('invoice').layout)
	const layout = layoutSchema.parse({
		...plain,
		body: plain.body.map((piece) =>
			piece.type === 'lines' && piece.of === 'lines'
				? { ...piece, only: { all: [{ field: 'line.net', is: 'above', value: '2' }] } }
				: piece,
		),
		foot: [{ id: 'n', type: 'words', says: { en: [{ runs: [{ text: 'Page ' }, { field: 'page' }] }] } }],
	})
	const content = invoice([
		{ quantity: '1', unitPrice: '1' },
		{ quantity: '1', unitPrice: '5' },
	])
	const text = said(blocksOf(compileLayout(layout), content, tools)).join(' ')
	expect(text).toMatch(/Not listed here: 1 .*1\.00/)
	expect(text).not.toContain('Page')
})

test('nothing in a value becomes markup, and a statement is a page too', () => {
	const evil = '<script>alert(1)</script> & "quoted" \u0007'
	const sample = samplePaper('statement')
	const content = { ...sample, customer: { ...sample.customer, name: evil } }
	const html = writeHtml({
		...{ blocks: blocksOf(look('statement', 'Ledger'), content, tools), title: evil, author: evil, day: '2026-10-31' },
		...{ language: 'en', size: { width: 595, height: 842 }, margins: { top: 40, right: 40, bottom: 40, left: 40 } },
		...{ text: { family: 'source-sans', size: 10, color: '000000' }, pictures: new Map() },
	}).toString()
	expect(html).not.toContain('<script>')
	expect(html).not.toContain('\u0007')
	expect(html).toContain('&#60;script&#62;')
	expect(html).toContain('480.50')
	// Every table and paragraph that begins ends.
	for (const tag of ['table', 'p', 'tr', 'td', 'h1', 'h2', 'div'])
		expect(html.match(new RegExp(`<${tag}[ >]`, 'g'))?.length ?? 0).toBe(
			html.match(new RegExp(`</${tag}>`, 'g'))?.length ?? 0,
		)
})
