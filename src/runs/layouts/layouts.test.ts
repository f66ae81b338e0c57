import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { simpleParser } from 'mailparser'
import { expect, test } from 'vitest'
import { noLayout } from '@/core/document'
import { newPiece, pieceOf, removePiece, replacePiece } from '@/layout/edit'
import { fieldsByKey } from '@/layout/fields'
import { languages } from '@/layout/languages'
import { looksOf, paperKinds } from '@/layout/looks'
import { readLayout } from '@/layout/readLayout'
import { type Layout, layoutSchema } from '@/layout/schema'
import { startRun } from '@/runs/bench/steps'
import { pdfOf } from '@/runs/files/pdfOf'
import { printAgain, printAll } from '@/runs/files/printAll'
import { sendTestMessage } from '@/runs/send/testMessage'
import type { Books } from '@/store/books'
import { customerByNumber, saveCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { record } from '@/store/events'
import {
	allLayouts,
	editStepOf,
	type LayoutRow,
	layoutDraft,
	layoutNamed,
	layoutRow,
	layoutsInForce,
	versionBody,
	versionsOf,
} from '@/store/layouts'
import { companionsOf } from '@/store/made'
import { adjacentPaper, runsWithPapers } from '@/store/papers'
import { benchRows } from '@/store/places'
import { pdfText } from '../../../tests/browser/pdf'
import { line, nextStep, work } from '../../../tests/runs'
import { bringOrders, customer, desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { checkForRelease } from './checks'
import {
	bringVersionBack,
	chooseLayout,
	dropLayoutDraft,
	giveLayout,
	giveLayoutInRun,
	keepStep,
	makeLayout,
	moveInSteps,
	nameLayout,
	putAway,
	releaseLayout,
} from './layouts'
import { pdfByLayout, pdfByLook, previewLayout } from './preview'
import { compareVersions } from './proof'

/** Books with a gathered run of two invoices, and the run's id. */
async function gathered(): Promise<{ books: Books; run: number; drafts: () => number[] }> {
	const books = firmBooks()
	await bringOrders(
		books,
		'8801,2026-10-03,A1,ROPE,Mooring line,10,2.10,0,STD,0,',
		'8802,2026-10-04,C1,ROPE,Mooring line,5,2.10,0,STD,0,',
	)
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	if (!started.ok || !started.id) throw new Error('not started')
	await work(books)
	const run = started.id
	return { books, run, drafts: () => benchRows(books, run, 100).map(({ id }) => id) }
}

const must = <Came extends { ok: true } | { ok: false; message: string }>(
	outcome: Came,
): Extract<Came, { ok: true }> => {
	if (!outcome.ok) throw new Error(outcome.message)
	return outcome as Extract<Came, { ok: true }>
}
const draftOf = (books: Books, id: number): { layout: Layout; step: number; body: string } => {
	const draft = layoutDraft(books, id)
	const read = readLayout(draft?.body ?? '')
	if (!draft || !read.ok) throw new Error('no draft')
	return { layout: read.layout, step: draft.step, body: draft.body }
}
const standing = (books: Books, id: number): number => editStepOf(layoutRow(books, id) as LayoutRow)
const keep = (books: Books, id: number, layout: Layout, words = 'a change') =>
	keepStep(books, desk, id, standing(books, id), JSON.stringify(layout), words)
const made = (books: Books, name = 'Ours'): number =>
	must(makeLayout(books, desk, 'invoice', name, { look: 'Ledger' })).id ?? 0

test.each(paperKinds.flatMap((kind) => looksOf(kind).map((look) => [kind, look.name, look] as const)))(
	'the look of a %s called %s may be released as it ships',
	async (_kind, _name, look) => {
		expect(await checkForRelease(firmBooks(), JSON.stringify(look))).toEqual([])
	},
)

test('a layout in the making is used by nobody; once released, drafts that get it are asked about before they are numbered', async () => {
	const { books, run, drafts } = await gathered()
	const id = made(books)
	const [first = 0] = drafts()
	expect(chooseLayout(books, desk, { kind: 'invoice', customer: null, language: '', layout: id })).toMatchObject({
		ok: false,
	})
	expect(giveLayout(books, desk, [first], id)).toMatchObject({ ok: false })
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'our first'))
	must(
		chooseLayout(books, desk, {
			kind: 'invoice',
			customer: customerByNumber(books, 'C1')?.id ?? 0,
			language: '',
			layout: id,
		}),
	)
	expect((await nextStep(books, run))?.words).toContain('layout Plain 1 → Ours 1')
	expect(
		drafts()
			.map((draft) => readAnyDocument(books, draft)?.content.layout.name)
			.sort(),
	).toEqual(['Ours', 'Plain'])
	// Released anew behind the clerk's back: numbering notices, shows it and asks.
	must(keep(books, id, { ...draftOf(books, made(books, 'Other')).layout, name: 'Ours' }))
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'wider'))
	expect((await nextStep(books, run))?.words).toContain('layout Ours 1 → Ours 2')
	expect((await nextStep(books, run))?.words).toContain('2 numbered')
})

