import { addresses } from '@/core/addresses'
import type { Handover, MailLine } from '@/post/smtp'
import { LockFault, lockForSending } from '@/runs/files/lock'
import { isTrueNow } from '@/runs/statements/beforeSending'
import { type Books, inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { askFor } from '@/store/jobs'
import {
	copiesOf,
	dueRuns,
	lastAttemptAt,
	leftSending,
	mayLeave,
	move,
	type Outgoing,
	readMessage,
	waitingMessages,
} from '@/store/messages'
import { type Copy, copiesDue, copiesLeftSending, moveCopy } from '@/store/postroom'
import { readSettings } from '@/store/settings'
import { whenFree } from '@/store/whenFree'
import { type HandedOver, type NoteHow, note } from './handedOver'
import { rawAgain, rawOf } from './send'

/** What leaves together, the one that the message is addressed to and its copies; or a copy alone. */
type Parcel = HandedOver & { to: string[]; raw: Buffer }

/** Messages that are marked as leaving in one commit, at the most; no more than there are lines to take them. */
const together = 10
/** What is put together ahead of the lines: messages, and bytes. */
const ahead = { messages: 16, bytes: 48_000_000 }
/** After this long a line that has sent its dot is not waited for when all is stopped, ms. */
const lastAnswers = 3_000

type SendWhat = {
	run: number
	/** Only what is due by itself at this time; null for what waits for the step of its run. */
	due: string | null
}
type SendHow = NoteHow & {
	lines: MailLine[]
	/** Messages a minute at the most; 0 for any. */
	perMinute: number
	/** Told after each commit how many were sent so far; false when the clerk wants it to halt. */
	progress: (sent: number) => boolean
	/** Ends it from outside. */
	signal?: AbortSignal
}
export type SendResult = { handled: boolean; away: string | null }

/** Asks for the sending of what is due by itself; one job a run. */
export function askForDue(books: Books, desk: Desk): void {
	for (const { run_id, n } of dueRuns(books, desk.now()))
		askFor(books, desk, { kind: 'send', run: run_id, expected: n, due: true })
}

/** How much of the gap between two messages is left, ms, so long after the last; a clock that was set back makes it no longer than a gap. */
export const gapLeft = (gap: number, since: number): number => Math.max(0, Math.min(gap, gap - since))

/**
 * Sends what may leave of a run over several lines at once, until none is left, the server is away, or it is stopped. A message is
 * `sending` in the books, on disk, before its first byte leaves; some are marked together. Answers are noted as they come, each with its
 * line in the sent log. What was marked and did not leave waits again.
 */
export async function sendWaiting(books: Books, desk: Desk, what: SendWhat, how: SendHow): Promise<SendResult> {
	const sending = new Sending(books, desk, what, how)
	return sending.run()
}

class Sending {
	private away: string | null = null
	private sent = 0
	private stopped = false
	private last = 0
	private copies: Copy[]
	private queue: Outgoing[] = []
	private drained = false
	private ready: Parcel[] = []
	private marked: Parcel[] = []
	private answers: { parcel: Parcel; handed: Handover }[] = []
	private flushing: NodeJS.Timeout | undefined
	private marking: Promise<void> | null = null
	private waiters: (() => void)[] = []
	private nextLeave: number
	/** Lines that the server takes, and those that carry something. */
	private readonly live: Set<MailLine>
	private readonly busy = new Set<MailLine>()
	private wake = () => {}

	constructor(
		private readonly books: Books,
		private readonly desk: Desk,
		private readonly what: SendWhat,
		private readonly how: SendHow,
	) {
		this.live = new Set(how.lines)
		this.copies = what.due === null ? [] : copiesDue(books, what.run, what.due)
		const before = how.perMinute > 0 ? lastAttemptAt(books) : null
		// What is left of the gap after the last message before this step, told by the desk's clock; never more than a gap.
		const since = before === null ? this.gap : Date.parse(desk.now()) - Date.parse(before)
		this.nextLeave = performance.now() + gapLeft(this.gap, since)
	}

	/** Ms between two messages where the server takes only so many a minute. */
	private get gap(): number {
		return this.how.perMinute > 0 ? 60_000 / this.how.perMinute : 0
	}

	async run(): Promise<SendResult> {
		const halt = () => this.stop()
		this.how.signal?.addEventListener('abort', halt)
		if (this.how.signal?.aborted) this.stop()
		// A clerk who stops it is heard also while every line waits for an answer.
		const watch = setInterval(() => this.told(), 500)
		try {
			const lines = Promise.allSettled([
				this.serving(() => this.prepare()),
				...this.how.lines.map((line) => this.serving(() => this.carry(line))),
			])
			await Promise.race([lines, this.overdue()])
			for (const line of this.how.lines) line.cut()
			for (const line of await lines) if (line.status === 'rejected') throw line.reason
		} finally {
			clearInterval(watch)
			clearTimeout(this.flushing)
			this.how.signal?.removeEventListener('abort', halt)
			await this.commit(() => this.putBack())
		}
		return { handled: !this.away && !this.stopped, away: this.away }
	}

	private stop(): void {
		if (this.stopped) return
		this.stopped = true
		for (const line of this.how.lines) line.stop()
		this.wake()
		this.tell()
	}

	/** Ends some time after the process is to end; a clerk who stops it lets what is past its dot be answered. */
	private overdue(): Promise<void> {
		return new Promise((done) => {
			const look = setInterval(() => {
				if (!this.how.signal?.aborted) return
				clearInterval(look)
				setTimeout(done, lastAnswers).unref()
			}, 100)
			look.unref()
		})
	}

	private get over(): boolean {
		return this.stopped || this.away !== null
	}

	private async serving(work: () => Promise<void>): Promise<void> {
		try {
			await work()
		} catch (error) {
			this.stop()
			throw error
		}
	}

	private async carry(line: MailLine): Promise<void> {
		this.busy.add(line)
		while (!this.over) {
			await this.pace()
			const parcel = this.over ? undefined : await this.next()
			if (!parcel) break
			const handed = await line.send({ from: parcel.message.sender, to: parcel.to }, parcel.raw)
			if (handed.outcome === 'crowded' && this.live.size > 1) {
				// The server takes no more lines than it has; the others go on, or one that has nothing to do takes over.
				this.live.delete(line)
				this.busy.delete(line)
				this.marked.unshift(parcel)
				const idle = [...this.live].find((other) => !this.busy.has(other))
				return idle ? this.carry(idle) : undefined
			}
			if (handed.outcome === 'away' || handed.outcome === 'crowded') {
				this.away ??= handed.answer
				for (const other of this.how.lines) other.stop()
				this.tell()
			}
			// What was stopped here before its dot has not been tried.
			if (handed.outcome === 'later' && this.over) this.marked.push(parcel)
			else this.heard(parcel, handed)
		}
		this.busy.delete(line)
	}

	/** Waits until another message may leave. */
	private async pace(): Promise<void> {
		if (this.gap === 0) return
		const at = Math.max(performance.now(), this.nextLeave)
		this.nextLeave = at + this.gap
		const until = at - performance.now()
		if (until <= 0) return
		await new Promise<void>((done) => {
			const timer = setTimeout(done, until)
			const before = this.wake
			this.wake = () => {
				clearTimeout(timer)
				before()
				done()
			}
		})
	}

	/** The next parcel, marked as leaving. */
	private async next(): Promise<Parcel | undefined> {
		while (this.marked.length === 0) {
			if (this.over) return undefined
			if (this.marking) await this.marking
			else if (this.ready.length > 0) {
				this.marking = this.mark().finally(() => {
					this.marking = null
				})
				await this.marking
			} else if (this.drained) return undefined
			else await this.news()
		}
		return this.marked.shift()
	}

	/** Waits until something was put together, all has been, or it is over. */
	private news(): Promise<void> {
		return new Promise((done) => this.waiters.push(done))
	}

	private tell(): void {
		for (const done of this.waiters.splice(0)) done()
	}

	/** Puts messages together ahead of the lines. */
	private async prepare(): Promise<void> {
		try {
			while (!this.over) {
				if (this.ready.length >= ahead.messages || this.bytesReady() > ahead.bytes) {
					await this.news()
					continue
				}
				const copy = this.copies.shift()
				const message = copy ? readMessage(this.books, copy.message_id) : this.following()
				if (!message && copy) continue
				if (!message) break
				const parcel = await this.parcelOf(message, copy ?? null)
				if (parcel) this.ready.push(parcel)
				this.tell()
			}
		} finally {
			this.drained = true
			this.tell()
		}
	}

	private bytesReady(): number {
		return this.ready.reduce((sum, { raw }) => sum + raw.length, 0)
	}

	private following(): Outgoing | undefined {
		if (this.queue.length === 0) this.queue = waitingMessages(this.books, this.what.run, 200, this.what.due, this.last)
		const message = this.queue.shift()
		if (message) this.last = message.id
		return message
	}

	/** A message with what it needs locked; one that cannot be is refused with the reason, so that it holds no other up. */
	private async parcelOf(waiting: Outgoing, copy: Copy | null): Promise<Parcel | null> {
		try {
			const along = copiesOf(this.books, waiting).map(({ id }) => id)
			const message = await lockForSending(this.books, this.desk, waiting, along)
			const { raw, sha256 } = await rawOf(this.books, message)
			const all = [message.recipient, ...addresses(message.cc), ...addresses(message.bcc)]
			return { message, copy, to: copy ? [copy.address] : [...new Set(all)], raw, sha256 }
		} catch (error) {
			if (!(error instanceof LockFault)) throw error
			move(this.books, waiting.id, 'waiting', 'refused', error.message)
			return null
		}
	}

	/** Marks some as leaving in one commit, which also notes the answers that have come. */
	private async mark(): Promise<void> {
		const parcels = this.ready.splice(0, this.gap > 0 ? 1 : Math.min(together, this.live.size))
		const marked: Parcel[] = []
		await this.commit(() => {
			marked.length = 0
			for (const parcel of parcels) {
				const { message, copy } = parcel
				if (copy ? moveCopy(this.books, copy, 'waiting', 'sending') : this.leave(message)) marked.push(parcel)
			}
		})
		this.marked.push(...marked)
		this.tell()
	}

	private leave({ id, recipient, document_id, run_id }: Outgoing): boolean {
		// What a person did meanwhile counts: kept back, addressed anew, made void or revised; and what came in: a statement is true or stays.
		const now = mayLeave(this.books, id)
		if (now?.recipient !== recipient || !isTrueNow(this.books, this.desk, { id, document_id, run_id })) return false
		return move(this.books, id, 'waiting', 'sending', now.last_answer)
	}

	private heard(parcel: Parcel, handed: Handover): void {
		this.answers.push({ parcel, handed })
		this.flushing ??= setTimeout(() => {
			this.flushing = undefined
			this.commit(() => {}).catch(() => this.stop())
		}, 20)
	}

	/**
	 * One commit: the answers that came, and what `work` does. Where the database is locked or the disk full it waits: what the server
	 * said is not forgotten while this process lasts.
	 */
	private async commit(work: () => void): Promise<void> {
		await whenFree(() => {
			const heard = [...this.answers]
			inOneStep(this.books, () => {
				for (const { parcel, handed } of heard) note(this.books, this.desk, parcel, handed, this.how)
				work()
			})
			this.answers.splice(0, heard.length)
			this.sent += heard.filter(({ parcel, handed }) => parcel.copy === null && handed.outcome === 'sent').length
		})
		this.told()
	}

	private told(): void {
		if (this.stopped) return
		try {
			if (!this.how.progress(this.sent)) this.stop()
		} catch {
			// It cannot be written or read now; it is asked again.
		}
	}

	/** What was marked and did not leave waits again. */
	private putBack(): void {
		for (const { message, copy } of this.marked)
			if (copy) moveCopy(this.books, copy, 'sending', 'waiting')
			else move(this.books, message.id, 'sending', 'waiting', message.last_answer)
	}
}

/**
 * Messages of which nobody noted what came of them, since the runner died, may have arrived: they wait for a person to decide.
 * @param run that alone is looked at, while nothing of it is under way; else all runs
 */
export async function settleLeftSending(books: Books, desk: Desk, run: number | null = null): Promise<number> {
	const { mail } = readSettings(books)
	const unsure: Handover = {
		...{ outcome: 'unsure', said: [] },
		answer: 'The runner ended while this message was on its way; it may have arrived.',
	}
	const how = { practice: mail.mode === 'practice', retry: mail.retry }
	const left: { message: Outgoing; copy: Copy | null }[] = leftSending(books)
		.filter(({ run_id }) => run === null || run_id === run)
		.map((message) => ({ message, copy: null }))
	for (const copy of copiesLeftSending(books)) {
		const message = readMessage(books, copy.message_id)
		if (message && (run === null || message.run_id === run)) left.push({ message, copy })
	}
	for (const { message, copy } of left) {
		// With a part of it lost it cannot be put together; that it may have arrived is said all the same.
		const { sha256 } = await rawAgain(books, message)
		inOneStep(books, () => note(books, desk, { message, copy, sha256 }, unsure, how))
	}
	return left.length
}
