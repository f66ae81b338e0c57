// How fast the bench's page answers while its run is being made: node web.mjs COUNT
import { rmSync } from 'node:fs'
import { gather } from '@/runs/drafts/gather'
import { numberDocuments } from '@/runs/issue/number'
import { askFor, latestJob } from '@/store/jobs'
import { addRun } from '@/store/runs'
import { seatClerk } from '@/store/settings'
import { freePort, pause, startProcess, startWeb } from '../faults/processes'
import { benchBooks, benchDesk } from './books'

const count = Number(process.argv[2] ?? 10_000)
const books = benchBooks(count)
seatClerk(books, benchDesk)
const run = addRun(books, benchDesk, '2026-10-31', '2026-10-31')
gather(books, benchDesk, run, '2026-10-31')
numberDocuments(books, benchDesk, run, count)
const [port, smtp] = [await freePort(), await freePort()]
const web = startWeb(books.folder, port)
const page = `http://127.0.0.1:${port}/runs/${run}`
for (let tries = 0; tries < 200; tries++) {
	try {
		if ((await fetch(page)).ok) break
	} catch {
		await pause(50)
	}
}

/** Times of asking for an address again and again while `going`, in milliseconds, sorted. */
async function sample(url: string, going: () => boolean): Promise<number[]> {
	const times: number[] = []
	while (going()) {
		const from = performance.now()
		await (await fetch(url)).arrayBuffer()
		times.push(performance.now() - from)
		await pause(100)
	}
	return times.sort((a, b) => a - b)
}
const share = (times: number[], part: number) =>
	`${(times[Math.min(times.length - 1, Math.floor(times.length * part))] ?? 0).toFixed(0)} ms`

let turns = 0
for (let warm = 0; warm < 10; warm++) await (await fetch(page)).arrayBuffer()
const idle = await sample(page, () => turns++ < 40)
const runner = await startProcess('runner', books.folder, smtp)
askFor(books, benchDesk, { kind: 'make', run, expected: count })
await pause(300)
const busy = await sample(page, () => latestJob(books, run)?.state !== 'done')
turns = 0
const rows = await sample(`http://127.0.0.1:${port}/api/runs/${run}/rows`, () => turns++ < 10)
for (const running of [runner, web]) await running.kill('SIGTERM')
console.log(`The bench's page of a run of ${count}: at rest 50% in ${share(idle, 0.5)}, 95% in ${share(idle, 0.95)};`)
console.log(
	`while its PDFs are made: 50% in ${share(busy, 0.5)}, 95% in ${share(busy, 0.95)} (${busy.length} times asked).`,
)
console.log(`All its rows as the list fetches them: 50% in ${share(rows, 0.5)}.`)
books.db.close()
rmSync(books.folder, { recursive: true, force: true })