test('a lost PDF is made again by its own version, whatever was released since', async () => {
	const { books, run, drafts } = await gathered()
	const id = made(books)
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'first'))
	must(giveLayout(books, desk, drafts(), id))
	const layoutOf = () => readAnyDocument(books, drafts()[0] ?? 0)?.content.layout
	expect(layoutOf()).toMatchObject({ id, own: true })
	// Given back, it has what its customer gets, and then the layout of its own again.
	must(giveLayout(books, desk, drafts(), null))
	expect(layoutOf()).toMatchObject({ name: 'Plain', own: false })
	must(giveLayout(books, desk, drafts(), id))
	await nextStep(books, run)
	await nextStep(books, run)
	const [first = 0] = drafts()
	const before = await pdfOf(books, first)
	const row = readAnyDocument(books, first)
	expect(row?.content.layout).toEqual({ id, name: 'Ours', version: 1, own: true })
	must(keep(books, id, { ...looksOf('invoice')[2], name: 'x' } as Layout))
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'another look altogether'))
	must(nameLayout(books, desk, id, '  Renamed '))
	expect(layoutRow(books, id)?.name).toBe('Renamed')
	expect(layoutRow(books, made(books, ' Wide '))?.name).toBe('Wide')
	const file = join(books.folder, 'files', row?.file_name ?? '')
	rmSync(file)
	expect((await pdfOf(books, first))?.bytes.equals(before?.bytes ?? Buffer.alloc(0))).toBe(true)
	expect(existsSync(file)).toBe(true)
	expect(() => books.db.exec('UPDATE layout_version SET body = 0')).toThrow('never changed')
})

test('a layout without what the law asks for cannot be released; it is said what is missing, and mended it can', async () => {
	const books = firmBooks()
	const id = made(books)
	const { layout } = draftOf(books, id)
	must(keep(books, id, removePiece(removePiece(layout, 'tax-table'), 'totals'), 'without totals'))
	expect(await releaseLayout(books, desk, id, draftOf(books, id).step, 'bare')).toMatchObject({
		message: expect.stringContaining('the net, the base of a tax'),
	})
	must(moveInSteps(books, id, draftOf(books, id).step, -1))
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'whole'))
	expect(versionsOf(books, id).map(({ note }) => note)).toEqual(['whole'])
})

test.each([
	[
		'a field that there is not',
		(layout: Layout) =>
			replacePiece(layout, 'title', {
				type: 'words',
				id: 'title',
				says: { en: [{ runs: [{ field: 'custom.gone' }] }] },
			}),
		'custom.gone',
	],
	[
		'a field of a line outside of a table',
		(layout: Layout) =>
			replacePiece(layout, 'title', { type: 'words', id: 'title', says: { en: [{ runs: [{ field: 'line.net' }] }] } }),
		'belongs to a line',
	],
	[
		'an invoice that lists nothing',
		(layout: Layout) => removePiece(layout, 'lines'),
		'lists nothing of what was supplied',
	],
	[
		'text too small',
		(layout: Layout) => replacePiece(layout, 'title', { ...pieceOf(layout, 'title'), size: 5 } as never),
		'7 are the least',
	],
	[
		'text too pale',
		(layout: Layout) => replacePiece(layout, 'firm-name', { ...pieceOf(layout, 'firm-name'), color: 'pale' } as never),
		'too pale',
	],
	[
		'a code too fine',
		(layout: Layout) =>
			replacePiece(layout, 'pay-code', {
				type: 'code',
				id: 'pay-code',
				symbol: 'qr',
				value: [{ text: 'x'.repeat(900) }],
				width: 40,
			}),
		'too fine',
	],
	[
		'an EAN of letters',
		(layout: Layout) =>
			replacePiece(layout, 'pay-code', {
				type: 'code',
				id: 'pay-code',
				symbol: 'ean-13',
				value: [{ field: 'number' }],
				width: 90,
			}),
		'twelve digits',
	],
])('%s is found', async (_what, change, words) => {
	const books = firmBooks()
	const id = made(books)
	const found = await checkForRelease(books, JSON.stringify(change(draftOf(books, id).layout)))
	expect(found.map((one) => one.words).join(' ')).toContain(words)
})

