import { describe, expect, test } from 'vitest'
import { askStep } from '@/runs/bench/steps'
import { makeBatch } from '@/runs/files/make'
import { askToHalt, beginJob, latestJob, nextJob } from '@/store/jobs'
import { benchRows } from '@/store/places'
import { changeSettings, readSettings } from '@/store/settings'
import { gatherRun, nextStep, work } from '../../tests/runs'
import { desk, firmBooks } from '../../tests/support'
import { doJob } from './work'

const rows = ['1,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,', '2,03/10/2026,A1,ROPE,Line,2,2.00,,STD,,']

describe('a step of the runner', () => {
	test('that was asked to stop before it began does nothing', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, rows)
		askStep(books, desk, run, 'number', 2)
		askToHalt(books, run, 'stop', desk.now())
		await work(books)
		expect(latestJob(books, run)).toMatchObject({ state: 'stopped', words: 'Stopped before it began.' })
		expect(benchRows(books, run).every(({ number }) => number === null)).toBe(true)
	})

	test('that a dead runner left in the middle is taken up again', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, rows)
		await nextStep(books, run)
		askStep(books, desk, run, 'make', 2)
		beginJob(books, nextJob(books)?.id ?? 0, desk.now())
		expect(nextJob(books)?.state).toBe('working')
		await work(books)
		expect(latestJob(books, run)).toMatchObject({ state: 'done', words: '2 PDFs made.', done: 2, total: 2 })
	})

	test('that fails says why, and can be asked for again', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, rows)
		await nextStep(books, run)
		let tries = 0
		const once = async (batch: Parameters<typeof makeBatch>[0]) => {
			if (tries++ === 0) throw new Error('the worker broke')
			return makeBatch(batch)
		}
		expect(await nextStep(books, run, { makeBatch: once })).toMatchObject({
			state: 'failed',
			words: 'the worker broke',
		})
		expect(await nextStep(books, run, { makeBatch: once })).toMatchObject({ state: 'done' })
	})

	test('does not send real mail without a server, and never sends practice mail anywhere else', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, rows)
		await nextStep(books, run)
		await nextStep(books, run)
		const { mail } = readSettings(books)
		changeSettings(books, desk, { mail: { ...mail, mode: 'real' } })
		expect(await nextStep(books, run)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('No mail server is set'),
		})
		changeSettings(books, desk, { mail: { ...mail, mode: 'practice', host: 'mail.elsewhere.example', port: 25 } })
		expect(await nextStep(books, run)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('127.0.0.1:1 does not take mail'),
		})
	})

	test('that is done is not done again', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, rows)
		const job = latestJob(books, run)
		if (!job) throw new Error('no job')
		await doJob({ books, now: desk.now, makeBatch, makers: 1, practicePort: 1 }, job)
		expect(benchRows(books, run)).toHaveLength(2)
		expect(latestJob(books, run)?.words).toBe('Gathered before.')
	})
})
