import { isOwnKind } from '@/core/paperKind'
import { retryAt } from '@/core/retry'
import { type AnyContent, layoutOf } from '@/kinds'
import { usualLeaving } from '@/layout/leaving'
import { openMailLine, practiceAt } from '@/post/smtp'
import { closeRun } from '@/runs/bench/close'
import { doFileJob, type FileJobEnded } from '@/runs/bringIn/job'
import { gather } from '@/runs/drafts/gather'
import { hashesFor } from '@/runs/files/assets'
import { companionsFor } from '@/runs/files/companions'
import type { MakeBatch } from '@/runs/files/make'
import { filesFolder } from '@/runs/files/pdfOf'
import { keepReadForm } from '@/runs/forms/forms'
import { type FormRead, readFormBytes } from '@/runs/forms/readForm'
import { numberDocuments } from '@/runs/issue/number'
import { gatherPapers } from '@/runs/papers/gather'
import { makeTrialPrint } from '@/runs/papers/keep'
import { lookAgainEverywhere } from '@/runs/recheck/lookAgain'
import { writeMessages } from '@/runs/send/send'
import { sendWaiting, settleLeftSending } from '@/runs/send/sending'
import { holdUntrue } from '@/runs/statements/beforeSending'
import { gatherStatements } from '@/runs/statements/gather'
import { nextAct } from '@/runs/tally/tally'
import { type Books, inOneStep } from '@/store/books'
import { readImage } from '@/store/company'
import type { Desk } from '@/store/events'
import { formBytes, formRow } from '@/store/forms'
import { askFor, beginJob, endJob, haltAsked, type Job, setProgress, type Task, taskOf } from '@/store/jobs'
import { versionBody } from '@/store/layouts'
import { type MadeFile, madeCount, markMade, toMake } from '@/store/made'
import { postpone, putOffCount, sendCounts } from '@/store/messages'
import { kindIn } from '@/store/paperKinds'
import { runGroups } from '@/store/places'
import { plainWords } from '@/store/plainWords'
import { readRun } from '@/store/runs'
import { readSettings, workDate } from '@/store/settings'
import { isLocked, whenFree } from '@/store/whenFree'

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
	/** Ends what is under way, so that the process can end; its job stays as it is, and is taken up at the next start. */
	ending?: AbortSignal
}
type Halted = 'stopped' | 'paused'
type Ended = { state: 'done' | Halted | 'failed'; words: string }

const haltWords: Record<Halted, string> = { stopped: 'Stopped', paused: 'Paused' }

const batchSize = 50

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
		if (shop.ending?.aborted) return
		// Another holds the books: it is taken up again, as it stands.
		if (isLocked(error)) throw error
		const words = wordsOf(error)
		// Where its end cannot be written now, it waits until it can: on a full disk, or while another holds the books.
		await whenFree(() => endJob(books, job.id, 'failed', words, now()))
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
			return gatherAll(shop, desk, job, task)
		case 'number':
			return inOneStep(books, () => {
				const numbered = numberDocuments(books, desk, task.run, task.expected, task.seen ?? null)
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
			return sendAll(shop, desk, job, task.run, task.due === true)
	}
}

