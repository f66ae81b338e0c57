import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { test as base, expect, type Page } from '@playwright/test'

export const root = process.env.NORTH_TALLY_ROOT ?? resolve(import.meta.dirname, '../..')

/** A port of this machine that nothing listens on. */
export function freePort(): Promise<number> {
	return new Promise((done) => {
		const probe = createServer().listen(0, '127.0.0.1', () => {
			const address = probe.address()
			probe.close(() => done(typeof address === 'object' && address ? address.port : 0))
		})
	})
}

/** The demo firm's books of so many months, laid out once for all tests of a build, to be copied. */
function demoBooks(months: number): string {
	const built = Math.round(statSync(join(root, 'dist/demo.mjs')).mtimeMs)
	const folder = join(tmpdir(), `north-tally-demo-${built}-${months}`)
	if (existsSync(folder)) return folder
	const beside = mkdtempSync(`${folder}-`)
	const env = {
		...process.env,
		NORTH_TALLY_ROOT: root,
		NORTH_TALLY_DATA: beside,
		NORTH_TALLY_DEMO_MONTHS: String(months),
	}
	const { status, stderr } = spawnSync(process.execPath, [join(root, 'dist/demo.mjs')], {
		cwd: root,
		env,
		encoding: 'utf8',
	})
	if (status !== 0) throw new Error(`The demo could not be laid out: ${stderr}`)
	try {
		renameSync(beside, folder)
	} catch (error) {
		// Another worker was first.
		if (!existsSync(folder)) throw error
		rmSync(beside, { recursive: true })
	}
	return folder
}

export type Tally = { url: string; data: string; stop: () => Promise<void> }

/** Starts North Tally as a user would, on free ports and with its own data folder. */
export async function startTally(mode: 'demo' | 'real', months = 2): Promise<Tally> {
	const data = mkdtempSync(join(tmpdir(), 'north-tally-'))
	if (mode === 'demo') cpSync(demoBooks(months), data, { recursive: true })
	const [web, smtp] = [await freePort(), await freePort()]
	const args = [join(root, 'scripts/start.mjs'), ...(mode === 'demo' ? ['--demo'] : [])]
	const env = {
		...process.env,
		PORT: String(web),
		NORTH_TALLY_SMTP_PORT: String(smtp),
		NORTH_TALLY_DATA: data,
		NORTH_TALLY_DEMO_MONTHS: String(months),
	}
	const child = spawn(process.execPath, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] })
	await opened(child)
	const stop = async () => {
		const ended = new Promise((done) => child.once('exit', done))
		child.kill('SIGINT')
		await ended
		rmSync(data, { recursive: true, force: true })
	}
	return { url: `http://127.0.0.1:${web}`, data, stop }
}

function opened(child: ChildProcess): Promise<void> {
	return new Promise((done, fail) => {
		let said = ''
		const hear = (chunk: Buffer) => {
			said += chunk
			if (said.includes('North Tally is open')) done()
		}
		child.stdout?.on('data', hear)
		child.stderr?.on('data', hear)
		child.once('exit', (code) => fail(new Error(`North Tally ended with ${code}:\n${said}`)))
	})
}

/** Waits until every button and form of the page answers: a click before that would be lost, as a hasty clerk's would. */
const awake = (page: Page) =>
	page.waitForFunction(
		() =>
			[...document.querySelectorAll('#main button, #main form, header button')].every((element) =>
				Object.keys(element).some((key) => key.startsWith('__reactProps')),
			),
		undefined,
		{ polling: 50 },
	)

/** Sets the day that is worked on, and waits until it counts. */
export async function setWorkDate(page: Page, day: string) {
	await page.goto('/company')
	await page.getByLabel('Work as of').fill(day)
	await page.getByRole('button', { name: 'Set the work date' }).click()
	await expect(page.getByText(day).first()).toBeVisible()
}

type Mode = 'demo' | 'real'
/** The North Tally of the file of tests that this process is at. */
let current: { file: string; tally: Tally } | null = null
async function end(): Promise<void> {
	await current?.tally.stop()
	current = null
}

/**
 * A test with a running North Tally, shared by the tests of one file: with the demo's books, or `test.use({ mode: 'real' })` with none. One
 * process with its browser goes through several files, one after the other.
 */
export const test = base.extend<{ mode: Mode; tally: Tally }, { ended: undefined }>({
	ended: [
		// biome-ignore lint/correctness/noEmptyPattern: the runner reads the pattern
		async ({}, use) => {
			await use(undefined)
			await end()
		},
		{ scope: 'worker', auto: true },
	],
	mode: ['demo', { option: true }],
	tally: [
		async ({ mode }, use, { file }) => {
			if (current?.file !== file) {
				await end()
				current = { file, tally: await startTally(mode) }
			}
			await use(current.tally)
		},
		{ timeout: 300_000 },
	],
	baseURL: ({ tally }, use) => use(tally.url),
	page: async ({ page }, use) => {
		const { goto, reload } = page
		page.goto = async (...args) => {
			const answer = await goto.apply(page, args)
			await awake(page)
			return answer
		}
		page.reload = async (...args) => {
			const answer = await reload.apply(page, args)
			await awake(page)
			return answer
		}
		// A page that its own policy hinders, or that breaks, is a fault also where the test does not look.
		const faults: string[] = []
		page.on('pageerror', (error) => faults.push(error.message))
		page.on('console', (message) => {
			if (/Content Security Policy|Refused to/.test(message.text())) faults.push(message.text())
		})
		await use(page)
		expect(faults).toEqual([])
	},
})
