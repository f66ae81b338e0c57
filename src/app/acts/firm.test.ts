import { expect, test } from 'vitest'
import type { Books } from '@/store/books'
import { readLetter } from '@/store/messages'
import { readSettings } from '@/store/settings'
import { firmBooks } from '../../../tests/support'
import { openInWeb } from '../../../tests/web'
import { setLateTerms, setLetter, setMail, setStages } from './firm'

/** The firm's books, as the web has them open. */
const atTheDesk = (): Books => openInWeb(firmBooks())
const form = (fields: Record<string, string>) => {
	const data = new FormData()
	for (const [key, value] of Object.entries(fields)) data.set(key, value)
	return data
}

test('of two people on one letter the second is told, and nothing of the first is overwritten', async () => {
	const books = atTheDesk()
	const first = { kind: 'past-due-4', subject: 'Fourth', body: 'Please.' }
	const seen = (subject: string, body: string) => `${subject}\n${body}`
	// It was opened as it is until the firm writes its own: that of the last stage that has one.
	const { firstLetterOf } = await import('@/kinds')
	const opened = seen(firstLetterOf('past-due-4')?.subject ?? '', firstLetterOf('past-due-4')?.body ?? '')
	expect(await setLetter(form({ ...first, seen: opened }))).toMatchObject({ ok: true })
	const theirs = await setLetter(form({ ...first, subject: 'Theirs', seen: opened }))
	expect(theirs).toMatchObject({ ok: false, message: expect.stringContaining('Somebody changed this letter') })
	expect(readLetter(books, 'past-due-4')?.subject).toBe('Fourth')
	expect(await setLetter(form({ ...first, subject: 'Next', seen: seen('Fourth', 'Please.') }))).toMatchObject({
		ok: true,
	})
	expect(await setLetter(form({ ...first, subject: '{no such}', seen: seen('Next', 'Please.') }))).toMatchObject({
		ok: false,
	})
})

test('stages are as many as the firm likes, each with its days, least amount, and whether a person reads it', async () => {
	const books = atTheDesk()
	const rows = [
		{ name: 'Nudge', days: '3', least: '' },
		{ name: 'Firm', days: '10', least: '25.00', read: 'on' },
		{ name: 'Court', days: '7', least: '1,000.00' },
		{ name: 'Gone', days: '90', least: '0' },
	]
	const fields = Object.fromEntries(
		rows.flatMap((row, place) => Object.entries(row).map(([key, value]) => [`${key}${place}`, value])),
	)
	expect(await setStages(form({ ...fields, promiseDays: '30' }))).toMatchObject({ ok: true })
	expect(readSettings(books)).toMatchObject({
		stages: [
			{ name: 'Nudge', days: 3, least: 0, read: false },
			{ name: 'Firm', days: 10, least: 2500, read: true },
			{ name: 'Court', days: 7, least: 100_000, read: false },
			{ name: 'Gone', days: 90, least: 0, read: false },
		],
		promiseDays: 30,
	})
	expect(await setStages(form({ ...fields, days1: '0', promiseDays: '30' }))).toMatchObject({ ok: false })
	expect(await setStages(form({ ...fields, least2: 'much', promiseDays: '30' }))).toMatchObject({ ok: false })
	expect(await setStages(form({ promiseDays: '30' }))).toMatchObject({ ok: true })
	expect(readSettings(books).stages).toEqual([])
})

test('a rate of late charges counts from its day; those of the days before stay', async () => {
	const books = atTheDesk()
	const terms = { per: 'year', year: 'actual', grace: '5', minimum: '2.00' }
	const set = (percent: string, from: string) => setLateTerms(form({ ...terms, percent, from }))
	await set('8', '')
	await set('10', '2026-07-01')
	await set('12', '2026-10-01')
	expect(await set('', '2026-11-01')).toMatchObject({ ok: true })
	expect(readSettings(books).lateTerms).toEqual({
		...{ per: 'year', year: 'actual', grace: 5, minimum: 200 },
		rates: [
			{ from: '', percent: '8' },
			{ from: '2026-07-01', percent: '10' },
			{ from: '2026-10-01', percent: '12' },
			{ from: '2026-11-01', percent: '' },
		],
	})
	// One of a day between counts up to the next.
	await set('9', '2026-08-01')
	expect(readSettings(books).lateTerms.rates.map(({ percent }) => percent)).toEqual(['8', '10', '9', '12', ''])
	expect(await set('9', 'soon')).toMatchObject({ ok: false })
	expect(await setLateTerms(form({ ...terms, percent: '9', from: '', minimum: '-1' }))).toMatchObject({ ok: false })
})

test('real mail needs a server; a password that is left empty stays; pauses are read as a list', async () => {
	const books = atTheDesk()
	const mail = {
		...{ mode: 'practice', host: '', port: '587', user: 'us', password: 'secret', sender: '', retryMinutes: '1, 5;30' },
		...{ retryHours: '24', lines: '4', perMinute: '0', perLine: '50', attachment: '10' },
	}
	expect(await setMail(form(mail))).toMatchObject({ ok: true })
	expect(readSettings(books).mail).toMatchObject({ mode: 'practice', retry: { minutes: [1, 5, 30], hours: 24 } })
	const none = await setMail(form({ ...mail, mode: 'real' }))
	expect(none).toMatchObject({ ok: false, message: 'Real mail needs the name of the mail server.' })
	expect(readSettings(books).mail.mode).toBe('practice')
	expect(await setMail(form({ ...mail, mode: 'real', host: 'mail.tarn.example', password: '' }))).toMatchObject({
		ok: true,
	})
	expect(readSettings(books).mail).toMatchObject({ mode: 'real', host: 'mail.tarn.example', password: 'secret' })
})
