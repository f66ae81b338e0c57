import { isOwnKind } from '@/core/paperKind'
import { layoutOf } from '@/kinds'
import { usualLeaving } from '@/layout/leaving'
import { openMailLine } from '@/post/smtp'
import { hashesFor } from '@/runs/art'
import { besideFor } from '@/runs/beside'
import { doFileJob, type FileJobEnded } from '@/runs/bringIn/job'
import { closeRun } from '@/runs/close'
import { keepReadForm } from '@/runs/forms/forms'
import { type FormRead, readFormBytes } from '@/runs/forms/readForm'
import { gather } from '@/runs/gather'
import { lookAgainEverywhere } from '@/runs/lookAgain'
import type { MakeBatch } from '@/runs/make'
import { numberDocuments } from '@/runs/number'
import { gatherPapers } from '@/runs/papers/gather'
import { makeTrialPrint } from '@/runs/papers/keep'
import { filesFolder } from '@/runs/pdfOf'
import { sendWaiting, writeMessages } from '@/runs/send'
import { gatherStatements } from '@/runs/statements'
import { nextAct } from '@/runs/tally'
import { type Books, inOneStep } from '@/store/books'
import { readImage } from '@/store/company'
import type { Desk } from '@/store/events'
import { formBytes, formRow } from '@/store/forms'
import { askFor, beginJob, endJob, haltAsked, type Job, setProgress, type Task, taskOf } from '@/store/jobs'
import { versionBody } from '@/store/layouts'
import { type MadeFile, madeCount, markMade, toMake } from '@/store/made'
import { sendCounts } from '@/store/messages'
import { kindIn } from '@/store/paperKinds'
import { runGroups } from '@/store/places'
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
	/** Does a job on a file; in a thread of its own where there is one. */
	fileJob?: (job: Job) => Promise<FileJobEnded>
	/** Reads the bytes of a form; in a thread of its own, with bounds of time and memory, where there is one. */
	readForm?: (form: { name: string; bytes: Buffer }) => Promise<FormRead>
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
				: await doTask(shop, desk, job, taskOf(books, job.id))
		if (ended)
			inOneStep(books, () => {
				endJob(books, job.id, ended.state, ended.words, now())
				goOn(books, desk, taskOf(books, job.id), ended)
			})
	} catch (error) {
		endJob(books, job.id, 'failed', error instanceof Error ? error.message : String(error), now())
	}
}

/** Goes on after a step of a paper that was issued by itself: it is sent where that was asked for, and its run closed when all is done. */
function goOn(books: Books, desk: Desk, task: Task, { state }: Ended): void {
	if (state !== 'done' || !('expected' in task)) return
	const groups = runGroups(books, task.run)
	const next = nextAct(groups)
	if (task.follow !== undefined && next.act === task.follow)
		askFor(books, desk, { kind: task.follow, run: task.run, expected: next.count })
	else if (
		next.act === 'close' &&
		groups.length === 1 &&
		next.count === 1 &&
		isOwnKind(readRun(books, task.run)?.kind ?? '')
	)
		closeRun(books, desk, task.run)
}

/** Does what was asked for; gives how it ended, or null when it recorded that itself, within its own transaction. */
async function doTask(shop: Shop, desk: Desk, job: Job, task: Task): Promise<Ended | null> {
	const { books, now } = shop
	switch (task.kind) {
		case 'read file':
		case 'take file':
		case 'accept file':
		case 'take file back':
			return shop.fileJob ? shop.fileJob(job) : doFileJob(books, desk, job)
		case 'read form':
			return readAForm(shop, desk, task.form)
		case 'gather':
			return inOneStep(books, () => {
				const key = readRun(books, task.run)?.kind ?? 'invoice'
				const kind = kindIn(books, key)
				const today = workDate(books, now().slice(0, 10))
				const count = isOwnKind(key)
					? gatherPapers(books, desk, task.run, today)
					: kind.bills
						? gather(books, desk, task.run, today)
						: gatherStatements(books, desk, task.run)
				const words = count === null ? 'Gathered before.' : `${count} ${kind.words.nouns} gathered and checked.`
				endJob(books, job.id, 'done', words, now())
				return null
			})
		case 'number':
			return inOneStep(books, () => {
				const numbered = numberDocuments(books, desk, task.run, task.expected)
				if (!numbered.ok) endJob(books, job.id, 'failed', numbered.message, now())
				else {
					const given = numbered.given.map(({ first, last }) => (first === last ? first : `${first} to ${last}`))
					endJob(books, job.id, 'done', `${numbered.count} numbered, ${given.join(', ')}.`, now())
				}
				return null
			})
		case 'look again':
			return inOneStep(books, () => {
				const changed = lookAgainEverywhere(books, desk, task.customer)
				endJob(books, job.id, 'done', `${changed} drafts came out otherwise.`, now())
				return null
			})
		case 'trial print':
			return { state: 'done', words: await makeTrialPrint(books, desk, task.run) }
		case 'make':
			return makeAll(shop, job, task.run)
		case 'send':
			return sendAll(shop, desk, job, task.run)
	}
}