test('two people on one layout: the second is told of the first, and nothing is overwritten', () => {
	const books = firmBooks()
	const id = made(books)
	const { layout, step } = draftOf(books, id)
	must(
		keepStep(
			books,
			{ ...desk, clerk: 'Ida' },
			id,
			step,
			JSON.stringify(removePiece(layout, 'band')),
			'took the band away',
		),
	)
	expect(keepStep(books, desk, id, step, JSON.stringify(layout), 'mine')).toMatchObject({
		message: expect.stringContaining('Ida changed this layout'),
	})
	expect(pieceOf(draftOf(books, id).layout, 'band')).toBeNull()
})

test('a QR code of 28 points is fine enough, since what counts is a cell as it is drawn', async () => {
	const books = firmBooks()
	const look = looksOf('invoice')[2]
	const small = { type: 'code' as const, id: 'pay-code', symbol: 'qr' as const, value: [{ text: 'T-0041' }] }
	const found = async (width: number) => {
		const layout = replacePiece(look as Layout, 'pay-code', { ...small, width })
		return (await checkForRelease(books, JSON.stringify(layout))).filter(({ code }) => code === 'fine')
	}
	// 21 cells and 4 clear ones on either side (ISO/IEC 18004): a cell is 0.97 points, or 0.69.
	expect(await found(28)).toEqual([])
	expect(await found(20)).toMatchObject([{ level: 'stop', piece: 'pay-code' }])
})

test('changes are taken back and done again without end, and a version is brought back', async () => {
	const books = firmBooks()
	const id = made(books)
	for (const piece of ['band', 'their-tax', 'pay-box'])
		must(keep(books, id, removePiece(draftOf(books, id).layout, piece), piece))
	for (let count = 0; count < 3; count++) must(moveInSteps(books, id, draftOf(books, id).step, -1))
	expect(moveInSteps(books, id, draftOf(books, id).step, -1)).toMatchObject({ ok: false })
	expect(pieceOf(draftOf(books, id).layout, 'band')).not.toBeNull()
	// What another changed since is not taken back unseen.
	expect(moveInSteps(books, id, draftOf(books, id).step + 1, 1)).toMatchObject({
		message: expect.stringContaining('changed this layout at'),
	})
	must(moveInSteps(books, id, draftOf(books, id).step, 1))
	expect(pieceOf(draftOf(books, id).layout, 'band')).toBeNull()
	expect(pieceOf(draftOf(books, id).layout, 'their-tax')).not.toBeNull()
	must(moveInSteps(books, id, draftOf(books, id).step, -1))
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'one'))
	must(keep(books, id, removePiece(looksOf('invoice')[1] as Layout, 'their-tax')))
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'two'))
	must(bringVersionBack(books, desk, id, standing(books, id), 1))
	expect(pieceOf(draftOf(books, id).layout, 'their-tax')).not.toBeNull()
})