/** Gathers a run: invoices and papers of other kinds in one step, statements some accounts a step. Its job ends within the last. */
async function gatherAll(
	{ books, now, ending }: Shop,
	desk: Desk,
	job: Job,
	task: { run: number; only?: number[] },
): Promise<null> {
	const key = readRun(books, task.run)?.kind ?? 'invoice'
	const kind = kindIn(books, key)
	const end = (count: number | null) => {
		const words = count === null ? 'Gathered before.' : `${count} ${kind.words.nouns} gathered and checked.`
		endJob(books, job.id, 'done', words, now())
	}
	if (!isOwnKind(key) && !kind.bills) {
		await gatherStatements(books, desk, task.run, end, (done, all) => {
			if (ending?.aborted) throw new Error('The runner ends; gathering goes on at its next start.')
			setProgress(books, job.id, done, all)
		})
		return null
	}
	inOneStep(books, () => {
		const today = workDate(books, now().slice(0, 10))
		end(
			isOwnKind(key)
				? gatherPapers(books, desk, task.run, today)
				: gather(books, desk, task.run, today, task.only ?? null),
		)
	})
	return null
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
async function makeAll(
	{ books, now, makeBatch, makers, ending }: Shop,
	job: Job,
	runId: number,
): Promise<Ended | null> {
	const { numbered, made: before } = madeCount(books, runId)
	let done = before
	const { leaving } = readSettings(books)
	const waiting = toMake(books, runId, numbered).map(({ id, kind, content, beside }) => ({
		id,
		content,
		beside: companionsFor(beside, leaving[kind] ?? usualLeaving),
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
		for (
			let batch = waiting.splice(0, batchSize);
			batch.length > 0 && !halted && !ending?.aborted;
			batch = waiting.splice(0, batchSize)
		) {
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
	if (ending?.aborted && made < numbered && haltAsked(books, job.id) === null) return null
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
		const kept: AnyContent = JSON.parse(content)
		const { id, version } = layoutOf(kept)
		const key = `${id} ${version}`
		const body = id === 0 ? null : (layouts.get(key)?.body ?? versionBody(books, id, version))
		for (const hash of hashesFor(kept, body)) hashes.add(hash)
		if (body !== null) layouts.set(key, { id, version, body })
	}
	return { layouts: [...layouts.values()], images: [...hashes].flatMap((hash) => readImage(books, hash) ?? []) }
}

async function sendAll(
	{ books, now, practicePort, ending }: Shop,
	desk: Desk,
	job: Job,
	run: number,
	due: boolean,
): Promise<Ended | null> {
	const { mail } = readSettings(books)
	const practice = mail.mode === 'practice'
	if (!practice && !mail.host)
		return { state: 'failed', words: 'No mail server is set. Give its name and port under Company, or practise.' }
	await settleLeftSending(books, { ...desk, now }, run)
	const untrue = holdUntrue(books, { ...desk, now }, run)
	const { hindered } = due ? { hindered: [] } : writeMessages(books, desk, run)
	const server = practice ? practiceAt(practicePort) : mail
	const lines = Array.from({ length: mail.lines }, () => openMailLine(server, { messages: mail.perLine }))
	const before = sendCounts(books, run)
	// Of what is sent by itself only that is counted; of a run's step all that it has.
	const all = due ? job.total : Object.values(before).reduce((sum, count) => sum + count, 0)
	const start = due ? 0 : before.sent
	let done = start
	let written = -1
	const progress = (sent: number) => {
		done = Math.min(all, start + sent)
		if (done !== written) setProgress(books, job.id, done, all)
		written = done
		return haltAsked(books, job.id) === null
	}
	progress(0)
	const result = await sendWaiting(
		books,
		{ ...desk, now },
		{ run, due: due ? now() : null },
		{ lines, practice, perMinute: mail.perMinute, retry: mail.retry, progress, signal: ending },
	)
	for (const line of lines) line.close()
	const { refused, unsure, waiting } = sendCounts(books, run)
	const putOff = putOffCount(books, run)
	if (result.away && due) {
		const until = retryAt(mail.retry, 1, now(), now())
		if (until) postpone(books, run, now(), until)
	}
	if (result.away)
		return {
			state: 'failed',
			words: due
				? `${result.away}. What was due by itself is tried again later.`
				: `${result.away}. ${counted(waiting - putOff, 'message waits', 'messages wait')}; send again when the server is back.`,
		}
	const asked = haltAsked(books, job.id)
	if (ending?.aborted && asked === null) return null
	if (asked !== null && !result.handled)
		return { state: asked, words: `${haltWords[asked]} with ${done} of ${all} sent.` }
	if (hindered.length > 0)
		return {
			state: 'failed',
			words: `${done} sent. ${hindered.length} wait, since they cannot be locked: ${hindered.slice(0, 3).join(' ')}`,
		}
	const rest = [
		untrue.length > 0
			? `${untrue.length} are no longer true and wait to be read: ${untrue.slice(0, 2).join('; ')}`
			: '',
		putOff > 0 ? `${putOff} were put off by the mail server and are tried again by themselves` : '',
		refused > 0 ? `${refused} were refused` : '',
		unsure > 0 ? `${unsure} are unsure` : '',
	].filter(Boolean)
	return { state: 'done', words: `${done} sent.${rest.length > 0 ? ` ${rest.join(', ')}: see the Postroom.` : ''}` }
}

/** What went wrong, with what to do where that is known. */
function wordsOf(error: unknown): string {
	const words = error instanceof Error ? error.message : String(error)
	return /ENOSPC|EDQUOT|SQLITE_FULL|database or disk is full/.test(words)
		? `There is no room on the disk (${words}). Make room, then go on: what was done stays done.`
		: plainWords(error)
}

const counted = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`
