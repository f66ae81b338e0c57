// npm run demo | npm start | npm run dev: sets everything up, starts web, runner and practice mail, and stops all three.
import { spawn, spawnSync } from 'node:child_process'
import { accessSync, constants, existsSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { connect, createServer } from 'node:net'
import { join, resolve } from 'node:path'
import { bundle, checkNode, fail, inRoot, install, root, run, setUp } from './setup.mjs'

const flags = new Set(process.argv.slice(2))
const demo = flags.has('--demo')
const dev = flags.has('--dev')
const webPort = Number(process.env.PORT ?? 4747)
const smtpPort = Number(process.env.NORTH_TALLY_SMTP_PORT ?? 4748)
const data = resolve(root, process.env.NORTH_TALLY_DATA ?? (demo ? 'data/demo' : 'data/books'))
/** A process that ends with this code cannot be as things are, and is not started again. */
const cannotBe = 78
const env = {
	...process.env,
	NORTH_TALLY_CANNOT_BE: String(cannotBe),
	NODE_ENV: dev ? 'development' : 'production',
	NORTH_TALLY_ROOT: root,
	NORTH_TALLY_DATA: data,
	NORTH_TALLY_SMTP_PORT: String(smtpPort),
	NORTH_TALLY_DEMO: demo ? '1' : '',
	NEXT_TELEMETRY_DISABLED: '1',
	// The web ends when this process does.
	NORTH_TALLY_STARTER: String(process.pid),
}
/** One that ends so often in a minute is not either. */
const mostEnds = 5

/** What an earlier North Tally that still listens on a port says of itself; empty for anything else. */
async function ownProcess(port, banner) {
	if (!banner) {
		const answer = await fetch(`http://127.0.0.1:${port}/api/alive`, { signal: AbortSignal.timeout(2000) }).catch(
			() => null,
		)
		return /^North Tally, process (\d+)/.exec((await answer?.text().catch(() => '')) ?? '')?.[1] ?? ''
	}
	return new Promise((done) => {
		const socket = connect(port, '127.0.0.1')
		socket.setTimeout(2000, () => done(''))
		socket.on('error', () => done(''))
		socket.on('data', (chunk) => {
			socket.destroy()
			done(/North Tally practice mail, process (\d+)/.exec(String(chunk))?.[1] ?? '')
		})
	})
}

function checkPort(port, name, variable) {
	return new Promise((done) => {
		const probe = createServer()
		probe.once('error', async () => {
			const pid = await ownProcess(port, variable !== 'PORT')
			const other = `${variable}=${port + 10} npm run ${demo ? 'demo' : 'start'}`
			fail(
				pid
					? `Port ${port}, on which the ${name} would listen, is held by a North Tally that still runs (process ${pid}). Stop it with Ctrl-C where it was started, or with: kill ${pid}. To run a second one beside it, on other books: ${other}`
					: `Port ${port}, on which the ${name} would listen, is in use. Stop what uses it, or choose another: ${other}`,
			)
		})
		probe.listen(port, '127.0.0.1', () => probe.close(done))
	})
}

function checkData() {
	try {
		mkdirSync(data, { recursive: true })
		accessSync(data, constants.W_OK | constants.R_OK)
	} catch {
		fail(
			`The data folder ${data} cannot be written. Give yourself the right to write there, or name another: NORTH_TALLY_DATA=/path npm run ${demo ? 'demo' : 'start'}`,
		)
	}
}

checkNode()
await checkPort(webPort, 'web', 'PORT')
await checkPort(smtpPort, 'practice mail server', 'NORTH_TALLY_SMTP_PORT')
if (flags.has('--fresh') && !demo) fail('--fresh begins the demo again; it is not for books in real use.')
checkData()
if (dev) {
	await install()
	await bundle()
} else await setUp()
// What is written from here on is for its owner alone.
process.umask(0o077)

/** Held until this process ends, however it does: one start a folder of books. */
const lock = await takeLock()
async function takeLock() {
	const { default: Database } = await import('better-sqlite3')
	const held = new Database(join(data, 'start.lock'), { timeout: 500 })
	try {
		held.pragma('journal_mode = DELETE')
		held.exec('BEGIN EXCLUSIVE')
		return held
	} catch {
		fail(
			`A North Tally works on the books in ${data} already. Stop that one first, or name other books: NORTH_TALLY_DATA=/path npm run ${demo ? 'demo' : 'start'}`,
		)
	}
}
const clear = () => {
	for (const name of readdirSync(data))
		if (!name.startsWith('start.lock')) rmSync(join(data, name), { recursive: true, force: true })
}
if (flags.has('--fresh')) clear()
if (demo && !existsSync(`${data}/north-tally.db`)) {
	console.log('Laying out the demo firm: 17 months of books …')
	clear()
	if (run(process.execPath, [inRoot('dist/demo.mjs')], { env }) !== 0)
		fail('The demo data could not be laid out; see above.')
}
const looked = spawnSync(process.execPath, [inRoot('dist/ready.mjs')], { env, encoding: 'utf8' })
if (looked.status !== 0) fail(looked.stderr.trim() || `The books in ${data} cannot be opened.`)
mkdirSync(`${data}/logs`, { recursive: true })

let ending = false
const children = new Map()

const ends = new Map()
const lastLines = (file) => {
	try {
		return readFileSync(file, 'utf8').trimEnd().split('\n').slice(-12).join('\n')
	} catch {
		return ''
	}
}

/** Stops everything, since a part cannot be; says why once. */
function giveUp(name, why) {
	if (ending) return
	const file = `${data}/logs/${name}.log`
	console.error(`\n${why}\nThe last lines of ${file}:\n\n${lastLines(file)}\n`)
	stop(1)
}

/** Starts a process and starts it again when it ends by itself, unless it cannot be; its output goes to its log. */
function start(name, args, port) {
	const log = openSync(`${data}/logs/${name}.log`, 'a')
	const child = spawn(process.execPath, args, {
		cwd: root,
		env: { ...env, ...port },
		stdio: ['ignore', dev ? 'inherit' : log, dev ? 'inherit' : log, 'ipc'],
	})
	children.set(name, child)
	child.on('exit', (code) => {
		children.delete(name)
		if (ending) return
		if (code === cannotBe) return giveUp(name, `The ${name} cannot work as things are, and is not started again.`)
		const late = [...(ends.get(name) ?? []), Date.now()].filter((at) => Date.now() - at < 60_000)
		ends.set(name, late)
		if (late.length >= mostEnds)
			return giveUp(name, `The ${name} ended ${mostEnds} times in a minute, and is not started again.`)
		console.error(`The ${name} ended (${code ?? 'killed'}); starting it again. Its log: ${data}/logs/${name}.log`)
		setTimeout(() => ending || start(name, args, port), 1000)
	})
	return child
}
const ready = (child) => new Promise((done) => child.on('message', (message) => message === 'ready' && done()))

async function answers(url) {
	for (let tries = 0; tries < 600 && !ending; tries++) {
		try {
			if ((await fetch(url)).ok) return
		} catch {
			// Not listening yet.
		}
		await new Promise((done) => setTimeout(done, 50))
	}
	if (ending) return new Promise(() => {})
	giveUp('web', `The web does not answer at ${url}.`)
	return new Promise(() => {})
}

async function stop(code) {
	if (ending) return
	ending = true
	if (code === 0) console.log('\nStopping …')
	const ended = [...children.values()].map((child) => new Promise((done) => child.once('exit', done)))
	for (const child of children.values()) child.kill('SIGTERM')
	const late = setTimeout(() => {
		for (const child of children.values()) child.kill('SIGKILL')
	}, 6000)
	await Promise.all(ended)
	clearTimeout(late)
	lock.close()
	process.exit(code)
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0))

const practice = start('practice', [inRoot('dist/practice.mjs')])
const runner = start('runner', [inRoot('dist/runner.mjs')])
start('web', [
	inRoot('node_modules/next/dist/bin/next'),
	dev ? 'dev' : 'start',
	'-H',
	'127.0.0.1',
	'-p',
	String(webPort),
	// Longer than any caller keeps a connection for its next request: a request into one that is just being closed is lost.
	...(dev ? [] : ['--keepAliveTimeout', '75000']),
])
await Promise.all([ready(practice), ready(runner), answers(`http://127.0.0.1:${webPort}/api/alive`)])
console.log(`
North Tally is open at  http://127.0.0.1:${webPort}
${demo ? 'Demo firm: Skerrow Mooring Supply, work date 31 Oct 2026. Begin with Bring in and demo/orders-2026-10.csv.' : `Books: ${data}`}
Everything listens on this machine only. Ctrl-C stops it.`)