test('a preview is of the look that was chosen, and of the version that was asked for', async () => {
	const { books } = await gathered()
	const words = async (version: number) => {
		const pdf = await pdfByLayout(books, layoutRow(books, id) as LayoutRow, version, 0)
		return pdf ? (await pdfText(pdf)).join() : ''
	}
	const looks = looksOf('invoice').map(({ name }) => name)
	const drawn = await Promise.all(looks.map((name) => pdfByLook(books, 'invoice', name, '')))
	expect(new Set(drawn.map((pdf) => pdf?.toString('latin1'))).size).toBe(looks.length)
	expect(await pdfByLook(books, 'invoice', 'No such look', '')).toBeNull()
	const id = made(books)
	const named = (text: string) => {
		const layout = layoutSchema.parse(looksOf('invoice')[0])
		const says = { en: [{ runs: [{ text }] }] }
		must(keep(books, id, replacePiece(layout, 'title', { ...pieceOf(layout, 'title'), says } as never)))
	}
	named('INVOICE of the first')
	must(await releaseLayout(books, desk, id, standing(books, id), 'one'))
	named('INVOICE in the making')
	expect(await words(1)).toContain('INVOICE of the first')
	expect(await words(0)).toContain('INVOICE in the making')
})

test('a layout that somebody gets is not put away, and a taken name is refused', () => {
	const books = firmBooks()
	const plain = layoutNamed(books, 'invoice', 'Plain')
	expect(putAway(books, desk, plain?.id ?? 0)).toMatchObject({ message: expect.stringContaining('the firm') })
	expect(makeLayout(books, desk, 'invoice', 'plain', { nothing: true })).toMatchObject({ ok: false })
	const margin = layoutNamed(books, 'invoice', 'Margin')
	must(putAway(books, desk, margin?.id ?? 0))
	expect(
		allLayouts(books)
			.filter(({ kind }) => kind === 'invoice')
			.map(({ name }) => name),
	).toEqual(['Ledger', 'Plain'])
})

test('a customer gets papers in their language, down to the last fixed word', async () => {
	const { books, run, drafts } = await gathered()
	books.db.exec(`UPDATE customer SET locale = 'nb-NO' WHERE number = 'A1'`)
	must(
		chooseLayout(books, desk, {
			kind: 'invoice',
			customer: null,
			language: 'nb',
			layout: layoutNamed(books, 'invoice', 'Margin')?.id ?? 0,
		}),
	)
	await work(books)
	await nextStep(books, run)
	const norsk = drafts().find((id) => readAnyDocument(books, id)?.content.locale === 'nb-NO') ?? 0
	const text = (await pdfText((await pdfOf(books, norsk))?.bytes ?? Buffer.alloc(0))).join(' ')
	expect(readAnyDocument(books, norsk)?.content.layout.name).toBe('Margin')
	for (const words of ['Faktura', 'Forfall', 'Kundenummer', 'Vi ber om', 'Side 1']) expect(text).toContain(words)
	expect(text).not.toMatch(/Invoice|Terms|Please|Due/)
})

test('a trial reaches no customer by any way: what is not released can be chosen, given, made, printed and sent by nothing', async () => {
	const { books, run, drafts } = await gathered()
	const id = made(books)
	const [first = 0, second = 0] = drafts()
	expect(chooseLayout(books, desk, { kind: 'invoice', customer: null, language: '', layout: id })).toMatchObject({
		ok: false,
	})
	for (const language of ['en', 'nb'] as const)
		expect(chooseLayout(books, desk, { kind: 'invoice', customer: null, language, layout: id })).toMatchObject({
			ok: false,
		})
	expect(
		chooseLayout(books, desk, {
			kind: 'invoice',
			customer: customerByNumber(books, 'A1')?.id ?? 0,
			language: '',
			layout: id,
		}),
	).toMatchObject({ ok: false })
	expect(giveLayout(books, desk, [first, second], id)).toMatchObject({ ok: false })
	expect(giveLayoutInRun(books, desk, run, 'invoice', id)).toMatchObject({ ok: false })
	// A choice of it that stands in the books in spite of that is passed over.
	books.db.prepare(`UPDATE layout_choice SET layout_id = ? WHERE kind = 'invoice'`).run(id)
	expect(() => layoutsInForce(books)('invoice', { id: 1, locale: 'en-GB' }, noLayout)).toThrow('no released layout')
	books.db
		.prepare(`UPDATE layout_choice SET layout_id = ? WHERE kind = 'invoice'`)
		.run(layoutNamed(books, 'invoice', 'Plain')?.id)
	// A draft that names it, as only a hand in the database could make it: it is not drawn, and numbering puts it right and asks.
	const forge = (draft: number) => {
		const layout = { id, name: 'Ours', version: 1, own: true }
		const forged = JSON.stringify({ ...readAnyDocument(books, draft)?.content, layout })
		books.db.prepare('UPDATE document_content SET content = ? WHERE document_id = ?').run(forged, draft)
	}
	forge(first)
	await expect(pdfOf(books, first)).rejects.toThrow('Version 1 of the layout Ours is not in the books')
	await expect(printAll(books, run)).resolves.toBeNull()
	record(books, desk, { subject: 'setting', id: 'x', act: 'changed something' })
	expect((await nextStep(books, run))?.words).toContain('layout Ours 1 → Plain 1')
	await nextStep(books, run)
	// Once it is issued, what it says can be changed by nobody.
	expect(() => forge(first)).toThrow('never changed')
	expect((await nextStep(books, run))?.words).toBe('2 PDFs made.')
})

