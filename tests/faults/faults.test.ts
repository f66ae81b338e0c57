import { execFileSync, spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { describe, expect, test } from 'vitest'
import { openPracticePost, practiceServer } from '@/post/practiceMail'
import { askStep } from '@/runs/bench/steps'
import { backup, restore } from '@/runs/firm/backup'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { diskWords } from '@/store/disk'
import { latestJob } from '@/store/jobs'
import { sendCounts } from '@/store/messages'
import { openBooks } from '@/store/openBooks'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { keepMailPassword } from '@/store/secrets'
import { changeSettings, readSettings } from '@/store/settings'
import { badServer } from '../badMail'
import { root } from '../browser/tally'
import { onRealClock } from '../each'
import { gatherRun, nextStep, work } from '../runs'
import { desk, firmBooks, opened, plainRegister } from '../support'
import { freePort, pause, prepare, startProcess, temporaryFolder } from './processes'

const orders = (from: number, count: number, customer = 'A1') =>
	Array.from(
		{ length: count },
		(_, index) => `${from + index},03/10/2026,${customer},ROPE,Line,${index + 1},2.00,,STD,,`,
	)

/** The command line; its exit code and all that it said. */
const tally = (...args: string[]) => {
	try {
		return {
			code: 0,
			said: execFileSync(process.execPath, [join(root, 'dist/tally.mjs'), ...args], {
				env: { ...process.env, NORTH_TALLY_ROOT: root },
				encoding: 'utf8',
				stdio: 'pipe',
			}),
		}
	} catch (error) {
		const failed = error as { status: number; stderr: string; stdout: string }
		return { code: failed.status, said: failed.stdout + failed.stderr }
	}
}

const gathered = (books: Books, ...rows: string[]) => gatherRun(books, rows)
const wrong = (books: Books) => verify(books).flatMap((found) => found.wrong)

test('two processes that number at the same moment share no number and skip none', async () => {
	await prepare({ race: 'tests/faults/race.ts' })
	const books = firmBooks()
	const first = await gathered(books, ...orders(100, 60))
	const second = await gathered(books, ...orders(200, 60, 'B1'))
	onRealClock()
	const at = Date.now() + 1200
	const race = (run: number) =>
		new Promise<string>((done) => {
			const child = spawn(process.execPath, [join(root, 'dist/race.mjs'), String(run), '60', String(at)], {
				env: { ...process.env, NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: books.folder },
			})
			let said = ''
			child.stdout.on('data', (chunk) => {
				said += chunk
			})
			child.on('exit', () => done(said))
		})
	const said = (await Promise.all([race(first), race(second)])).map((text) => JSON.parse(text))
	expect(said).toEqual([
		expect.objectContaining({ ok: true, count: 60 }),
		expect.objectContaining({ ok: true, count: 60 }),
	])
	const numbers = [first, second].flatMap((run) => benchRows(books, run).map(({ number }) => Number(number?.slice(2))))
	expect(numbers.sort((a, b) => a - b)).toEqual(Array.from({ length: 120 }, (_, index) => 41 + index))
	expect(wrong(books)).toEqual([])
})

test.skipIf(process.getuid?.() !== 0)(
	'a full disk stops the making with its reason; with room again it goes on',
	async () => {
		const books = firmBooks()
		const run = await gathered(books, ...orders(100, 60))
		await nextStep(books, run)
		const small = temporaryFolder()
		execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=600k', 'tmpfs', small])
		try {
			rmSync(join(books.folder, 'files'), { recursive: true })
			symlinkSync(small, join(books.folder, 'files'))
			await nextStep(books, run)
			expect(latestJob(books, run)).toMatchObject({ state: 'failed', words: expect.stringContaining('ENOSPC') })
			expect(benchRows(books, run).every(({ made_at }) => made_at === null)).toBe(true)
			expect(diskWords(books)).toMatch(/files has (no room|only \d+ MB) left\. Make room/)
		} finally {
			execFileSync('umount', [small])
		}
		rmSync(join(books.folder, 'files'))
		mkdirSync(join(books.folder, 'files'))
		expect(diskWords(books)).toBe('')
		await nextStep(books, run)
		expect(benchRows(books, run).every(({ made_at }) => made_at !== null)).toBe(true)
		expect(wrong(books)).toEqual([])
	},
)

test('the mail server is away, then back: each message goes once', async () => {
	const books = firmBooks()
	const run = await gathered(books, ...orders(100, 8))
	await nextStep(books, run)
	await nextStep(books, run)
	const practicePort = await freePort()
	await nextStep(books, run, { practicePort })
	expect(latestJob(books, run)).toMatchObject({ state: 'failed', words: expect.stringContaining('8 messages wait') })
	const post = openPracticePost(join(books.folder, 'practice-mail'))
	const server = practiceServer(post, desk.now)
	await new Promise<void>((done) => server.listen(practicePort, '127.0.0.1', done))
	await nextStep(books, run, { practicePort })
	server.close()
	post.close()
	expect(latestJob(books, run)).toMatchObject({ state: 'done', words: '8 sent.' })
	expect(wrong(books)).toEqual([])
})

test('a database locked for longer than a step waits makes the runner wait, not end', async () => {
	const books = firmBooks()
	await prepare()
	process.env.NORTH_TALLY_PATIENCE = '300'
	const runner = await startProcess('runner', books.folder, 1)
	delete process.env.NORTH_TALLY_PATIENCE
	const lock = new Database(join(books.folder, 'north-tally.db'))
	const run = await gathered(books, ...orders(100, 5))
	// Held in the moment in which the step was asked for, so that it meets the lock.
	lock.exec('BEGIN IMMEDIATE')
	lock
		.prepare(
			`INSERT INTO job (kind, lane, payload, run_id, state, asked_at, asked_by, total) VALUES ('number', 'reading', ?, ?, 'working', '', 'Wren', 5)`,
		)
		.run(JSON.stringify({ kind: 'number', run, expected: 5 }), run)
	lock.exec('COMMIT; BEGIN IMMEDIATE')
	await pause(2500)
	expect(latestJob(books, run)?.state).toBe('working')
	lock.exec('COMMIT')
	lock.close()
	for (let tries = 0; tries < 400 && latestJob(books, run)?.state !== 'done'; tries++) await pause(100)
	expect(runner.child.exitCode).toBe(null)
	expect(latestJob(books, run)).toMatchObject({ kind: 'number', state: 'done' })
	await runner.kill('SIGTERM')
})

test('stopped in the middle of a long sending it ends long before that is done: nothing unsure, the rest waiting, then each once', async () => {
	const books = firmBooks()
	const run = await gathered(books, ...orders(100, 120))
	await nextStep(books, run)
	await nextStep(books, run)
	await prepare()
	const slow = await badServer(() => 'usual')
	const { mail } = readSettings(books)
	changeSettings(books, desk, { mail: { ...mail, mode: 'real', host: '127.0.0.1', port: slow.port } })
	const runner = await startProcess('runner', books.folder, 1)
	askStep(books, desk, run, 'send', 120)
	for (let tries = 0; tries < 500 && slow.taken.length < 20; tries++) await pause(10)
	await runner.kill('SIGTERM')
	const sent = slow.taken.length
	expect(sent).toBeLessThan(120)
	expect(sendCounts(books, run)).toMatchObject({ sent, waiting: 120 - sent, unsure: 0, sending: 0 })
	// It goes on by itself at the next start.
	const again = await startProcess('runner', books.folder, 1)
	// The runner gives way to whatever else goes on; on a busy machine that takes a while.
	for (let tries = 0; tries < 1000 && sendCounts(books, run).sent < 120; tries++) await pause(50)
	await again.kill('SIGTERM')
	slow.close()
	expect(sendCounts(books, run)).toMatchObject({ sent: 120, unsure: 0 })
	expect(slow.taken.length).toBe(120)
	expect(wrong(books)).toEqual([])
})

test('every mark is on disk before the first byte of its message leaves: an fsync of the log stands between', async () => {
	const books = firmBooks()
	const run = await gathered(books, ...orders(100, 12))
	await nextStep(books, run)
	await nextStep(books, run)
	await prepare()
	const server = await badServer(() => 'usual')
	const { mail } = readSettings(books)
	changeSettings(books, desk, { mail: { ...mail, mode: 'real', host: '127.0.0.1', port: server.port } })
	const trace = join(temporaryFolder(), 'trace')
	const runner = spawn(
		'strace',
		[
			'-f',
			'-y',
			'-s',
			'40',
			'-e',
			'trace=pwrite64,write,fdatasync,fsync',
			'-o',
			trace,
			process.execPath,
			join(root, 'dist/runner.mjs'),
		],
		{ env: { ...process.env, NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: books.folder }, stdio: 'ignore' },
	)
	await pause(1500)
	askStep(books, desk, run, 'send', 12)
	for (let tries = 0; tries < 400 && sendCounts(books, run).sent < 12; tries++) await pause(100)
	execFileSync('pkill', ['-TERM', '-P', String(runner.pid)])
	await new Promise((done) => runner.once('exit', done))
	server.close()
	let unsaved = 0
	let marks = 0
	let messages = 0
	for (const line of readFileSync(trace, 'utf8').split('\n')) {
		if (/pwrite64\(\d+<[^>]*north-tally\.db-wal>/.test(line)) unsaved++
		else if (/(fdatasync|fsync)\(\d+<[^>]*north-tally\.db-wal>/.test(line)) {
			if (unsaved > 0) marks++
			unsaved = 0
		} else if (/write\(\d+<(TCP|socket)[^>]*>, "MAIL FROM/.test(line)) {
			messages++
			expect([line.slice(0, 60), unsaved]).toEqual([line.slice(0, 60), 0])
		}
	}
	expect(messages).toBe(12)
	// Marked together they may be, but no more than the lines take at once.
	expect(marks).toBeGreaterThanOrEqual(3)
})

test('a database locked for six seconds, longer than SQLite waits by itself, delays a step and breaks nothing', async () => {
	const books = firmBooks()
	const run = await gathered(books, ...orders(100, 5))
	await prepare({ race: 'tests/faults/race.ts' })
	const lock = new Database(join(books.folder, 'north-tally.db'))
	lock.exec('BEGIN IMMEDIATE')
	const from = performance.now()
	const child = spawn(process.execPath, [join(root, 'dist/race.mjs'), String(run), '5', '0'], {
		env: { ...process.env, NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: books.folder },
	})
	const ended = new Promise<number | null>((done) => child.on('exit', done))
	await new Promise((done) => setTimeout(done, 6000))
	lock.exec('COMMIT')
	lock.close()
	expect(await ended).toBe(0)
	expect(performance.now() - from).toBeGreaterThan(6000)
	expect(benchRows(books, run).map(({ number }) => number)).toEqual(['T-0041', 'T-0042', 'T-0043', 'T-0044', 'T-0045'])
	expect(wrong(books)).toEqual([])
})

test('a clock set back changes no number and no order of things', async () => {
	const books = firmBooks()
	const first = await gathered(books, ...orders(100, 3))
	await nextStep(books, first, { now: () => '2026-10-31T12:00:00.000Z' })
	await nextStep(books, first, { now: () => '2024-01-01T00:00:00.000Z' })
	const second = await gathered(books, ...orders(200, 3))
	await nextStep(books, second, { now: () => '1999-01-01T00:00:00.000Z' })
	expect(benchRows(books, second).map(({ number }) => number)).toEqual(['T-0044', 'T-0045', 'T-0046'])
	expect(wrong(books)).toEqual([])
})

describe('the books are kept and brought back', () => {
	test('a backup taken while a run goes on is whole, and restored it is the same books', async () => {
		const books = firmBooks()
		const run = await gathered(books, ...orders(100, 120))
		await nextStep(books, run)
		askStep(books, desk, run, 'make', 120)
		const working = work(books)
		const folder = temporaryFolder()
		await backup(books, join(folder, 'books.tgz'))
		await working
		expect(await restore(join(folder, 'books.tgz'), join(folder, 'again'))).toEqual({ ok: true })
		const again = openBooks(join(folder, 'again'))
		opened.push(again)
		expect(benchRows(again, run).map(({ number, total }) => [number, total])).toEqual(
			benchRows(books, run).map(({ number, total }) => [number, total]),
		)
		expect(wrong(again)).toEqual([])
		await work(again)
		expect(benchRows(again, run).every(({ made_at }) => made_at !== null)).toBe(true)
		expect(wrong(again)).toEqual([])
	})

	test('backups while mail arrives are all whole; secrets are in none', async () => {
		const books = firmBooks()
		keepMailPassword(books.folder, 'hush-hush')
		writeFileSync(join(books.folder, 'seal.key'), 'k'.repeat(32))
		const post = openPracticePost(join(books.folder, 'practice-mail'))
		const add = post.prepare(
			"INSERT INTO arrival (at, sender, recipient, subject, message_id, raw) VALUES ('', '', '', '', ?, randomblob(20000))",
		)
		let place = 0
		const arriving = setInterval(() => add.run(String(place++)), 1)
		const folder = temporaryFolder()
		for (let one = 0; one < 4; one++) {
			const file = join(folder, `b${one}.tgz`)
			expect(await backup(books, file)).toEqual({ ok: true })
			expect(await restore(file, join(folder, String(one)))).toEqual({ ok: true })
			const there = new Database(join(folder, String(one), 'practice-mail', 'practice-mail.db'))
			expect(there.pragma('integrity_check', { simple: true })).toBe('ok')
			there.close()
		}
		clearInterval(arriving)
		post.close()
		const names = execFileSync('tar', ['-tzf', join(folder, 'b0.tgz')], { encoding: 'utf8' })
		expect(names).not.toMatch(/secret|seal/)
		expect(place).toBeGreaterThan(10)
	})

	test('a damaged database is no backup, and an archive of nonsense no books: each says so in a sentence, with an exit code', async () => {
		await prepare()
		const books = firmBooks()
		await gathered(books, ...orders(100, 200))
		books.db.pragma('wal_checkpoint(TRUNCATE)')
		const file = join(books.folder, 'north-tally.db')
		const bytes = readFileSync(file)
		bytes.fill(7, 30 * 4096, 50 * 4096)
		const folder = temporaryFolder()
		mkdirSync(join(folder, 'damaged'))
		writeFileSync(join(folder, 'damaged', 'north-tally.db'), bytes)
		for (const args of [['backup', join(folder, 'x.tgz')], ['verify']]) {
			const { code, said } = tally(...args, '--data', join(folder, 'damaged'))
			expect([args[0], code === 0]).toEqual([args[0], false])
			expect(said).toContain('damaged')
			expect(said).not.toMatch(/\n\s+at /)
		}
		expect(existsSync(join(folder, 'x.tgz'))).toBe(false)
		const nonsense = (name: string, fill: (db: string) => void) => {
			mkdirSync(join(folder, name))
			fill(join(folder, name, 'north-tally.db'))
			execFileSync('tar', ['-czf', join(folder, `${name}.tgz`), '-C', join(folder, name), 'north-tally.db'])
			return tally('restore', join(folder, `${name}.tgz`), '--data', join(folder, `${name}-there`))
		}
		const other = (db: string) => new Database(db).exec('CREATE TABLE other (x)').close()
		for (const result of [
			nonsense('text', (db) => writeFileSync(db, 'nonsense')),
			nonsense('other', other),
			nonsense('torn', (db) => writeFileSync(db, bytes)),
		]) {
			expect(result.code).not.toBe(0)
			expect(result.said).toContain('holds no sound books')
			expect(result.said).not.toMatch(/\n\s+at /)
		}
		expect(existsSync(join(folder, 'text-there'))).toBe(false)
	})

	test('nothing is laid over books that are there, and a file that is no backup says so', async () => {
		const books = firmBooks()
		const folder = temporaryFolder()
		await backup(books, join(folder, 'books.tgz'))
		expect(await restore(join(folder, 'books.tgz'), books.folder)).toMatchObject({
			ok: false,
			message: expect.stringContaining('is not empty'),
		})
		expect(await restore(join(root, 'README.md'), join(folder, 'x'))).toMatchObject({
			ok: false,
			message: expect.stringContaining('damaged or no backup'),
		})
		expect(await restore('/nowhere.tgz', join(folder, 'x'))).toMatchObject({
			ok: false,
			message: expect.stringContaining('is not there'),
		})
	})
})

describe('verify finds what is wrong', () => {
	const broken = async (sql: string) => {
		const books = firmBooks()
		const run = await gathered(books, ...orders(100, 4))
		await nextStep(books, run)
		await nextStep(books, run)
		expect(wrong(books)).toEqual([])
		// What the triggers forbid is done behind their back.
		for (const name of ['document_frozen', 'document_never_removed', 'document_content_frozen', 'document_file_kept'])
			books.db.exec(`DROP TRIGGER ${name}`)
		books.db.exec(`PRAGMA foreign_keys = OFF; ${sql}; PRAGMA foreign_keys = ON`)
		return verify(books).flatMap(({ check, wrong: all }) => all.map((words) => `${check}: ${words}`))
	}
	test.each([
		[
			'a missing number',
			"DELETE FROM document WHERE number = 'T-0042'",
			'numbers run on without a gap: invoice register: after 41 comes 43',
		],
		[
			'a changed total',
			"UPDATE document SET total = total + 1 WHERE number = 'T-0042'",
			'each document is what was issued: T-0042: its total is 481, and 480 as it was issued',
		],
		[
			'a changed snapshot',
			'UPDATE document_content SET content = replace(content, \'"quantity":"1"\', \'"quantity":"9"\')',
			'each document is what was issued: T-0041 comes to other figures than were frozen',
		],
		[
			'an order billed without a document',
			"UPDATE sales_order SET document_id = NULL WHERE number = '101'",
			'each order is billed once: order 101 counts as billed but stands on no numbered document',
		],
		[
			'a file’s hash',
			"UPDATE document SET file_sha256 = 'x' WHERE number = 'T-0043'",
			'each made document has the file that was recorded: T-0043: run-0001/T-0043 Customer A1.pdf is not the file that was recorded',
		],
		[
			'a register set back',
			'UPDATE register_count SET next = 42',
			'numbers run on without a gap: invoice register would give 42 again',
		],
	])('%s', async (_, sql, words) => {
		expect(await broken(sql)).toContain(words)
	})

	test('numbers that a person left out are no gap', async () => {
		const books = firmBooks()
		const first = await gathered(books, ...orders(100, 2))
		await nextStep(books, first)
		saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4, next: 900 })
		const second = await gathered(books, ...orders(200, 2))
		await nextStep(books, second)
		expect(benchRows(books, second)[0]?.number).toBe('T-0900')
		expect(wrong(books)).toEqual([])
	})
})

test('the command line computes, verifies and says what is wrong with a call', async () => {
	await prepare()
	const books = firmBooks()
	const due = JSON.parse(tally('due', join(root, 'tests/cases/due.json')).said)
	expect(due.slice(0, 2)).toEqual([{ due: '2026-11-30' }, { due: '2026-10-31' }])
	expect(JSON.parse(tally('price', join(root, 'tests/cases/price.json')).said)).toHaveLength(33)
	expect(tally('verify', '--data', books.folder)).toMatchObject({
		code: 0,
		said: expect.stringMatching(/^ok +2 {2}the database is sound/),
	})
	expect(tally('verify', '--data', '/nowhere')).toMatchObject({
		code: 2,
		said: expect.stringContaining('no books in /nowhere'),
	})
	expect(tally('price')).toMatchObject({ code: 2, said: expect.stringContaining('needs a file') })
	expect(tally('price', join(root, 'README.md'))).toMatchObject({
		code: 2,
		said: expect.stringContaining('is not JSON'),
	})
	expect(tally('juggle')).toMatchObject({ code: 2, said: expect.stringContaining('no command "juggle"') })
})
