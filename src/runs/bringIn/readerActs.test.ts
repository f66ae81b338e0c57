import { expect, test } from 'vitest'
import { readingSchema } from '@/intake/reading'
import { allReaders } from '@/store/readers'
import { desk, firmBooks } from '../../../tests/support'
import { workbookOf } from '../../../tests/workbooks'
import { acceptNow, bringIn, doFileJobs, lookAt } from './atOnce'
import { copyReader, editReader } from './readerActs'
import { changeReading } from './receive'
import { fileView } from './view'

test('a reader is changed by itself: the next file is read so, one that waits is not, and two clerks do not overwrite each other', async () => {
	const books = firmBooks()
	const file = (number: string) =>
		Buffer.from(
			`Order No,Order date,Cust. No,Item,Qty,Extra\n${number},05/10/2026,A1,ROPE,2,7\n${number},05/10/2026,A1,ROPE,1,8\n`,
		)
	const first = await bringIn(books, desk, 'yard.csv', file('A1'), { days: 'day first' })
	expect(first.ok).toBe(true)
	const [reader] = allReaders(books)
	const { id = 0, version = 0, body = '{}' } = reader ?? {}
	const { columns, head, ...kept } = readingSchema.parse(JSON.parse(body))
	const waits = await lookAt(books, desk, 'yard-2.csv', file('A2'))
	const change = {
		...kept,
		name: 'The yard',
		columns: { ...columns, unitPrice: head.indexOf('Extra') },
		days: 'month first' as const,
		defaults: { ...kept.defaults, taxCode: 'RED' },
	}
	expect(editReader(books, desk, id, version, change)).toMatchObject({ ok: true })
	expect(editReader(books, desk, id, version, change)).toMatchObject({
		ok: false,
		message: expect.stringMatching(/Somebody changed/),
	})
	expect(
		editReader(books, desk, id, version + 1, { ...change, columns: { ...columns, note: columns.item ?? 0 } }),
	).toMatchObject({ ok: false })
	expect(editReader(books, desk, id, version + 1, { ...change, columns: { nothing: 1 } })).toMatchObject({ ok: false })

	expect(fileView(books, waits, 1)?.reading).toMatchObject({ days: 'day first' })
	const next = await lookAt(books, desk, 'yard-3.csv', file('A3'))
	const view = fileView(books, next, 1)
	expect(view?.reader?.name).toBe('The yard')
	expect(view?.reading).toMatchObject({ days: 'month first', defaults: { taxCode: 'RED' } })
	expect(view?.fields.find(({ key }) => key === 'unitPrice')?.samples[0]).toMatchObject({ was: '7', is: '7' })

	copyReader(books, desk, id)
	const copy = allReaders(books).find(({ name }) => name === 'The yard (copy)')
	expect(editReader(books, desk, copy?.id ?? 0, copy?.version ?? 0, change)).toMatchObject({
		ok: false,
		message: expect.stringMatching(/Another reader is called The yard/),
	})
})

test('how letters are written is kept for the source, and gives way where a file says it itself', async () => {
	const books = firmBooks()
	const file = (number: string, text: string) =>
		`Order No,Order date,Cust. No,Item,Description,Qty\n${number},2026-10-05,A1,ROPE,${text},2\n`
	// One letter of DOS at the end of a word could as well be a dagger.
	const dos = (number: string) => Buffer.from(file(number, 'Tau bl\u0086'), 'latin1')
	const first = await lookAt(books, desk, 'october.csv', dos('1'))
	const description = (id: number) =>
		fileView(books, id, 1)?.fields.find(({ key }) => key === 'description')?.samples[0]?.was
	expect(description(first)).toBe('Tau bl†')
	changeReading(books, desk, first, { settings: { encoding: 'Code page 850', delimiter: ',' } })
	await doFileJobs(books, desk)
	expect(description(first)).toBe('Tau blå')
	expect(await acceptNow(books, desk, first)).toMatchObject({ ok: true })

	expect(description(await lookAt(books, desk, 'november.csv', dos('2')))).toBe('Tau blå')
	expect(description(await lookAt(books, desk, 'december.csv', Buffer.from(file('3', 'Tau blå'))))).toBe('Tau blå')
	// A letter that is lost is not billed.
	const lost = await lookAt(books, desk, 'lost.csv', Buffer.from(file('4', 'Tau bl\ufffd')))
	expect(fileView(books, lost, 1)?.refused.rows[0]?.reasons[0]?.remedy).toMatch(/A letter of it could not be read/)
})

test('a reader of a workbook knows its sheet among others, and what becomes of rows that the sheet hides', async () => {
	const books = firmBooks()
	const cell = (place: string, value: string) => `<c r="${place}" t="str"><v>${value}</v></c>`
	const row = (number: number, values: string[], more = '') =>
		`<row r="${number}"${more}>${values.map((value, at) => cell(`${'ABCDEF'[at]}${number}`, value)).join('')}</row>`
	const sheet = (...rows: string[]) => `<worksheet><sheetData>${rows.join('')}</sheetData></worksheet>`
	const customers = sheet(row(1, ['Customer No', 'Customer name', 'Email']), row(2, ['A1', 'Alder', 'a@a1.example']))
	const orders = (number: string) =>
		sheet(
			row(1, ['Order No', 'Order date', 'Cust. No', 'Item', 'Qty']),
			row(2, [`${number}1`, '2026-10-05', 'A1', 'ROPE', '2']),
			row(3, [`${number}2`, '2026-10-05', 'A1', 'ROPE', '3'], ' hidden="1"'),
		)
	const first = await lookAt(books, desk, 'october.xlsx', workbookOf({ People: customers, Orders: orders('A') }))
	const view = (id: number) => fileView(books, id, 1)
	expect(view(first)?.reading).toMatchObject({ kind: 'customers', settings: { sheet: 'People' } })
	changeReading(books, desk, first, { settings: { sheet: 'Orders', hidden: 'refused' } })
	await doFileJobs(books, desk)
	expect(view(first)?.review?.rows).toMatchObject({ taken: 1, refused: 1 })
	expect(await acceptNow(books, desk, first)).toMatchObject({ ok: true })

	const next = await lookAt(books, desk, 'november.xlsx', workbookOf({ People: customers, Orders: orders('B') }))
	expect(view(next)?.reading).toMatchObject({ kind: 'orders', settings: { sheet: 'Orders', hidden: 'refused' } })
	changeReading(books, desk, next, { settings: { sheet: 'Orders', hidden: 'taken' } })
	await doFileJobs(books, desk)
	expect(view(next)?.review?.rows).toMatchObject({ taken: 2, refused: 0 })
	expect(await acceptNow(books, desk, next)).toMatchObject({ ok: true })

	// In a workbook that grows by a sheet a month, an old one is not read in place of the new.
	const grown = await lookAt(books, desk, 'grown.xlsx', workbookOf({ December: orders('D'), Orders: orders('B') }))
	expect(view(grown)?.reading?.settings).toEqual({ sheet: 'December', hidden: 'taken' })

	// The sheet is called otherwise now; it is the only one with such a head.
	const later = await lookAt(books, desk, 'december.xlsx', workbookOf({ December: orders('C') }))
	expect(view(later)?.reading?.settings).toEqual({ sheet: 'December', hidden: 'taken' })
})
