import { expect, test } from 'vitest'
import { paperKindSchema, type SheetWay } from '@/core/paperKind'
import { noAnswers, understand } from '@/forms/marks'
import { readingSchema } from '@/intake/reading'
import { fieldsOf } from '@/layout/values'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { correctValue, leaveRowsOut } from '@/runs/bringIn/correct'
import { answer, changeReading } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { fileView } from '@/runs/bringIn/view'
import { pdfOf } from '@/runs/files/pdfOf'
import { bringForm } from '@/runs/forms/forms'
import { verify } from '@/runs/issue/verify'
import { vocabularyFor } from '@/runs/layouts/formMarksLeft'
import { type ColumnTaken, takeColumns } from '@/runs/papers/columns'
import { startPapers } from '@/runs/papers/gather'
import { issueOne } from '@/runs/papers/issue'
import { makeKind } from '@/runs/papers/kinds'
import { makeOne } from '@/runs/papers/one'
import { tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { readAnyDocument, readBill } from '@/store/documents'
import { readFile } from '@/store/files'
import { formBody, openForms } from '@/store/forms'
import { allOwnFields, setOwnValue } from '@/store/ownFields'
import { allPaperKinds } from '@/store/paperKinds'
import { papersOf, recordsOfFile } from '@/store/paperRecords'
import { benchRows } from '@/store/places'
import { docx, paragraph, run } from '../../../tests/forms/byHand'
import { work } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'

const today = '2026-10-31'

function firm(each: SheetWay) {
	const books = firmBooks()
	const body = { name: 'Letter', several: 'letters', numbered: false, stands: null, becomesOrder: false, each }
	makeKind(books, desk, 'unpriced', 'sheet', paperKindSchema.parse(body))
	const [kind] = allPaperKinds(books)
	if (!kind) throw new Error('no kind')
	return { books, kind }
}

/** Brings a sheet in, its rows for a kind; `fields` are columns with what they become. */
async function sheet(
	books: Books,
	kind: number,
	name: string,
	rows: string[],
	fields: Record<string, Omit<ColumnTaken, 'place'>> = {},
	columns: Record<string, string> = {},
): Promise<number> {
	const id = await lookAt(books, desk, name, Buffer.from(`${rows.join('\n')}\n`), { kind: 'rows', paperKind: kind })
	answer(books, desk, id, { kind: true })
	const reading = () => readingSchema.parse(JSON.parse(readFile(books, id)?.reading ?? '{}'))
	const place = (head: string) => reading().head.indexOf(head)
	const named = Object.entries(columns).map(([field, head]) => [field, place(head)])
	if (named.length > 0)
		changeReading(books, desk, id, { columns: { ...reading().columns, ...Object.fromEntries(named) } })
	const taken = Object.entries(fields).map(([head, one]) => ({ ...one, place: place(head) }))
	if (taken.length > 0) expect(takeColumns(books, desk, id, taken)).toMatchObject({ ok: true })
	await doFileJobs(books, desk)
	return id
}
const reviewIn = (books: Books, id: number) => reviewOf(readFile(books, id) ?? { review: null })
const refusedIn = (books: Books, id: number) =>
	(fileView(books, id, 1)?.refused.rows ?? []).map(({ row, reasons }) => `${row}: ${reasons[0]?.remedy}`)

const members = [
	'Member,Name,Email,Address 1,Address 4,Fee,Joined',
	'0012,Ada Fenn,ada@fenn.example,1 Mill Lane,Port Skerrow,40.00,2019-05-01',
	'0013,Ben Ormond,ben@ormond.example,2 Mill Lane,Port Skerrow,40.00,2020-01-12',
	'0014,Cleo Raine,,3 Mill Lane,Port Skerrow,25.50,2024-11-30',
]
const text = { of: 'sheet', type: 'text' } as const
const memberFields = {
	Member: text,
	Fee: { of: 'sheet', type: 'number' },
	Joined: { of: 'sheet', type: 'day' },
} as const

test('a list of members becomes a letter each: to its address, with its fields by their types, in a run that ties and verifies', async () => {
	const { books, kind } = firm('row')
	const id = await sheet(books, kind.id, 'members.csv', members, memberFields)
	expect(
		allOwnFields(books)
			.filter(({ of }) => of === 'sheet')
			.map(({ key, type }) => [key, type]),
	).toEqual([
		['member', 'text'],
		['fee', 'number'],
		['joined', 'day'],
	])
	expect(reviewIn(books, id)).toMatchObject({ rows: { taken: 3, refused: 0 }, standings: { new: 3 } })
	expect(await acceptNow(books, desk, id)).toEqual({ ok: true, words: '3 records for letters came in.' })
	const started = startPapers(books, desk, kind.id, today, today)
	await work(books)
	const letters = started.ok ? (started.id ?? 0) : 0
	expect(benchRows(books, letters).map(({ customer_name, email, level }) => [customer_name, email, level])).toEqual([
		['Cleo Raine', '', 'look'],
		['Ada Fenn', 'ada@fenn.example', 'clear'],
		['Ben Ormond', 'ben@ormond.example', 'clear'],
	])
	expect(tallyOf(books, letters)[0]).toMatchObject({ untied: 0 })
	const ada = benchRows(books, letters).find(({ customer_name }) => customer_name === 'Ada Fenn')
	expect(readBill(books, ada?.id ?? 0)?.content).toMatchObject({
		customer: { name: 'Ada Fenn', address: ['1 Mill Lane', 'Port Skerrow'] },
		orders: [{ own: { member: '0012', fee: '40', joined: '2019-05-01' } }],
		lines: [],
		layout: { name: 'By its columns' },
	})
	const [record] = recordsOfFile(books, id)
	expect(papersOf(books, record?.id ?? 0).map(({ document_id }) => document_id)).toEqual([ada?.id])
	expect((await pdfOf(books, ada?.id ?? 0))?.bytes.length).toBeGreaterThan(1000)
	// A form of the firm's own can be mapped to the sheet's fields as to any other.
	const form = docx(paragraph(run('Dear {{Name}}, your berth {{Member}} costs {{Fee}}.')))
	bringForm(books, desk, { kind: kind.key, name: 'Own', fileName: 'letter.docx', bytes: form })
	await work(books)
	const read = formBody(books, openForms(books)[0]?.id ?? 0)
	if (!read) throw new Error('the form was not read')
	const { marks } = understand(read.form, noAnswers, vocabularyFor(books, kind.key))
	expect(marks.map(({ offer }) => offer?.field)).toEqual([
		'customer.name',
		'sheet.own.text.member',
		'sheet.own.number.fee',
	])
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('rows of one key are one paper, whatever its case and spaces; an empty key, and rows that disagree, are refused with the whole paper', async () => {
	const { books, kind } = firm('key')
	const rows = [
		'Job,Name,Email,Work,Hours',
		'J-1,Ada,ada@fenn.example,Splicing,3',
		'j-1 ,Ada,,Rigging,4.5',
		'J-2,Ben,ben@ormond.example,Survey,1',
		',Ben,ben@ormond.example,Travel,2',
		'J-2,Ben,other@ormond.example,Report,2',
		'J-3,Cleo,cleo@raine.example;second@raine.example,Paint,1',
		'J-4,Dora,dora@lund.example,Paint,many',
		'J-4,Dora,,Varnish,1',
	]
	const hours = { Work: { of: 'row', type: 'text' }, Hours: { of: 'row', type: 'number' } } as const
	const id = await sheet(books, kind.id, 'jobs.csv', rows, hours, { key: 'Job' })
	expect(refusedIn(books, id)).toEqual([
		'4: Row 6 of the same paper is refused. Mend it, or leave it out; then this row is taken too.',
		'5: It does not say what its paper is for. Give it here, or leave the row out.',
		'6: Row 4 of the same paper has “ben@ormond.example”. Make them agree, or give the row another key.',
		'7: Several addresses stand here, and a paper goes to one. Keep that one.',
		expect.stringMatching(/^8: /),
		'9: Row 8 of the same paper is refused. Mend it, or leave it out; then this row is taken too.',
	])
	expect(reviewIn(books, id)).toMatchObject({ rows: { all: 8, taken: 2, refused: 6 }, standings: { new: 1 } })
	leaveRowsOut(books, desk, id, [6, 8], 'not of this month')
	correctValue(books, desk, id, {
		row: 7,
		place: 2,
		field: '',
		was: rows[6]?.split(',')[2] ?? '',
		now: 'cleo@raine.example',
	})
	await doFileJobs(books, desk)
	expect(reviewIn(books, id)).toMatchObject({ rows: { taken: 5, refused: 1 }, standings: { new: 4 } })
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	const [first] = recordsOfFile(books, id)
	const made = makeOne(books, desk, first?.id ?? 0, null, today)
	const draft = made.ok ? readBill(books, made.id)?.content : null
	expect(draft?.lines.map(({ own }) => own)).toEqual([
		{ work: 'Splicing', hours: '3' },
		{ work: 'Rigging', hours: '4.5' },
	])
	const pdf = made.ok ? await pdfOf(books, made.id) : null
	expect(pdf?.bytes.length).toBeGreaterThan(1000)
})

test('a whole sheet is one report to one address; customers of the books are known by their number, items by their code', async () => {
	const { books, kind } = firm('whole')
	const photograph = 'a'.repeat(64)
	setOwnValue(books, desk, 'item', 'ROPE', 'photograph', photograph)
	const rows = ['Code,Stock,Price', 'ROPE,120,2.10', 'BUOY,7,88.00', 'SHACKLE,40,3.25']
	const id = await sheet(
		books,
		kind.id,
		'stock.csv',
		rows,
		{ Stock: { of: 'row', type: 'number' }, Price: { of: 'row', type: 'number' } },
		{ item: 'Code' },
	)
	expect(reviewIn(books, id)?.rows).toMatchObject({ taken: 0, refused: 3 })
	changeReading(books, desk, id, { defaults: { customer: 'A1' } })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true, words: 'One record for letters came in.' })
	const [record] = recordsOfFile(books, id)
	expect(record).toMatchObject({ number: 'stock', customer_id: 1 })
	const made = makeOne(books, desk, record?.id ?? 0, null, today)
	if (!made.ok) throw new Error(made.message)
	expect(readAnyDocument(books, made.id)?.email).toBe('a1@shore.example')
	expect(readBill(books, made.id)?.content.lines[0]).toMatchObject({ item: 'ROPE', itemOwn: { photograph } })
	const content = readBill(books, made.id)?.content
	if (!content) throw new Error('no content')
	const worth = { is: 'times', of: 'row.own.number.stock', by: { field: 'row.own.number.price' }, decimals: 2 } as const
	const fields = fieldsOf(
		{
			reckoned: [
				{ key: 'worth', name: 'Worth', how: worth },
				{ key: 'all', name: 'All', how: { is: 'sum', of: 'reckoned.worth' } },
			],
		},
		allOwnFields(books),
	)
	const at = { content, languages: [], row: 0, page: 1, pages: 1 }
	expect([0, 1, 2].map((place) => fields.get('reckoned.worth')?.read({ ...at, place }))).toEqual([
		'252.00',
		'616.00',
		'130.00',
	])
	expect(fields.get('reckoned.all')?.read({ ...at, place: -1 })).toBe('998')
	expect(issueOne(books, desk, made.id, 'file')).toMatchObject({ ok: true })
	await work(books)
	expect(readAnyDocument(books, made.id)).toMatchObject({ number: `#${made.id}`, order_numbers: 'stock' })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('a newer sheet of the same keys asks: what nothing was issued of makes room or stays beside, what was issued stays; a sheet that changes between looking and accepting is not taken', async () => {
	const { books, kind } = firm('row')
	const first = await sheet(books, kind.id, 'members-sept.csv', members, memberFields)
	await acceptNow(books, desk, first)
	const [ada, ben] = recordsOfFile(books, first)
	const made = makeOne(books, desk, ada?.id ?? 0, null, today)
	if (made.ok) issueOne(books, desk, made.id, 'file')
	const open = makeOne(books, desk, ben?.id ?? 0, null, today)
	await work(books)
	const newer = members.map((row) => row.replace('40.00', '45.00'))
	const second = await sheet(books, kind.id, 'members-oct.csv', newer, memberFields)
	expect(reviewIn(books, second)).toMatchObject({ standings: { new: 1, changed: 2 } })
	expect(await acceptNow(books, desk, second)).toMatchObject({ ok: false })
	answer(books, desk, second, { amended: 'replace' })
	await doFileJobs(books, desk)
	const seen = reviewIn(books, second)?.digest ?? ''
	changeReading(books, desk, second, { defaults: { country: 'Norway' } })
	await doFileJobs(books, desk)
	expect(reviewIn(books, second)?.digest).not.toBe(seen)
	expect(await acceptNow(books, desk, second)).toMatchObject({
		words: '3 records for letters came in; 2 of an earlier sheet made room.',
	})
	expect(open.ok && readAnyDocument(books, open.id)?.dropped_reason).toBe(
		'the newer sheet members-oct.csv took its place',
	)
	expect(recordsOfFile(books, first).map(({ away_reason }) => away_reason)).toEqual([
		null,
		'replaced by members-oct.csv',
		'replaced by members-oct.csv',
	])
})
