// npm run demo | npm start | npm run dev: sets everything up, starts web, runner and practice mail, and stops all three.
import { spawn } from 'node:child_process'
import { accessSync, constants, existsSync, mkdirSync, openSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { resolve } from 'node:path'
import { bundle, checkNode, fail, inRoot, install, root, run, setUp } from './setup.mjs'

const flags = new Set(process.argv.slice(2))
const demo = flags.has('--demo')
const dev = flags.has('--dev')
const webPort = Number(process.env.PORT ?? 4747)
const smtpPort = Number(process.env.NORTH_TALLY_SMTP_PORT ?? 4748)
const data = resolve(root, process.env.NORTH_TALLY_DATA ?? (demo ? 'data/demo' : 'data/books'))
const env = {
	...process.env,
	NODE_ENV: dev ? 'development' : 'production',
	NORTH_TALLY_ROOT: root,
	NORTH_TALLY_DATA: data,
	NORTH_TALLY_SMTP_PORT: String(smtpPort),
	NORTH_TALLY_DEMO: demo ? '1' : '',
	NEXT_TELEMETRY_DISABLED: '1',
}

function checkPort(port, name, variable) {
	return new Promise((done) => {
		const probe = createServer()
		probe.once('error', () =>
			fail(
				`Port ${port}, on which the ${name} would listen, is in use. Stop what uses it, or choose another: ${variable}=${port + 10} npm run ${demo ? 'demo' : 'start'}`,
			),
		)
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
if (flags.has('--fresh')) {
	if (!demo) fail('--fresh begins the demo again; it is not for books in real use.')
	rmSync(data, { recursive: true, force: true })
}
checkData()
if (dev) {
	install()
	await bundle()
} else await setUp()
if (demo && !existsSync(`${data}/north-tally.db`)) {
	console.log('Laying out the demo firm: 17 months of books …')
	rmSync(data, { recursive: true, force: true })
	if (run(process.execPath, [inRoot('dist/demo.mjs')], { env }) !== 0)
		fail('The demo data could not be laid out; see above.')
}
mkdirSync(`${data}/logs`, { recursive: true })

let ending = false
const children = new Map()

/** Starts a process and starts it again when it ends by itself; its output goes to its log. */
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
	fail(`The web does not answer at ${url}. Its log: ${data}/logs/web.log`)
}

async function stop() {
	if (ending) return
	ending = true
	console.log('\nStopping …')
	const ended = [...children.values()].map((child) => new Promise((done) => child.once('exit', done)))
	for (const child of children.values()) child.kill('SIGTERM')
	const late = setTimeout(() => {
		for (const child of children.values()) child.kill('SIGKILL')
	}, 8000)
	await Promise.all(ended)
	clearTimeout(late)
	process.exit(0)
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop)

const practice = start('practice', [inRoot('dist/practice.mjs')])
const runner = start('runner', [inRoot('dist/runner.mjs')])
start('web', [
	inRoot('node_modules/next/dist/bin/next'),
	dev ? 'dev' : 'start',
	'-H',
	'127.0.0.1',
	'-p',
	String(webPort),
])
await Promise.all([ready(practice), ready(runner), answers(`http://127.0.0.1:${webPort}/api/alive`)])
console.log(`
North Tally is open at  http://127.0.0.1:${webPort}
${demo ? 'Demo firm: Skerrow Mooring Supply, work date 31 Oct 2026. Begin with Bring in and demo/orders-2026-10.csv.' : `Books: ${data}`}
Everything listens on this machine only. Ctrl-C stops it.`)
