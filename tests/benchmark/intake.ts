import { closeSync, createReadStream, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'csv-parse'
import { fileSource } from '@/intake/source'
import { doFileJob } from '@/runs/bringIn/job'
import { askToAccept, beginUpload, endUpload, receivePart } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import type { Books } from '@/store/books'
import { partSize, readFile } from '@/store/files'
import { beginJob, endJob, nextJob } from '@/store/jobs'
import { waitingCount } from '@/store/orders'
import { benchBooks, benchDesk } from './books'

const count = Number(process.argv[2] ?? 1_000_000)
const folder = mkdtempSync(join(tmpdir(), 'north-tally-intake-'))

/** A file of as many rows, three an order; `bad` of a hundred rows name no customer that is known. */
function makeFile(name: string, bad: number): string {
	const path = join(folder, name)
	const file = openSync(path, 'w')
	writeSync(file, 'Order No,Order date,Cust. No,PO ref,Curr,Item,Description,Qty,Unit,Unit price,Disc %,VAT code\n')
	let text = ''
	for (let row = 0; row < count; row++) {
		const order = Math.floor(row / 3)
		const customer = order % 100 < bad ? `X${order % 500}` : `C${order % 500}`
		text += `${100_000 + order},${String((order % 28) + 1).padStart(2, '0')}/10/2026,${customer},PO-${order},GBP,ITEM-${row % 60},"Galvanised bow shackle, ${8 + (row % 30)} mm",${(row % 40) + 1},each,"1,${100 + (row % 800)}.50",5,STD\n`
		if (text.length > 1_000_000 || row === count - 1) {
			writeSync(file, text)
			text = ''
		}
	}
	closeSync(file)
	return path
}

/** Records of a file counted by csv-parse alone. */
async function countAlone(path: string): Promise<number> {
	const from = performance.now()
	let rows = 0
	for await (const _ of createReadStream(path, { highWaterMark: 1 << 18 }).pipe(parse())) rows++
	const seconds = (performance.now() - from) / 1000
	if (rows !== count + 1) throw new Error(`csv-parse counted ${rows}.`)
	return seconds
}

function upload(books: Books, path: string): number {
	const source = fileSource(path)
	const begun = beginUpload(books, benchDesk, { name: path, size: source.size, changed: 0 })
	if (!begun.ok) throw new Error(begun.refusal.message)
	for (let part = 0; part * partSize < source.size; part++)
		receivePart(books, begun.value.id, part, Buffer.from(source.read(part * partSize, partSize)))
	endUpload(books, benchDesk, begun.value.id)
	source.close()
	return begun.value.id
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

const good = makeFile('good.csv', 0)
const alone = await countAlone(good)
console.log(`csv-parse alone counts ${count} rows in ${alone.toFixed(1)} s`)
for (const [words, path] of [
	['all good', good],
	['half of them refused', makeFile('half.csv', 50)],
] as const) {
	const { words: parts, seconds, peak, waiting, refused } = await wholeWay(path)
	console.log(
		`${words}: ${seconds.toFixed(1)} s from file to ${waiting} waiting orders (${parts}), ${refused} rows refused: ${Math.round(count / seconds)} rows a second, ${(seconds / alone).toFixed(2)} times csv-parse alone, ${Math.round(peak / 1e6)} MB at the most`,
	)
}
rmSync(folder, { recursive: true, force: true })
