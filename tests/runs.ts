import type { MailLine } from '@/post/smtp'
import { doJob, type Shop } from '@/runner/work'
import { askStep, startRun } from '@/runs/bench/steps'
import { makeBatch } from '@/runs/files/make'
import { type SendResult, sendWaiting } from '@/runs/send/sending'
import { nextAct } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { type Job, latestJob, nextJob } from '@/store/jobs'
import { entriesById, itemsOfCustomer } from '@/store/ledger'
import { runGroups } from '@/store/places'
import { bringOrders, desk } from './support'

/** Does every waiting job, as the runner would. */
export async function work(books: Books, more: Partial<Shop> = {}): Promise<void> {
	const shop: Shop = { books, now: desk.now, makeBatch, makers: 1, practicePort: 1, ...more }
	for (let job = nextJob(books); job; job = nextJob(books)) await doJob(shop, job)
}

/** Brings the rows in and gathers a run of all that waits. */
export async function gatherRun(books: Books, rows: string[], documentDay = '2026-10-31'): Promise<number> {
	if (rows.length > 0) await bringOrders(books, ...rows)
	const started = startRun(books, desk, '2026-10-31', documentDay)
	if (!started.ok || !started.id) throw new Error(started.ok ? 'no run' : started.message)
	await work(books)
	return started.id
}

/** Asks for the run's next step and has it done. */
export async function nextStep(books: Books, run: number, more?: Partial<Shop>): Promise<Job | null> {
	const { act, count } = nextAct(runGroups(books, run))
	if (act === 'number' || act === 'make' || act === 'send') askStep(books, desk, run, act, count)
	await work(books, more)
	return latestJob(books, run)
}

/** A run that is gathered, numbered and made. */
export async function billed(books: Books, ...given: ({ documentDay: string } | string)[]): Promise<number> {
	const rows = given.filter((row) => typeof row === 'string')
	const day = given.find((part) => typeof part !== 'string')?.documentDay
	const run = await gatherRun(books, rows, day)
	await nextStep(books, run)
	await nextStep(books, run)
	return run
}

/** A line to a mail server that answers as told, and keeps what it was given. */
export const line = (outcome: 'sent' | 'refused' | 'away' | 'unsure', took: Buffer[] = []): MailLine => ({
	...{ close: () => {}, stop: () => {}, cut: () => {} },
	send: async ({ to }, raw) => {
		took.push(raw)
		const answer = `the server: ${outcome}`
		return { outcome, answer, said: to.map((address) => ({ address, code: outcome === 'sent' ? 250 : 0, answer })) }
	},
})

/** Sends what waits for the step of a run over the lines, then what is due by itself. */
export async function sendRun(
	books: Books,
	by: Desk,
	run: number,
	lines: MailLine[],
	progress = () => true,
): Promise<SendResult> {
	const how = { lines, practice: true, progress, perMinute: 0, retry: { minutes: [1, 5, 30], hours: 24 } }
	const step = await sendWaiting(books, by, { run, due: null }, how)
	return step.handled ? sendWaiting(books, by, { run, due: '9999' }, how) : step
}

/** All items of a customer as the core ages them. */
export const entriesOf = (books: Books, customer: number) =>
	entriesById(
		books,
		itemsOfCustomer(books, customer).map(({ id }) => id),
	)