/** Reads a form. Where its thread runs out of time or memory, the form is refused and not tried again. */
async function readAForm({ books, readForm }: Shop, desk: Desk, id: number): Promise<Ended> {
	const row = formRow(books, id)
	const bytes = formBytes(books, id)
	if (!row || !bytes) return { state: 'failed', words: 'There is no such form any more.' }
	const read = await (readForm?.({ name: row.file_name, bytes }) ?? readFormBytes(row.file_name, bytes)).catch(
		(error: unknown): FormRead => ({
			ok: false,
			message: `The form cannot be read (${error instanceof Error ? error.message : String(error)}). Save it again, simpler, and choose the new file.`,
		}),
	)
	return { state: read.ok ? 'done' : 'failed', words: keepReadForm(books, desk, id, read) }
}

/** Keeps every maker busy; each batch is committed as it comes back, so a runner that dies goes on from there. */
async function makeAll({ books, now, makeBatch, makers }: Shop, job: Job, runId: number): Promise<Ended> {
	const { numbered, made: before } = madeCount(books, runId)
	let done = before
	const { leaving } = readSettings(books)
	const waiting = toMake(books, runId, numbered).map(({ id, kind, content, beside }) => ({
		id,
		content,
		beside: besideFor(beside, leaving[kind] ?? usualLeaving),
	}))
	let halted: Halted | null = null
	const commit = (files: MadeFile[]) =>
		inOneStep(books, () => {
			for (const file of files) markMade(books, file, now())
			done += files.length
			setProgress(books, job.id, done, numbered)
			halted = haltAsked(books, job.id)
		})
	const maker = async () => {
		for (let batch = waiting.splice(0, batchSize); batch.length > 0 && !halted; batch = waiting.splice(0, batchSize)) {
			commit(
				await makeBatch({
					folder: filesFolder(books),
					runId,
					documents: batch,
					...artOf(books, batch),
				}),
			)
		}
	}
	// Of several makers none is idle while another's batch is recorded: one more waits than there are.
	await Promise.all(Array.from({ length: makers > 1 ? makers + 1 : makers }, maker))
	const { made } = madeCount(books, runId)
	const asked = haltAsked(books, job.id)
	return asked && made < numbered
		? { state: asked, words: `${haltWords[asked]} with ${made} of ${numbered} PDFs made.` }
		: { state: 'done', words: `${made} PDFs made.` }
}

/** The layouts and pictures that documents are made with. */
function artOf(books: Books, batch: { content: string }[]): Pick<MakeBatch, 'layouts' | 'images'> {
	const layouts = new Map<string, MakeBatch['layouts'][number]>()
	const hashes = new Set<string>()
	for (const { content } of batch) {
		const { id, version } = layoutOf(content)
		const key = `${id} ${version}`
		const body = id === 0 ? null : (layouts.get(key)?.body ?? versionBody(books, id, version))
		for (const hash of hashesFor(content, body)) hashes.add(hash)
		if (body !== null) layouts.set(key, { id, version, body })
	}
	return { layouts: [...layouts.values()], images: [...hashes].flatMap((hash) => readImage(books, hash) ?? []) }
}

async function sendAll({ books, now, practicePort }: Shop, desk: Desk, job: Job, runId: number): Promise<Ended> {
	const { mail } = readSettings(books)
	const practice = mail.mode === 'practice'
	if (!practice && !mail.host)
		return { state: 'failed', words: 'No mail server is set. Give its name and port under Company, or practise.' }
	const { hindered } = writeMessages(books, desk, runId)
	const server = practice ? { host: '127.0.0.1', port: practicePort, secure: false, user: '', password: '' } : mail
	const lines = Array.from({ length: mailLines }, () => openMailLine(server))
	const total = () => Object.values(sendCounts(books, runId)).reduce((sum, count) => sum + count, 0)
	const all = total()
	setProgress(books, job.id, sendCounts(books, runId).sent, all)
	const result = await sendWaiting(books, { ...desk, now }, runId, lines, practice, () => {
		setProgress(books, job.id, sendCounts(books, runId).sent, all)
		return haltAsked(books, job.id) === null
	})
	for (const line of lines) line.close()
	const { sent, waiting, refused, unsure } = sendCounts(books, runId)
	if (result.away)
		return { state: 'failed', words: `${result.away}. ${waiting} messages wait; send again when the server is back.` }
	if (waiting > 0) {
		const asked = haltAsked(books, job.id) ?? 'stopped'
		return { state: asked, words: `${haltWords[asked]} with ${sent} of ${all} sent.` }
	}
	if (hindered.length > 0)
		return {
			state: 'failed',
			words: `${sent} sent. ${hindered.length} wait, since they cannot be locked: ${hindered.slice(0, 3).join(' ')}`,
		}
	const rest = refused + unsure > 0 ? ` ${refused} were refused and ${unsure} are unsure: see the Postroom.` : ''
	return { state: 'done', words: `${sent} sent.${rest}` }
}
