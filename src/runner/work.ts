import { openMailLine } from '@/post/smtp'
import { gather } from '@/runs/gather'
import type { MakeBatch } from '@/runs/make'
import { numberDocuments } from '@/runs/number'
import { filesFolder } from '@/runs/paper'
import { sendWaiting, writeMessages } from '@/runs/send'
import { gatherStatements } from '@/runs/statements'
import { type Books, inOneStep } from '@/store/books'
import { readImage } from '@/store/company'
import type { MadeFile } from '@/store/documents'
import { madeCount, markMade, toMake } from '@/store/documents'
import type { Desk } from '@/store/events'
import { beginJob, endJob, haltAsked, type Job, setProgress } from '@/store/jobs'
import { sendCounts } from '@/store/messages'
import { readRun } from '@/store/runs'
import { readSettings, workDate } from '@/store/settings'

/** What the runner has at hand for its work. */
export type Shop = {
	books: Books
	now: () => string
	/** Makes the PDFs of a batch, in a worker thread. */
	makeBatch: (batch: MakeBatch) => Promise<MadeFile[]>
	/** Batches that may be under way at once. */
	makers: number
	practicePort: number
}
type Halted = 'stopped' | 'paused'
type Ended = { state: 'done' | Halted | 'failed'; words: string }

const haltWords: Record<Halted, string> = { stopped: 'Stopped', paused: 'Paused' }

const batchSize = 50
const mailLines = 2

/** Does a job from where it stands and records how it ended; an error ends it as failed, with its words. */
export async function doJob(shop: Shop, job: Job): Promise<void> {
	const { books, now } = shop
	const desk: Desk = { clerk: job.asked_by, now }
	const before = haltAsked(books, job.id)
	beginJob(books, job.id, now())
	try {
		const ended =
			before !== null
				? { state: before, words: `${haltWords[before]} before it began.` }
				: await steps[job.step](shop, desk, job)
		if (ended) endJob(books, job.id, ended.state, ended.words, now())
	} catch (error) {
		endJob(books, job.id, 'failed', error instanceof Error ? error.message : String(error), now())
	}
}

/** A step gives how it ended, or null when it recorded that itself, within its own transaction. */
const steps: Record<Job['step'], (shop: Shop, desk: Desk, job: Job) => Promise<Ended | null>> = {
	gather: async ({ books, now }, desk, job) => {
		inOneStep(books, () => {
			const statements = readRun(books, job.run_id)?.kind === 'statement'
			const count = statements
				? gatherStatements(books, desk, job.run_id)
				: gather(books, desk, job.run_id, workDate(books, now().slice(0, 10)))
			endJob(
				books,
				job.id,
				'done',
				count === null
					? 'Gathered before.'
					: `${count} ${statements ? 'statements' : 'invoices'} gathered and checked.`,
				now(),
			)
		})
		return null
	},
	number: async ({ books, now }, desk, job) => {
		inOneStep(books, () => {
			const numbered = numberDocuments(books, desk, job.run_id, job.total)
			if (numbered.ok)
				endJob(books, job.id, 'done', `${numbered.count} numbered, ${numbered.first} to ${numbered.last}.`, now())
			else endJob(books, job.id, 'failed', numbered.message, now())
		})
		return null
	},
	make: (shop, _desk, job) => makeAll(shop, job),
	send: (shop, desk, job) => sendAll(shop, desk, job),
}

/** Keeps every maker busy; each batch is committed as it comes back, so a runner that dies goes on from there. */
async function makeAll({ books, now, makeBatch, makers }: Shop, job: Job): Promise<Ended> {
	const { numbered } = madeCount(books, job.run_id)
	const waiting = toMake(books, job.run_id, numbered)
	let halted: Halted | null = null
	const commit = (files: MadeFile[]) =>
		inOneStep(books, () => {
			for (const file of files) markMade(books, file, now())
			setProgress(books, job.id, madeCount(books, job.run_id).made, numbered)
			halted = haltAsked(books, job.id)
		})
	const maker = async () => {
		for (let batch = waiting.splice(0, batchSize); batch.length > 0 && !halted; batch = waiting.splice(0, batchSize)) {
			commit(
				await makeBatch({
					folder: filesFolder(books),
					runId: job.run_id,
					documents: batch,
					logos: logosOf(books, batch),
				}),
			)
		}
	}
	await Promise.all(Array.from({ length: makers }, maker))
	const { made } = madeCount(books, job.run_id)
	const asked = haltAsked(books, job.id)
	return asked && made < numbered
		? { state: asked, words: `${haltWords[asked]} with ${made} of ${numbered} PDFs made.` }
		: { state: 'done', words: `${made} PDFs made.` }
}

const logoPattern = /"logo":"([0-9a-f]{64})"/

function logosOf(books: Books, batch: { content: string }[]): MakeBatch['logos'] {
	const hashes = new Set(
		batch.map(({ content }) => logoPattern.exec(content)?.[1]).filter((hash) => hash !== undefined),
	)
	return [...hashes].flatMap((hash) => readImage(books, hash) ?? [])
}

async function sendAll({ books, now, practicePort }: Shop, desk: Desk, job: Job): Promise<Ended> {
	const { mail } = readSettings(books)
	const practice = mail.mode === 'practice'
	if (!practice && !mail.host)
		return { state: 'failed', words: 'No mail server is set. Give its name and port under Company, or practise.' }
	writeMessages(books, desk, job.run_id)
	const server = practice ? { host: '127.0.0.1', port: practicePort, secure: false, user: '', password: '' } : mail
	const lines = Array.from({ length: mailLines }, () => openMailLine(server))
	const total = () => Object.values(sendCounts(books, job.run_id)).reduce((sum, count) => sum + count, 0)
	const all = total()
	setProgress(books, job.id, sendCounts(books, job.run_id).sent, all)
	const result = await sendWaiting(books, { ...desk, now }, job.run_id, lines, practice, () => {
		setProgress(books, job.id, sendCounts(books, job.run_id).sent, all)
		return haltAsked(books, job.id) === null
	})
	for (const line of lines) line.close()
	const { sent, waiting, refused, unsure } = sendCounts(books, job.run_id)
	if (result.away)
		return { state: 'failed', words: `${result.away}. ${waiting} messages wait; send again when the server is back.` }
	if (waiting > 0) {
		const asked = haltAsked(books, job.id) ?? 'stopped'
		return { state: asked, words: `${haltWords[asked]} with ${sent} of ${all} sent.` }
	}
	const rest = refused + unsure > 0 ? ` ${refused} were refused and ${unsure} are unsure: see the Postroom.` : ''
	return { state: 'done', words: `${sent} sent.${rest}` }
}
