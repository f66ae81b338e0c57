import { constants, setPriority } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import Piscina from 'piscina'
import type { FileJobEnded } from '@/runs/bringIn/job'
import type { MakeBatch } from '@/runs/files/make'
import type { FormRead } from '@/runs/forms/readForm'
import { throwTrialsAway } from '@/runs/papers/keep'
import { askForDue, settleLeftSending } from '@/runs/send/sending'
import type { Desk } from '@/store/events'
import { type Job, type Lane, lanes, nextJob } from '@/store/jobs'
import type { MadeFile } from '@/store/made'
import { BooksFault, dataFolder, openBooks } from '@/store/openBooks'
import { isPassing, whenFree } from '@/store/whenFree'
import { cannotBe } from './ends'
import { doJob } from './work'

const idle = 150
/** A form takes a fraction of a second. */
const formPatience = 30_000

const say = (words: string) => console.log(`${new Date().toISOString()} ${words}`)
const now = () => new Date().toISOString()
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Only one runner works on the books: it holds a lock that ends with its process, however that ends. */
function takeLock(folder: string): Database.Database {
	const lock = new Database(join(folder, 'runner.lock'), { timeout: 5_000 })
	try {
		lock.pragma('journal_mode = DELETE')
		lock.exec('BEGIN EXCLUSIVE')
	} catch {
		console.error(`Another runner works on the books in ${folder}. Stop it first.`)
		process.exit(cannotBe)
	}
	return lock
}

async function main(): Promise<void> {
	// People are answered first: the web goes before the making of ten thousand PDFs. Worker threads inherit it.
	setPriority(constants.priority.PRIORITY_BELOW_NORMAL)
	const books = await whenFree(() => openBooks())
	const lock = takeLock(dataFolder())
	const makers = Number(process.env.NORTH_TALLY_MAKERS ?? 2)
	const pool = new Piscina<never, MadeFile[]>({
		filename: join(import.meta.dirname, 'makeWorker.mjs'),
		minThreads: 0,
		maxThreads: makers,
		idleTimeout: 30_000,
	})
	// Reading has a thread of its own, which waits in between, so that a long file holds nothing else up.
	const reader = new Piscina<{ job: Job }, FileJobEnded>({
		filename: join(import.meta.dirname, 'fileWorker.mjs'),
		minThreads: 0,
		maxThreads: 1,
		idleTimeout: 30_000,
		// Rows come and go by the million: with room for the young ones, they are not moved about before they are done with.
		resourceLimits: { maxYoungGenerationSizeMb: 96 },
	})
	// A form may be made to take all there is: it has a thread that ends when it takes too much.
	const forms = new Piscina<{ name: string; bytes: Buffer }, FormRead>({
		filename: join(import.meta.dirname, 'formWorker.mjs'),
		minThreads: 0,
		maxThreads: 1,
		idleTimeout: 10_000,
		resourceLimits: { maxOldGenerationSizeMb: 700 },
	})
	const ending = new AbortController()
	const end = () => ending.abort()
	for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, end)
	process.on('disconnect', end)
	const unsure = await settleLeftSending(books, { clerk: 'the runner', now })
	if (unsure > 0) say(`${unsure} messages are unsure`)
	say('ready')
	process.send?.('ready')
	const shop = {
		books,
		now,
		makeBatch: (batch: MakeBatch) => pool.run(batch as never),
		makers,
		practicePort: Number(process.env.NORTH_TALLY_SMTP_PORT ?? 4748),
		fileJob: (job: Job) => reader.run({ job }),
		ending: ending.signal,
		readForm: (form: { name: string; bytes: Buffer }) => forms.run(form, { signal: AbortSignal.timeout(formPatience) }),
	}
	const runner: Desk = { clerk: 'the runner', now }
	/** Does something again and again until the process is to end. A database that is locked, or a full disk, makes it wait. */
	const whileWorking = async (name: string, ms: number, step: () => Promise<boolean> | boolean) => {
		while (!ending.signal.aborted)
			try {
				if (!(await step())) await pause(ms)
			} catch (error) {
				say(
					`${name}: ${error instanceof Error ? error.message : error}${isPassing(error) ? '; it is tried again' : ''}`,
				)
				await pause(2_000)
			}
	}
	// A lane each for reading, making and sending: a mail server that hangs keeps no run from being gathered.
	const serve = (lane: Lane) =>
		whileWorking(lane, idle, async () => {
			const job = nextJob(books, lane)
			if (!job) return false
			say(`${lane}: ${job.kind}${job.run_id === null ? '' : ` of run ${job.run_id}`}`)
			await doJob(shop, job)
			return true
		})
	let tidied = Number.NEGATIVE_INFINITY
	/** Trial prints whose days are over go by themselves, and it is noted. */
	const tidy = () => {
		if (performance.now() - tidied < 600_000) return false
		tidied = performance.now()
		throwTrialsAway(books, runner)
		return false
	}
	const all = [
		...lanes.map(serve),
		whileWorking('what is due', 500, () => {
			askForDue(books, runner)
			return false
		}),
		whileWorking('trial prints', idle, tidy),
	]
	await new Promise((done) => ending.signal.addEventListener('abort', done))
	// Every step is a transaction: what does not end soon is taken up again at the next start.
	await Promise.race([Promise.all(all), pause(4_200)])
	books.db.close()
	lock.close()
	process.exit(0)
}

main().catch((error: unknown) => {
	console.error(error instanceof Error ? error.message : error)
	process.exit(error instanceof BooksFault ? cannotBe : 1)
})
