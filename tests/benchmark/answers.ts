// How fast the web answers while a long file of orders is read and accepted: node answers.mjs ROWS
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { askToAccept } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { readFile } from '@/store/files'
import { isGoing } from '@/store/jobState'
import { latestFileJob } from '@/store/jobs'
import { seatClerk } from '@/store/settings'
import { freePort, pause, startProcess, startWeb } from '../faults/processes'
import { benchBooks, benchDesk } from './books'
import { makeOrders, upload } from './orderFiles'

const count = Number(process.argv[2] ?? 200_000)
const folder = mkdtempSync(join(tmpdir(), 'north-tally-answers-'))
const books = benchBooks(0)
seatClerk(books, benchDesk)
const [port, smtp] = [await freePort(), await freePort()]
const web = startWeb(books.folder, port)
const url = (path: string) => `http://127.0.0.1:${port}${path}`
for (let tries = 0; tries < 400; tries++) {
	try {
		if ((await fetch(url('/'))).ok) break
	} catch {
		await pause(50)
	}
}
const path = makeOrders(join(folder, 'orders.csv'), count, 10)
const pages = ['/', '/bring-in', '/to-bill', '/accounts', '/bring-in/1', '/orders/new']
const times = new Map<string, number[]>()

/** Asks for each page in turn, again and again while `going`. */
async function ask(as: string, going: () => boolean): Promise<void> {
	for (let turn = 0; going(); turn++) {
		const page = pages[turn % pages.length] ?? '/'
		const from = performance.now()
		await (await fetch(url(page))).arrayBuffer()
		const key = `${as}`
		times.set(key, [...(times.get(key) ?? []), performance.now() - from])
		await pause(60)
	}
}
let left = 36
await ask('warming', () => left-- > 0)
left = 60
await ask('at rest', () => left-- > 0)
const runner = await startProcess('runner', books.folder, smtp)
const id = upload(books, path)
await ask('while it is read', () => isGoing(latestFileJob(books, id)))
const file = readFile(books, id)
askToAccept(books, benchDesk, id, (file && reviewOf(file)?.digest) ?? '')
await ask('while it is accepted', () => isGoing(latestFileJob(books, id)))
for (const running of [runner, web]) await running.kill('SIGTERM')
for (const [as, list] of times) {
	if (as === 'warming') continue
	const sorted = list.sort((a, b) => a - b)
	const at = (part: number) =>
		`${(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0).toFixed(0)} ms`
	console.log(`${as}: half in ${at(0.5)}, 95% in ${at(0.95)}, the slowest ${at(1)} (${sorted.length} answers)`)
}
books.db.close()
for (const gone of [books.folder, folder]) rmSync(gone, { recursive: true, force: true })