test('all that a layout in the making prints bears the trial mark, on each page of it', async () => {
	const books = firmBooks()
	const id = made(books)
	const row = layoutRow(books, id)
	if (!row) throw new Error('no row')
	for (const bytes of [
		await pdfByLayout(books, row, 0, 0),
		Buffer.from((await preview(books, draftOf(books, id).body)).pdf, 'base64'),
	]) {
		const pages = await pdfText(bytes ?? Buffer.alloc(0))
		expect(pages.length).toBeGreaterThan(0)
		for (const page of pages) expect(page).toContain('Trial')
	}
})

test('a test message goes to the firm alone, with its trial mark, and not where that address is a customer’s', async () => {
	const { books, drafts } = await gathered()
	const row = layoutRow(books, made(books))
	if (!row) throw new Error('no row')
	const sent: { envelope: { from: string; to: string[] }; raw: Buffer }[] = []
	const open = (outcome: 'sent' | 'away') => () => ({
		...line(outcome),
		send: async (envelope: { from: string; to: string[] }, raw: Buffer) => {
			sent.push({ envelope, raw })
			return { outcome, answer: 'the server', said: [] }
		},
	})
	const send = (outcome: 'sent' | 'away' = 'sent') =>
		sendTestMessage(books, desk, row, drafts()[0] ?? 0, 1, open(outcome))
	expect(await send()).toMatchObject({ ok: true })
	expect(sent.map(({ envelope }) => envelope)).toEqual([{ from: 'post@tarn.example', to: ['post@tarn.example'] }])
	const mail = await simpleParser(sent[0]?.raw ?? Buffer.alloc(0))
	expect([mail.subject, ...[mail.to].flat().map((to) => to?.text)].join()).toMatch(/^Trial: .*,post@tarn\.example$/)
	const pages = await pdfText(mail.attachments[0]?.content ?? Buffer.alloc(0))
	for (const page of pages) expect(page).toContain('Trial')
	expect(await send('away')).toMatchObject({ ok: false, message: expect.stringContaining('the server') })
	// No message, attempt or sending of the books comes of it.
	expect(books.db.prepare('SELECT (SELECT count(*) FROM message) + (SELECT count(*) FROM attempt) AS n').get()).toEqual(
		{ n: 0 },
	)
	for (const more of [
		{ email: 'Post@tarn.example' },
		{ statement_email: 'post@tarn.example' },
		{ cc: 'x@y.example, post@tarn.example' },
	]) {
		saveCustomer(books, desk, customer('A1', more))
		expect(await send()).toMatchObject({ ok: false, message: expect.stringContaining('a trial goes to no customer') })
	}
	expect(sent).toHaveLength(2)
	// Nor does a draft come out by the other ways in which papers leave.
	expect(await printAgain(books, drafts()[0] ?? 0)).toBe(null)
	expect(companionsOf(books, drafts()[0] ?? 0)).toEqual([])
})

