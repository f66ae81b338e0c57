import { spawn } from 'node:child_process'
import { rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { askToAccept, readAgain, receiveFile } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { unbilledNets } from '@/runs/drafts/orderNets'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { acceptancesOf, readFile } from '@/store/files'
import { isGoing } from '@/store/jobState'
import { latestFileJob } from '@/store/jobs'
import { openBooks } from '@/store/openBooks'
import { waitingCount } from '@/store/orders'
import { root } from '../browser/tally'
import { desk, firmInto } from '../support'
import { freePort, pause, prepare, startProcess, temporaryFolder } from './processes'

// As many as are written by a thread of their own.
const orders = 11_000
/** A file of so many orders of two lines. */
const fileOf = (many: number) =>
	Buffer.from(
		`Order No,Order date,Cust. No,Item,Qty,Unit price\n${Array.from({ length: many * 2 }, (_, row) => `K${row >> 1},2026-10-05,${row % 40 < 2 ? 'B1' : 'A1'},ROPE,${1 + (row % 9)},2.${10 + (row % 80)}`).join('\n')}\n`,
	)
const counts = (books: Books) => ({
	...(books.db
		.prepare<[], { orders: number; lines: number }>(
			`SELECT count(*) AS orders, coalesce(sum(line_count), 0) AS lines FROM order_in`,
		)
		.get() ?? { orders: 0, lines: 0 }),
	net: [...unbilledNets(books).values()].reduce((sum, net) => sum + net, 0),
})
async function settled(books: Books, file: number): Promise<string> {
	while (isGoing(latestFileJob(books, file))) await pause(20)
	return latestFileJob(books, file)?.words ?? ''
}

test('a file survives kills at any moment of its reading and accepting: all of it counts once, or none', async () => {
	await prepare()
	const data = temporaryFolder()
	const books = firmInto(openBooks(data))
	const received = receiveFile(books, desk, 'long.csv', fileOf(orders))
	const file = received.ok ? (received.id ?? 0) : 0
	const smtp = await freePort()
	let runner = await startProcess('runner', data, smtp)
	const torn = new Set<string>()
	/** Kills the runner a moment after it began with what is asked for, unless that is done. */
	const kill = async (within: number) => {
		while (latestFileJob(books, file)?.state === 'waiting') await pause(2)
		await pause(Math.random() * within)
		const job = latestFileJob(books, file)
		await runner.kill('SIGKILL')
		torn.add(`${job?.kind} ${job?.state}`)
		expect([0, orders]).toContain(waitingCount(books))
		runner = await startProcess('runner', data, smtp)
	}
	for (let times = 0; times < 3; times++) await kill(500)
	await settled(books, file)
	const review = reviewOf(readFile(books, file) ?? { review: null })
	expect(review?.rows).toMatchObject({ all: orders * 2, taken: orders * 2, refused: 0 })
	askToAccept(books, desk, file, review?.digest ?? '')
	for (let times = 0; times < 3; times++) await kill(60)
	expect(await settled(books, file)).toContain(`${orders} orders`)
	await runner.kill('SIGTERM')
	// It was killed in the middle of both.
	expect([...torn]).toEqual(expect.arrayContaining(['read file working', 'accept file working']))
	expect(counts(books)).toEqual({ orders, lines: orders * 2, net: Number(review?.money[0]?.net) })
	expect(acceptancesOf(books, file).map(({ state }) => state)).toEqual(['done'])
	for (const { check, wrong } of verify(books)) expect(wrong, check).toEqual([])
	books.db.close()
	rmSync(data, { recursive: true, force: true })
})

test('a disk that takes nothing more ends the reading in words, and the file is read when there is room', async () => {
	await prepare()
	const data = temporaryFolder()
	const books = firmInto(openBooks(data))
	const received = receiveFile(books, desk, 'long.csv', fileOf(20_000))
	const file = received.ok ? (received.id ?? 0) : 0
	const smtp = await freePort()
	// The books' own file has some room; what is read of the file has not.
	books.db.pragma('wal_checkpoint(TRUNCATE)')
	const most = Math.ceil(statSync(join(data, 'north-tally.db')).size / 1024) + 400
	const limited = spawn(
		'bash',
		['-c', `ulimit -f ${most}; exec "${process.execPath}" "${join(root, 'dist/runner.mjs')}"`],
		{
			cwd: root,
			env: { ...process.env, NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: data, NORTH_TALLY_SMTP_PORT: String(smtp) },
			stdio: 'ignore',
		},
	)
	expect(await settled(books, file)).toMatch(/disk takes nothing more/)
	expect(limited.exitCode).toBe(null)
	limited.kill('SIGKILL')
	const runner = await startProcess('runner', data, smtp)
	expect(readAgain(books, desk, file).ok).toBe(true)
	await settled(books, file)
	const review = reviewOf(readFile(books, file) ?? { review: null })
	expect(review?.rows).toMatchObject({ all: 40_000, taken: 40_000, refused: 0 })
	await runner.kill('SIGTERM')
	books.db.close()
	rmSync(data, { recursive: true, force: true })
})
