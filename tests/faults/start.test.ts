import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { freePort, root } from '../browser/tally'
import { temporaryFolder } from './processes'

/** Runs the start script until it ends, or until it has opened and is told to stop. */
async function start(
	args: string[],
	env: Record<string, string>,
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
		child.kill('SIGINT')
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

test('it opens, stops all three on an interrupt with code 0, and says that it listens on this machine only', {
	timeout: 60_000,
}, async () => {
	const env = { ...(await ports()), NORTH_TALLY_DATA: join(temporaryFolder(), 'books') }
	const first = await start(['--demo'], env)
	expect(first).toMatchObject({ code: 0, opened: true })
	expect(first.said).toContain('Everything listens on this machine only')
	for (const port of [env.PORT, env.NORTH_TALLY_SMTP_PORT]) {
		const free = await new Promise((done) => {
			const probe = createServer().once('error', () => done(false))
			probe.listen(Number(port), '127.0.0.1', () => probe.close(() => done(true)))
		})
		expect(free).toBe(true)
	}
	const again = await start(['--demo'], env)
	expect(again).toMatchObject({ code: 0, opened: true })
	expect(again.said).not.toContain('Laying out')
})