test('the paper in view comes with what is wrong, where each piece stands, and what each field is on it', async () => {
	const books = firmBooks()
	const id = made(books)
	const seen = await preview(books, draftOf(books, id).body)
	expect(seen.pages).toBe(1)
	expect(seen.regions.find(({ piece }) => piece === 'lines')).toMatchObject({ page: 0, left: expect.closeTo(56.69, 1) })
	expect(seen.columns.filter(({ piece }) => piece === 'lines').map(({ column }) => column)).toEqual([
		'row',
		'description',
		'quantity',
		'price',
		'tax',
		'amount',
	])
	expect(seen.examples).toMatchObject({
		number: 'EX-1000',
		'amount-due': '£1,169.24',
		'line.description': 'A service, done and inspected',
	})
	const broken = await previewLayout(books, JSON.stringify(removePiece(draftOf(books, id).layout, 'window')), 0)
	expect('findings' in broken && broken.findings.map(({ words }) => words).join()).toContain(
		'the customer’s name, the customer’s address',
	)
	expect(await previewLayout(books, '{}', 0)).toMatchObject({
		faults: expect.arrayContaining([expect.stringContaining('kind')]),
	})
})

const preview = async (books: Books, body: string) => {
	const seen = await previewLayout(books, body, 0)
	if ('faults' in seen) throw new Error(seen.faults.join())
	return seen
}

test('two versions compared on the books’ papers: what differs in words, and who gets other pages', async () => {
	const { books, drafts } = await gathered()
	const id = made(books)
	const row = () => {
		const found = layoutRow(books, id)
		if (!found) throw new Error('no row')
		return found
	}
	must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'first'))
	const ledger = layoutDraft(books, made(books, 'Another'))?.body ?? ''
	const read = readLayout(ledger)
	if (!read.ok) throw new Error('unread')
	const high = {
		id: 'high',
		type: 'words' as const,
		size: 60,
		says: { en: Array.from({ length: 14 }, () => ({ runs: [{ text: 'H' }] })) },
	}
	must(keep(books, id, { ...read.layout, name: 'Ours', body: [...read.layout.body, high] }))
	const compared = await compareVersions(books, row(), 1, 0, drafts()[0] ?? 0)
	expect(compared?.words).toEqual(['new: Words: H, H, H, H, H, H, H, H, H…'])
	expect(compared?.changed.length).toBeGreaterThan(0)
	for (const { before, after } of compared?.changed ?? []) expect(after).toBeGreaterThan(before)
	expect(await compareVersions(books, row(), 1, 1, 0)).toMatchObject({ words: [], changed: [] })
	expect(await compareVersions(books, row(), 7, 0, 0)).toBe(null)
	expect(await compareVersions(books, row(), 1, 0, 999_999)).toBe(null)
})

test('a run is leafed through by itself, from its first paper to its last', async () => {
	const { books, run, drafts } = await gathered()
	await bringOrders(books, '8803,2026-10-05,A1,ROPE,Mooring line,3,2.10,0,STD,0,')
	const other = must(startRun(books, desk, '2026-10-31', '2026-10-31')).id ?? 0
	await work(books)
	const [first = 0, second = 0] = drafts()
	const walk = (from: number, by: 1 | -1, of: number) => adjacentPaper(books, 'invoice', from, by, of)
	expect([walk(first, -1, run), walk(first, 1, run), walk(second, 1, run)]).toEqual([null, second, null])
	expect(walk(second, 1, 0)).toBe(benchRows(books, other, 10)[0]?.id)
	expect(runsWithPapers(books, 'invoice').map(({ id, papers, first: begins }) => [id, papers, begins])).toEqual([
		[other, 1, benchRows(books, other, 10)[0]?.id],
		[run, 2, first],
	])
	expect(runsWithPapers(books, 'statement')).toEqual([])
	const seen = await previewLayout(books, JSON.stringify(looksOf('invoice')[0]), second, run)
	expect('seen' in seen && seen.seen).toMatchObject({ before: first, after: null })
})

test('the run and the register of a numbered paper are fields, and none of a draft', async () => {
	const { books, run, drafts } = await gathered()
	const [first = 0] = drafts()
	const at = () => {
		const content = readAnyDocument(books, first)?.content
		if (!content) throw new Error('no content')
		return { content, languages, place: -1, row: 0, page: 1, pages: 1 }
	}
	const of = (...keys: string[]) => keys.map((key) => fieldsByKey.get(key)?.read(at()))
	const keys = ['run', 'register.prefix', 'register.value', 'customer.email'] as const
	expect(of(...keys)).toEqual(['', '', '', 'a1@shore.example'])
	await nextStep(books, run)
	expect(of(...keys)).toEqual([String(run), 'T-', '41', 'a1@shore.example'])
})

