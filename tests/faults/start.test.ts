import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { createServer as createHttp } from 'node:http'
import { createServer } from 'node:net'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { describe, expect, test } from 'vitest'
import { openBooks } from '@/store/openBooks'
import { freePort, root } from '../browser/tally'
import { pause, temporaryFolder } from './processes'

/** Runs the start script until it ends, or until it has opened and is told to stop. */
async function start(
	args: string[],
	env: Record<string, string>,
	/** What is done once it has opened; it is told to stop where nothing is said. */
	then: (child: ChildProcess) => void = (child) => child.kill('SIGINT'),
): Promise<{ code: number | null; said: string; opened: boolean }> {
	const child = spawn(process.execPath, [join(root, 'scripts/start.mjs'), ...args], {
		cwd: root,
		env: { ...process.env, NORTH_TALLY_DEMO_MONTHS: '0', ...env },
	})
	let said = ''
	let opened = false
	const hear = (chunk: Buffer) => {
		said += chunk
		if (opened || !said.includes('North Tally is open')) return
		opened = true
		then(child)
	}
	child.stdout.on('data', hear)
	child.stderr.on('data', hear)
	return new Promise((done) => child.on('exit', (code) => done({ code, said, opened })))
}

const ports = async () => ({ PORT: String(await freePort()), NORTH_TALLY_SMTP_PORT: String(await freePort()) })

describe('a start that cannot be says why and what to do, and ends with an error', () => {
	test('a port in use', async () => {
		const env = await ports()
		const taken = createServer().listen(Number(env.NORTH_TALLY_SMTP_PORT), '127.0.0.1')
		const { code, said } = await start(['--demo'], { ...env, NORTH_TALLY_DATA: temporaryFolder() })
		taken.close()
		expect(code).toBe(1)
		expect(said).toContain(
			`Port ${env.NORTH_TALLY_SMTP_PORT}, on which the practice mail server would listen, is in use`,
		)
		expect(said).toContain('NORTH_TALLY_SMTP_PORT=')
	})

	test('a data folder that cannot be written', async () => {
		const folder = temporaryFolder()
		writeFileSync(join(folder, 'file'), '')
		const { code, said } = await start([], { ...(await ports()), NORTH_TALLY_DATA: join(folder, 'file', 'books') })
		expect(code).toBe(1)
		expect(said).toContain('cannot be written')
	})

	test('beginning again books that are in real use', async () => {
		const folder = temporaryFolder()
		mkdirSync(join(folder, 'books'))
		writeFileSync(join(folder, 'books', 'kept'), '')
		const { code, said } = await start(['--fresh'], { ...(await ports()), NORTH_TALLY_DATA: join(folder, 'books') })
		expect([code, existsSync(join(folder, 'books', 'kept'))]).toEqual([1, true])
		expect(said).toContain('not for books in real use')
	})
})

const once = (said: string, words: string) => said.split(words).length - 1
const free = (port: string) =>
	new Promise<boolean>((done) => {
		const probe = createServer().once('error', () => done(false))
		probe.listen(Number(port), '127.0.0.1', () => probe.close(() => done(true)))
	})

describe('books that cannot be opened are said once, with the remedy, and no process is begun', () => {
	const damage = async (spoil: (file: string) => void) => {
		const folder = temporaryFolder()
		openBooks(folder).db.close()
		spoil(join(folder, 'north-tally.db'))
		const result = await start([], { ...(await ports()), NORTH_TALLY_DATA: folder })
		expect([result.code, result.opened, existsSync(join(folder, 'logs', 'runner.log'))]).toEqual([1, false, false])
		return result.said
	}
	test('of a newer version', async () => {
		const said = await damage((file) => new Database(file).pragma('user_version = 99'))
		expect(once(said, 'made by a newer North Tally. Start that one.')).toBe(1)
	})
	test('a damaged head, damaged pages', async () => {
		const head = await damage((file) => writeFileSync(file, 'x'.repeat(8192)))
		expect([once(head, 'is damaged ('), once(head, 'lay a backup out')]).toEqual([1, 1])
		const pages = await damage((file) => {
			const bytes = readFileSync(file)
			bytes.fill(7, 20 * 4096, 60 * 4096)
			writeFileSync(file, bytes)
		})
		expect(once(pages, 'is damaged (')).toBe(1)
		expect(pages).not.toMatch(/\n\s+at /)
	})
})

test('a port that an earlier one still holds is said, with its process', async () => {
	const env = await ports()
	const orphan = createHttp((_, answer) => answer.end('North Tally, process 4242')).listen(
		Number(env.PORT),
		'127.0.0.1',
	)
	const { code, said } = await start([], { ...env, NORTH_TALLY_DATA: temporaryFolder() })
	orphan.close()
	expect([code, once(said, 'kill 4242')]).toEqual([1, 1])
})

test('a process that ends again and again is not started for good: the last lines of its log are shown', async () => {
	const folder = temporaryFolder()
	writeFileSync(join(folder, 'practice-mail'), 'in the way')
	const { code, said } = await start([], { ...(await ports()), NORTH_TALLY_DATA: folder })
	expect(code).toBe(1)
	expect([once(said, 'ended 5 times in a minute'), once(said, 'The last lines of')]).toEqual([1, 1])
	expect(said).toContain('EEXIST')
})

test('it opens for its owner alone, once on the same books; killed, it takes the others with it; it stops with code 0', async () => {
	const env = { ...(await ports()), NORTH_TALLY_DATA: join(temporaryFolder(), 'books') }
	let second: Promise<{ code: number | null; said: string }> | undefined
	await start(['--demo'], env, (child) => {
		void ports().then((other) => {
			second = start(['--demo'], { ...env, ...other })
			void second.finally(() => child.kill('SIGKILL'))
		})
	})
	expect(await second).toMatchObject({ code: 1, said: expect.stringContaining('works on the books in') })
	for (let tries = 0; tries < 100 && !(await free(env.PORT)); tries++) await pause(200)
	expect([await free(env.PORT), await free(env.NORTH_TALLY_SMTP_PORT)]).toEqual([true, true])
	const mode = (...path: string[]) => (statSync(join(env.NORTH_TALLY_DATA, ...path)).mode & 0o777).toString(8)
	expect([mode(), mode('north-tally.db'), mode('files'), mode('logs', 'web.log')]).toEqual(['700', '600', '700', '600'])

	const again = await start(['--demo'], env)
	expect(again).toMatchObject({ code: 0, opened: true })
	expect(again.said).toContain('Everything listens on this machine only')
	expect(again.said).not.toContain('Laying out')
	expect([await free(env.PORT), await free(env.NORTH_TALLY_SMTP_PORT)]).toEqual([true, true])
})
