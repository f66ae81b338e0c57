import { createReadStream, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'csv-parse'
import { writeInThread } from '@/runner/stagingThread'
import { doFileJob } from '@/runs/bringIn/job'
import { askToAccept } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import type { Books } from '@/store/books'
import { readFile } from '@/store/files'
import { beginJob, endJob, nextJob } from '@/store/jobs'
import { waitingCount } from '@/store/orders'
import { benchBooks, benchDesk } from './books'
import { makeOrders, makeWorkbook, upload } from './orderFiles'

// As the runner does.
writeInThread(import.meta.dirname)
const count = Number(process.argv[2] ?? 1_000_000)
const folder = mkdtempSync(join(tmpdir(), 'north-tally-intake-'))

/** Records of a file counted by csv-parse alone. */
async function countAlone(path: string): Promise<number> {
	const from = performance.now()
	let rows = 0
	for await (const _ of createReadStream(path, { highWaterMark: 1 << 18 }).pipe(parse())) rows++
	const seconds = (performance.now() - from) / 1000
	if (rows !== count + 1) throw new Error(`csv-parse counted ${rows}.`)
	return seconds
}

async function doJobs(books: Books): Promise<void> {
	for (let job = nextJob(books, 'bringing in'); job; job = nextJob(books, 'bringing in')) {
		beginJob(books, job.id, benchDesk.now())
		const ended = await doFileJob(books, benchDesk, job)
		endJob(books, job.id, ended.state, ended.words, benchDesk.now())
		if (ended.state !== 'done') throw new Error(ended.words)
	}
}

async function wholeWay(path: string) {
	const books = benchBooks(0)
	let peak = 0
	const watch = setInterval(() => {
		peak = Math.max(peak, process.memoryUsage.rss())
	}, 50)
	const from = performance.now()
	const id = upload(books, path)
	const uploaded = performance.now()
	await doJobs(books)
	const read = performance.now()
	const file = readFile(books, id)
	const review = file && reviewOf(file)
	if (!review) throw new Error(file?.trouble ?? 'no file')
	askToAccept(books, benchDesk, id, review.digest)
	await doJobs(books)
	const accepted = performance.now()
	clearInterval(watch)
	const waiting = waitingCount(books)
	books.db.close()
	rmSync(books.folder, { recursive: true, force: true })
	const seconds = (ms: number) => (ms / 1000).toFixed(1)
	return {
		words: `upload ${seconds(uploaded - from)} s, read ${seconds(read - uploaded)} s, accept ${seconds(accepted - read)} s`,
		seconds: (accepted - from) / 1000,
		peak,
		waiting,
		refused: review.rows.refused,
	}
}

const good = makeOrders(join(folder, 'good.csv'), count, 0)
const alone = await countAlone(good)
console.log(`csv-parse alone counts ${count} rows in ${alone.toFixed(1)} s`)
for (const [words, path] of [
	['all good', good],
	['half of them refused', makeOrders(join(folder, 'half.csv'), count, 50)],
] as const) {
	const { words: parts, seconds, peak, waiting, refused } = await wholeWay(path)
	console.log(
		`${words}: ${seconds.toFixed(1)} s from file to ${waiting} waiting orders (${parts}), ${refused} rows refused: ${Math.round(count / seconds)} rows a second, ${(seconds / alone).toFixed(2)} times csv-parse alone, ${Math.round(peak / 1e6)} MB at the most`,
	)
}
const inSheet = Math.min(count, 100_000)
const { words, seconds, waiting, peak } = await wholeWay(makeWorkbook(folder, inSheet))
console.log(
	`a workbook of ${inSheet} rows: ${seconds.toFixed(1)} s from file to ${waiting} waiting orders (${words}), ${Math.round(peak / 1e6)} MB at the most`,
)
rmSync(folder, { recursive: true, force: true })