/** A state of a layout: what was typed last, told apart from every other state by its place in all that was done. */
type Was = { text: string; place: number }
/** A layout as it should be: what lies before and after in the making, and what is released. */
type Model = { past: Was[]; future: Was[]; released: Was }

test('two clerks at one layout in random order: each act goes on from what was in view, or is refused and says who was first', async () => {
	const acts = fc.constantFrom('change', 'undo', 'redo', 'release', 'bring back', 'throw away', 'read')
	await fc.assert(
		fc.asyncProperty(fc.array(fc.tuple(fc.nat(1), acts), { minLength: 5, maxLength: 25 }), async (steps) => {
			const books = firmBooks()
			const id = made(books)
			must(await releaseLayout(books, desk, id, draftOf(books, id).step, 'as it ships'))
			const { layout } = await readVersion(books, id)
			const said = (text: string): string => JSON.stringify({ ...layout, foot: [...layout.foot, words(text)] })
			const model: Model = { past: [], future: [], released: { text: '', place: 0 } }
			const now = () => model.past.at(-1) ?? model.released
			const views = [0, 1].map(() => ({ of: now(), at: standing(books, id) }))
			let count = 0
			for (const [clerk, act] of steps) {
				const view = views[clerk]
				if (!view) continue
				const who = { ...desk, clerk: clerk === 0 ? 'Wren' : 'Tam' }
				const look = () => Object.assign(view, { of: now(), at: standing(books, id) })
				if (act === 'read') {
					look()
					continue
				}
				const text = `${act} ${++count}`
				const making = model.past.length > 0
				let may = view.of === now()
				let outcome: Awaited<ReturnType<typeof releaseLayout>>
				if (act === 'change') outcome = keepStep(books, who, id, view.at, said(text), text)
				else if (act === 'undo' || act === 'redo') {
					outcome = moveInSteps(books, id, view.at, act === 'undo' ? -1 : 1)
					may &&= making && (act === 'undo' ? model.past.length > 1 : model.future.length > 0)
				} else if (act === 'release') {
					outcome = await releaseLayout(books, who, id, view.at, text)
					may &&= making
				} else if (act === 'throw away') {
					outcome = dropLayoutDraft(books, who, id, view.at)
					may &&= making
				} else outcome = bringVersionBack(books, who, id, view.at, 1)
				expect([act, outcome.ok], JSON.stringify(steps)).toEqual([act, may])
				if (!outcome.ok) continue
				const typed = { text, place: count }
				if (act === 'change') model.past = [...(making ? model.past : [{ ...model.released }]), typed]
				else if (act === 'bring back') model.past = [...model.past, { ...typed, text: '' }]
				else if (act === 'undo') model.future.push(model.past.pop() as Was)
				else if (act === 'redo') model.past.push(model.future.pop() as Was)
				else {
					// What is thrown away leaves the version as it was; a page from before has seen another standing all the same.
					model.released = { ...(act === 'release' ? now() : model.released), place: count }
					model.past = []
				}
				if (act !== 'undo' && act !== 'redo') model.future = []
				look()
				expect(textIn(books, id), JSON.stringify(steps)).toBe(now().text)
			}
			books.db.close()
		}),
		{ numRuns: walks(5) },
	)
})

const words = (text: string): Layout['foot'][0] =>
	({
		...newPiece('words', looksOf('invoice')[1] as Layout),
		id: 'mark-of-the-test',
		says: { en: [{ runs: [{ text }] }] },
	}) as Layout['foot'][0]
const readVersion = async (books: Books, id: number) => {
	const read = readLayout(versionBody(books, id, 1) ?? '')
	if (!read.ok) throw new Error('no version')
	return { layout: read.layout }
}
/** The words that the test put at the foot of what is in the making, or of the latest version. */
function textIn(books: Books, id: number): string {
	const row = layoutRow(books, id)
	const body = layoutDraft(books, id)?.body ?? versionBody(books, id, row?.version ?? 0) ?? ''
	return /"mark-of-the-test".*?"text":"([^"]*)"/.exec(body)?.[1] ?? ''
}
