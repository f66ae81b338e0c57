import { expect, test } from 'vitest'
import { checkLayout, emptyOn } from '@/layout/check'
import { compileLayout } from '@/layout/draw'
import { looksOf } from '@/layout/looks'
import type { LinesPiece } from '@/layout/pieces/linesSchema'
import { layoutSchema } from '@/layout/schema'
import { drawDocument } from '@/pdf/makeDocument'
import { bringIn } from '@/runs/bringIn/atOnce'
import { assetsOfBooks, assetsWith, hashesFor, hashesIn } from '@/runs/files/assets'
import { setLockedCustomer } from '@/runs/files/lock'
import { pdfOf } from '@/runs/files/pdfOf'
import { checkForRelease } from '@/runs/layouts/checks'
import { chooseLayout, keepStep, makeLayout, releaseLayout } from '@/runs/layouts/layouts'
import { previewLayout } from '@/runs/layouts/preview'
import { readItem, saveItem } from '@/store/catalogue'
import { customerByNumber, saveCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { allOwnFields, setOwnValue } from '@/store/ownFields'
import { benchRows } from '@/store/places'
import { pdfText } from '../../../tests/browser/pdf'
import { gatherRun, nextStep, work } from '../../../tests/runs'
import { customer, desk, firmBooks } from '../../../tests/support'
import { dropOwnField, makeOwnField, ownOfForm, setPictures } from './ownFields'

const svg = (color: string) =>
	Buffer.from(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><rect width="40" height="20" fill="${color}"/></svg>`,
	)
const picture = (name: string, color = '#123456') => ({ name, type: 'image/svg+xml', bytes: svg(color) })
const bring = async (books: ReturnType<typeof firmBooks>, name: string, text: string) => {
	const accepted = await bringIn(books, desk, name, Buffer.from(text))
	if (!accepted.ok) throw new Error(accepted.message)
	return accepted.words
}
const photographs = (of: 'lines' = 'lines'): LinesPiece => ({
	id: 'shown',
	type: 'lines',
	of,
	columns: [
		{ id: 'p', head: '', cell: [], width: 40, picture: { field: 'line.item.own.picture.photograph', width: 36 } },
		{
			id: 't',
			head: 'Text',
			cell: [[{ field: 'line.description' }, { field: 'line.own.text.batch', before: ', batch ' }]],
			width: 'rest',
		},
		{ id: 's', head: 'Shelf', cell: [[{ field: 'line.item.own.text.shelf' }]], width: 80 },
		{ id: 'd', head: 'Promised', cell: [[{ field: 'line.order.own.day.promised' }]], width: 80 },
	],
})
/** A layout that shows own fields of every kind. */
function layoutWithOwn() {
	const plain = layoutSchema.parse(looksOf('invoice')[0])
	return layoutSchema.parse({
		...plain,
		body: [
			...plain.body,
			photographs(),
			{ id: 'their-mark', type: 'picture', of: { field: 'customer.own.picture.mark' }, width: 60, height: 30 },
			{ id: 'goods-to', type: 'address', of: 'delivery', label: 'Goods went to' },
			{ id: 'by', type: 'facts', rows: [{ label: 'Looked after by', value: [{ field: 'customer.own.text.keeper' }] }] },
		],
	})
}

test('own fields come in with files, stand on the paper, and a paper that was issued keeps its pictures', async () => {
	const books = firmBooks()
	for (const [of, name, type] of [
		['customer', 'Keeper', 'text'],
		['item', 'Shelf', 'text'],
		['order', 'Promised', 'day'],
		['line', 'Batch', 'text'],
	] as const)
		expect(makeOwnField(books, desk, { of, name, type })).toEqual({ ok: true })
	await bring(books, 'items.csv', 'Item,Description,Unit price,VAT code,Shelf\nROPE,Mooring line,2.10,STD,C-4\n')
	await bring(books, 'customers.csv', 'Customer number,Customer,Keeper,Deliver to\nA1,Customer A1,Ruan,Slip 9\n')
	expect(await setPictures(books, desk, 'item', 'photograph', [picture('rope.svg')])).toMatchObject({ ok: true })
	expect(await setPictures(books, desk, 'customer', 'mark', [picture('a1.svg', '#aa0000')])).toMatchObject({ ok: true })
	const id = makeLayout(books, desk, 'invoice', 'With own', { nothing: true })
	if (!id.ok || !id.id) throw new Error('no layout')
	const kept = keepStep(books, desk, id.id, 1, JSON.stringify(layoutWithOwn()), 'own')
	expect(await releaseLayout(books, desk, id.id, kept.ok ? (kept.id ?? 0) : 0, 'own fields')).toMatchObject({
		ok: true,
	})
	expect(chooseLayout(books, desk, { kind: 'invoice', customer: null, language: '', layout: id.id })).toMatchObject({
		ok: true,
	})
	await bring(
		books,
		'orders.csv',
		'Order No,Order date,Cust. No,Item,Description,Qty,Unit price,VAT code,Batch,Promised\n1,2026-10-03,A1,ROPE,Line,10,2.10,STD,B-77,2026-10-20\n',
	)
	const run = await gatherRun(books, [])
	const [draft] = benchRows(books, run, 10)
	const content = readAnyDocument(books, draft?.id ?? 0)?.content
	expect(content).toMatchObject({
		customer: { own: { keeper: 'Ruan' }, delivery: ['Slip 9'] },
		orders: [{ own: { promised: '2026-10-20' } }],
		lines: [{ own: { batch: 'B-77' }, itemOwn: { shelf: 'C-4', photograph: expect.stringMatching(/^[0-9a-f]{64}$/) } }],
	})
	await nextStep(books, run)
	await nextStep(books, run)
	const made = await pdfOf(books, draft?.id ?? 0)
	const text = (await pdfText(made?.bytes ?? Buffer.alloc(0))).join('\n')
	for (const words of ['batch B-77', 'C-4', '20 Oct 2026', 'Goods went to', 'Slip 9', 'Ruan'])
		expect(text).toContain(words)
	// Another picture, and none any more: the paper that was issued is made again with its own.
	await setPictures(books, desk, 'item', 'photograph', [picture('ROPE.svg', '#00ff00')])
	const again = readAnyDocument(books, draft?.id ?? 0)
	expect(hashesIn(JSON.stringify(again?.content)).size).toBe(2)
	const { rmSync } = await import('node:fs')
	rmSync(`${books.folder}/files/${again?.file_name}`)
	expect((await pdfOf(books, draft?.id ?? 0))?.sha256).toBe(made?.sha256)
})

test('a draft follows its item’s and customer’s own fields until it is numbered', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, ['1,2026-10-03,A1,ROPE,Line,10,2.10,0,STD,0,'])
	const [draft] = benchRows(books, run, 10)
	await setPictures(books, desk, 'item', 'photograph', [picture('ROPE.svg')])
	setOwnValue(books, desk, 'customer', 'A1', 'mark', 'a'.repeat(64))
	await work(books)
	const { lookAgain } = await import('@/runs/recheck/lookAgain')
	lookAgain(books, desk, run)
	const content = () => JSON.stringify(readAnyDocument(books, draft?.id ?? 0)?.content)
	expect(content()).toContain('"photograph":')
	expect(content()).toContain('a'.repeat(64))
	setOwnValue(books, desk, 'item', 'ROPE', 'photograph', '')
	lookAgain(books, desk, run)
	expect(content()).not.toContain('itemOwn')
})

test('pictures that cannot be taken change nothing, and each is named', async () => {
	const books = firmBooks()
	const set = (...files: { name: string; type: string; bytes: Buffer }[]) =>
		setPictures(books, desk, 'item', 'photograph', files)
	for (const [files, words] of [
		[[picture('ROPE.svg'), picture('NONE.svg')], 'NONE: no item has this code.'],
		[[picture('ROPE.svg'), picture('rope.png')], 'there are two pictures'],
		[[picture('ROPE.svg'), { ...picture('X.png'), type: 'image/png' }], 'X.png: The PNG cannot be read'],
		[
			[{ ...picture('ROPE.svg'), bytes: Buffer.from('<svg viewBox="0 0 1 1"><script>x</script></svg>') }],
			'ROPE.svg: The SVG',
		],
		[[{ ...picture('ROPE.svg'), bytes: Buffer.alloc(2_000_001) }], 'over 2 MB'],
		[[], 'Choose the pictures'],
	] as const) {
		const outcome = await set(...files)
		expect(outcome.ok ? '' : outcome.message).toContain(words)
		expect(readItem(books, 'ROPE')?.own).toBe('{}')
	}
})

test('a field that stands on a layout is not taken away; one that is gone is said on the layout that names it', async () => {
	const books = firmBooks()
	makeOwnField(books, desk, { of: 'item', name: 'Shelf', type: 'text' })
	expect(makeOwnField(books, desk, { of: 'item', name: 'shelf', type: 'day' })).toMatchObject({ ok: false })
	expect(makeOwnField(books, desk, { of: 'line', name: 'Photo', type: 'picture' })).toMatchObject({ ok: false })
	// A name by which files fill another field would take its column, unnoticed.
	expect(makeOwnField(books, desk, { of: 'line', name: 'Disc %', type: 'number' })).toMatchObject({
		message: 'Files have “Disc %” for “Line discount” already. Choose another name.',
	})
	const id = makeLayout(books, desk, 'invoice', 'Shelves', { nothing: true })
	if (!id.ok || !id.id) throw new Error('no layout')
	keepStep(books, desk, id.id, 1, JSON.stringify(layoutWithOwn()), 'own')
	const held = dropOwnField(books, desk, 'item', 'shelf')
	expect(held.ok ? '' : held.message).toContain('Shelf is used by Shelves')
	keepStep(books, desk, id.id, 2, JSON.stringify(looksOf('invoice')[0]), 'plain')
	expect(dropOwnField(books, desk, 'item', 'shelf')).toEqual({ ok: true })
	expect(
		checkLayout(layoutWithOwn(), allOwnFields(books))
			.map(({ words }) => words)
			.join(),
	).toContain('line.item.own.text.shelf')
	// Nor while it opens somebody's PDFs: their lock would be lifted unnoticed when their particulars are saved.
	makeOwnField(books, desk, { of: 'customer', name: 'Code word', type: 'text' })
	setLockedCustomer(books, desk, customer('A1', { lock: 'customer.own.text.code-word' }), '')
	expect(dropOwnField(books, desk, 'customer', 'code-word')).toMatchObject({
		message: expect.stringContaining('the lock of one customer’s PDFs'),
	})
	// Its key is given to no other.
	makeOwnField(books, desk, { of: 'item', name: 'Shelf', type: 'text' })
	expect(allOwnFields(books).find(({ name }) => name === 'Shelf')?.key).toBe('shelf-2')
})

test('a missing photograph is said while the layout is made, with how many papers it touches', async () => {
	const books = firmBooks()
	await gatherRun(books, ['1,2026-10-03,A1,ROPE,Line,10,2.10,0,STD,0,', '2,2026-10-03,C1,OTHER,Thing,1,2.10,0,STD,0,'])
	await setPictures(books, desk, 'item', 'photograph', [picture('ROPE.svg')])
	await work(books)
	const plain = layoutSchema.parse(looksOf('invoice')[0])
	const seen = await previewLayout(books, JSON.stringify({ ...plain, body: [...plain.body, photographs()] }), 0)
	const words = 'findings' in seen ? seen.findings.map((one) => one.words).join('\n') : ''
	expect(words).toContain('“Photograph” is empty on')
	// And a picture that the books have lost leaves its place empty, with a note, instead of breaking the paper.
	const content = readAnyDocument(books, benchRows(books, 1, 10)[0]?.id ?? 0)?.content
	if (!content || content.kind === 'statement') throw new Error('no bill')
	const lost = {
		...content,
		lines: content.lines.map((line) => ({ ...line, itemOwn: { photograph: 'b'.repeat(64) } })),
	}
	const layout = compileLayout(layoutWithOwn())
	const art = { ...(await assetsWith(lost, null, assetsOfBooks(books))), layout }
	expect(drawDocument(lost, layout, art).notes.map(({ what }) => what)).toContain('a picture of a line is missing')
	expect(emptyOn(layoutWithOwn(), []).length).toBe(0)
})

test('values of a form are taken by their types, and a file without a column leaves them as they are', async () => {
	const books = firmBooks()
	const fields = [
		{ of: 'item' as const, key: 'weight', name: 'Weight', type: 'number' as const },
		{ of: 'item' as const, key: 'since', name: 'Since', type: 'day' as const },
	]
	expect(ownOfForm(fields, '{}', { 'own.weight': '1.5', 'own.since': '2026-02-29' }, true)).toMatchObject({ ok: false })
	expect(ownOfForm(fields, '{}', { 'own.weight': 'much' }, true)).toMatchObject({ ok: false })
	expect(ownOfForm(fields, '{"weight":"1"}', { 'own.weight': '', 'own.since': '2026-02-28' }, true)).toEqual({
		ok: true,
		own: '{"since":"2026-02-28","weight":"1"}',
	})
	expect(ownOfForm(fields, '{"weight":"1"}', { 'own.weight': '' }, false)).toEqual({ ok: true, own: '{}' })
	const item = readItem(books, 'ROPE')
	if (!item) throw new Error('no item')
	saveItem(books, desk, { ...item, own: '{"group":"Lines"}' })
	saveCustomer(books, desk, customer('A1', { own: '{"mark":"x"}', delivery: 'Slip 2' }))
	await bring(books, 'items.csv', 'Item,Description,Unit price,VAT code\nROPE,Mooring line,2.20,STD\n')
	await bring(books, 'customers.csv', 'Customer number,Customer,Email\nA1,Customer A1,a@b.example\n')
	expect(readItem(books, 'ROPE')).toMatchObject({ unit_price: '2.20', own: '{"group":"Lines"}' })
	expect(customerByNumber(books, 'A1')).toMatchObject({ own: '{"mark":"x"}', delivery: 'Slip 2' })
	// A column of it that is empty in a row takes the value away, as every other column does.
	await bring(books, 'items-2.csv', 'Item,Description,Unit price,VAT code,Group\nROPE,Mooring line,2.20,STD,\n')
	expect(readItem(books, 'ROPE')?.own).toBe('{}')
})

test('a photograph of too few points is said before the release', async () => {
	const books = firmBooks()
	await gatherRun(books, ['1,2026-10-03,A1,ROPE,Line,10,2.10,0,STD,0,'])
	const jpeg = Buffer.concat([
		Buffer.from(
			`/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP${'/'.repeat(86)}wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA=`,
			'base64',
		),
		Buffer.from([0xff, 0xd9]),
	])
	expect(
		await setPictures(books, desk, 'item', 'photograph', [{ name: 'rope.jpg', type: 'image/jpeg', bytes: jpeg }]),
	).toMatchObject({ ok: true })
	await work(books)
	const plain = layoutSchema.parse(looksOf('invoice')[0])
	const all = await checkForRelease(books, JSON.stringify({ ...plain, body: [...plain.body, photographs()] }))
	const found = all.filter(({ code }) => code !== 'field')
	expect(found.map(({ level, piece, code }) => `${level} ${piece} ${code}`)).toEqual(['look shown dpi'])
	expect(found[0]?.words).toContain('has 2 points to the inch')
	// Replaced by a drawing it is sharp; the answer says that there was another.
	const again = await setPictures(books, desk, 'item', 'photograph', [picture('ROPE.svg')])
	expect(again).toMatchObject({ words: expect.stringContaining('1 had another before') })
})

test('photographs are read for papers of a layout that shows them, and for no other', async () => {
	const books = firmBooks()
	await setPictures(books, desk, 'item', 'photograph', [picture('ROPE.svg')])
	const run = await gatherRun(books, ['1,2026-10-03,A1,ROPE,Line,10,2.10,0,STD,0,'])
	const content = readAnyDocument(books, benchRows(books, run, 10)[0]?.id ?? 0)?.content
	if (!content) throw new Error('no content')
	const [plain] = looksOf('invoice').map((look) => JSON.stringify(look))
	const shows = JSON.stringify(layoutWithOwn())
	expect(hashesFor(content, plain ?? '').size).toBe(0)
	expect(hashesFor(content, shows).size).toBe(1)
	expect((await assetsWith(content, plain ?? '', assetsOfBooks(books))).pictures.size).toBe(0)
	expect((await assetsWith(content, shows, assetsOfBooks(books))).pictures.size).toBe(1)
	const headed = { ...content, issuer: { ...content.issuer, logo: 'c'.repeat(64) } }
	expect([...hashesFor(headed, plain ?? '')]).toEqual(['c'.repeat(64)])
})
