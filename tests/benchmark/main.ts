import { rmSync } from 'node:fs'
import { join } from 'node:path'
import Piscina from 'piscina'
import { doJob, type Shop } from '@/runner/work'
import { startRun } from '@/runs/bench/steps'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { askFor, latestJob, nextJob, type Step } from '@/store/jobs'
import type { MadeFile } from '@/store/made'
import { benchBooks, benchDesk } from './books'

const workers = 2
const dist = import.meta.dirname
const rate = (count: number, ms: number) => `${((count * 1000) / ms).toFixed(0)} documents a second`

async function timed<T>(work: () => Promise<T>): Promise<[ms: number, value: T]> {
	const from = performance.now()
	const value = await work()
	return [performance.now() - from, value]
}

type Times = Record<'gather' | 'number' | 'make', number>

/** Waiting orders to recorded PDFs, step by step, through the runner's own code and worker pool. */
async function wholeWay(count: number): Promise<{ times: Times; books: Books; peak: number }> {
	const books = benchBooks(count)
	const pool = new Piscina<never, MadeFile[]>({
		filename: join(dist, 'makeWorker.mjs'),
		minThreads: workers,
		maxThreads: workers,
	})
	const shop: Shop = {
		books,
		now: benchDesk.now,
		makeBatch: (batch) => pool.run(batch as never),
		makers: workers,
		practicePort: 0,
	}
	const started = startRun(books, benchDesk, '2026-10-31', '2026-10-31')
	if (!started.ok || !started.id) throw new Error('The run did not start.')
	const runId = started.id
	let peak = 0
	const watch = setInterval(() => {
		peak = Math.max(peak, process.memoryUsage.rss())
	}, 100)
	const step = async (name: Step) => {
		if (name !== 'gather') askFor(books, benchDesk, { kind: name, run: runId, expected: count })
		const job = nextJob(books)
		if (!job) throw new Error(`No job for ${name}.`)
		const [ms] = await timed(() => doJob(shop, job))
		const ended = latestJob(books, runId)
		if (ended?.state !== 'done') throw new Error(`${name}: ${ended?.words}`)
		return ms
	}
	const times = { gather: await step('gather'), number: await step('number'), make: await step('make') }
	clearInterval(watch)
	await pool.destroy()
	return { times, books, peak }
}

/** The frozen documents of the books drawn by pdfkit alone, on as many workers. */
async function bareWay(contents: string[], way: 'shared' | 'plain'): Promise<number> {
	const pool = new Piscina<never, number>({
		filename: join(dist, 'bare.mjs'),
		minThreads: workers,
		maxThreads: workers,
	})
	const batches: string[][] = []
	for (let from = 0; from < contents.length; from += 50) batches.push(contents.slice(from, from + 50))
	const [ms] = await timed(() => Promise.all(batches.map((batch) => pool.run({ contents: batch, way } as never))))
	await pool.destroy()
	return ms
}

const count = Number(process.argv[2] ?? 1000)
console.log(`${count} invoices of five lines, fonts embedded, ${workers} workers, one run of this machine\n`)
const { times, books, peak } = await wholeWay(count)
const total = times.gather + times.number + times.make
const contents = books.db
	.prepare<[], { content: string }>('SELECT content FROM document_content')
	.all()
	.map(({ content }) => content)
const size = books.db.prepare<[], { size: number }>('SELECT max(file_size) AS size FROM document').get()?.size ?? 0
const sharedCount = Math.min(count, 2000)
const sharedMs = (await bareWay(contents.slice(0, sharedCount), 'shared')) * (count / sharedCount)
const plainCount = Math.min(count, 500)
const plainMs = (await bareWay(contents.slice(0, plainCount), 'plain')) * (count / plainCount)
const [verifyMs, wrong] = await timed(async () => verify(books).flatMap((found) => found.wrong))
const row = (name: string, value: string) => console.log(`${name.padEnd(58)} ${value}`)
row('gather and check', `${times.gather.toFixed(0)} ms`)
row('number and freeze', `${times.number.toFixed(0)} ms`)
row('make and record', `${times.make.toFixed(0)} ms, ${rate(count, times.make)}`)
row('orders to recorded PDFs', `${total.toFixed(0)} ms, ${rate(count, total)}`)
row('bare pdfkit loop, shared fonts, same pages, as many workers', rate(count, sharedMs))
row('plain pdfkit, fonts opened for each document', rate(count, plainMs))
row('whole way ÷ bare loop with shared fonts', (sharedMs / total).toFixed(2))
row('whole way ÷ plain pdfkit', (plainMs / total).toFixed(2))
row(
	'verify, of all books, with every file’s hash',
	`${verifyMs.toFixed(0)} ms, ${rate(count, verifyMs)}, ${wrong.length} wrong`,
)
row('largest PDF', `${(size / 1024).toFixed(1)} KB`)
row('peak memory of the process with its workers', `${(peak / 1e6).toFixed(0)} MB`)
books.db.close()
rmSync(books.folder, { recursive: true, force: true })
