import { expect, test } from 'vitest'
import { openItems } from '@/store/ledger'
import { changeSettings } from '@/store/settings'
import { billed } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { acceptNow, doFileJobs, lookAt } from './atOnce'
import { correctValue } from './correct'
import { answer } from './receive'
import { fileView } from './view'

const bank = (...rows: string[]) =>
	Buffer.from(['Buchungstag;Auftraggeber;Verwendungszweck;Betrag', ...rows, ''].join('\n'))

test('a bank’s file names no customer: likely ones are offered by number, name and amount, and none is taken by guess', async () => {
	const books = firmBooks()
	await billed(books, '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,03/10/2026,B1,ROPE,Line,5,2.00,,STD,,')
	changeSettings(books, desk, { workDate: '2026-11-30' })
	const id = await lookAt(
		books,
		desk,
		'bank.csv',
		bank(
			'20.11.2026;;Rechnung T 0041, danke;20,00',
			'21.11.2026;Customer B1;;5,00',
			'22.11.2026;;;12,00',
			'23.11.2026;;T-00411;1,00',
		),
	)
	const refused = () => fileView(books, id, 1)?.refused.rows ?? []
	const offers = refused().map(({ row, reasons }) => [
		row,
		JSON.parse(reasons[0]?.offers ?? '[]').map(({ value }: { value: string }) => value),
	])
	// T-00411 is another number than T-0041.
	expect(offers).toEqual([
		[2, ['A1']],
		[3, ['B1']],
		[4, ['B1']],
		[5, []],
	])
	const take = (row: number, now: string) =>
		correctValue(books, desk, id, { row, place: 0, field: 'customer', was: '', now })
	expect(take(2, 'A1')).toEqual({ ok: true })
	expect(take(2, 'B1')).toMatchObject({ ok: false })
	await doFileJobs(books, desk)
	expect(refused().map(({ row }) => row)).toEqual([3, 4, 5])
	expect(await acceptNow(books, desk, id)).toMatchObject({
		ok: true,
		words: '1 payment was entered; 3 rows were refused.',
	})
	expect(openItems(books, 1, 'GBP', 'debit').map(({ number, open }) => [number, open])).toEqual([['T-0041', 400]])
	// The same payment in another file is asked about, and left out where that is answered so.
	const again = await lookAt(books, desk, 'again.csv', bank('20.11.2026;;Rechnung T 0041, danke;20,00'))
	correctValue(books, desk, again, { row: 2, place: 0, field: 'customer', was: '', now: 'A1' })
	await doFileJobs(books, desk)
	expect(fileView(books, again, 1)?.open).toEqual(['twice'])
	expect(await acceptNow(books, desk, again)).toMatchObject({ ok: false })
	answer(books, desk, again, { twice: 'leave' })
	await doFileJobs(books, desk)
	await acceptNow(books, desk, again)
	expect(openItems(books, 1, 'GBP', 'debit')[0]?.open).toBe(400)
})
