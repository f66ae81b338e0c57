// npm test: format and lint, types, unit tests, browser tests against the production build. Says what took how long, and ends with
// "N passed, N failed".
import { spawnSync } from 'node:child_process'
import { accessSync, constants, existsSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fail, inRoot, run, setUp } from './setup.mjs'

/** Room that the books of all tests together may take, bytes. */
const room = 3e9
/**
 * Where tests keep their books: in memory where there is room, since each step of the books waits until it is on disk, and no test asks
 * whether a disk keeps what it said it did.
 */
function folderOfTests() {
	const memory = '/dev/shm'
	try {
		accessSync(memory, constants.W_OK)
		const { bavail, bsize } = statfsSync(memory)
		if (bavail * bsize > room) return mkdtempSync(join(memory, 'north-tally-test-'))
	} catch {
		// No such folder on this machine.
	}
	return mkdtempSync(join(tmpdir(), 'north-tally-test-'))
}

/** Packages, and where one of what each is for stands; any of several does. */
const wanted = {
	'chromium-headless-shell': ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'],
	qpdf: ['/usr/bin/qpdf'],
	'poppler-utils': ['/usr/bin/pdffonts'],
	strace: ['/usr/bin/strace'],
}

/** Debian packages that tests need: installed when that is allowed, else named. */
function installDebian() {
	const missing = () => Object.keys(wanted).filter((name) => !wanted[name].some((path) => existsSync(path)))
	if (missing().length === 0) return
	if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
		console.log(`Installing ${missing().join(', ')} …`)
		run('apt-get', ['-qq', 'update'])
		run('apt-get', ['-qq', '-y', '--no-install-recommends', 'install', ...missing()], {
			env: { DEBIAN_FRONTEND: 'noninteractive' },
		})
	}
	if (missing().length > 0)
		fail(`The tests need Debian's ${missing().join(', ')}: apt-get install ${missing().join(' ')}`)
}

const bin = (name) => inRoot('node_modules/.bin', name)
const results = folderOfTests()
process.env.TMPDIR = results
process.on('exit', () => {
	try {
		rmSync(results, { recursive: true, force: true })
	} catch {
		// Something of it is still open; the machine's own tidying takes it.
	}
})
const parts = []
let begun = performance.now()
/** Notes how long a part took. */
const ended = (part) => {
	parts.push([part, Math.round((performance.now() - begun) / 1000)])
	begun = performance.now()
}
const counts = { passed: 0, failed: 0 }
const note = (good) => {
	counts[good ? 'passed' : 'failed']++
}
const readJson = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null)

await setUp(() => {
	installDebian()
	console.log('\nFormat and lint')
	note(run(bin('biome'), ['check', '--error-on-warnings', '.']) === 0)
	console.log('\nTypes')
	// What pages may export is checked too.
	note(run(bin('next'), ['typegen'], { quiet: true }) === 0 && run(bin('tsc'), ['--noEmit']) === 0)
})
ended('set-up, lint and types')

console.log('\nUnit tests')
const unitFile = join(results, 'unit.json')
const unitCode = run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile=${unitFile}`])
const unit = readJson(unitFile)
counts.passed += unit?.numPassedTests ?? 0
counts.failed += unit?.numFailedTests ?? 0
if (unitCode !== 0 && !unit?.numFailedTests) counts.failed++
ended('unit tests')

console.log('\nBrowser tests')
const browserFile = join(results, 'browser.json')
const { status } = spawnSync(bin('playwright'), ['test', '--reporter=list,json'], {
	cwd: inRoot(),
	stdio: 'inherit',
	env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile },
})
const browserTests = readJson(browserFile)
const browser = browserTests?.stats
counts.passed += browser?.expected ?? 0
// One that passes only sometimes counts as failed.
const wrong = (browser?.unexpected ?? 0) + (browser?.flaky ?? 0)
counts.failed += wrong
if (status !== 0 && wrong === 0) counts.failed++

ended('browser tests')

/** What the browsers did: each time a test was tried, with its title. */
const tries = (browserTests?.suites ?? []).flatMap(({ specs }) =>
	specs.flatMap(({ title, tests }) => tests.flatMap(({ results }) => results.map((result) => ({ title, ...result })))),
)
// What a browser showed where a test failed is said here: its folder goes with the machine that it ran on.
for (const { title, attachments } of tries.filter(({ status }) => status !== 'passed'))
	for (const { name, path } of attachments)
		if (name === 'error-context' && path && existsSync(path))
			console.log(`\n${title}: ${readFileSync(path, 'utf8').slice(0, 6000)}`)

const took = [
	...(unit?.testResults ?? []).flatMap(({ assertionResults }) =>
		assertionResults.map(({ title, duration }) => [(duration ?? 0) / 1000, title]),
	),
	...tries.map(({ title, duration }) => [duration / 1000, title]),
]
console.log('\nThe ten slowest tests, in seconds')
for (const [seconds, title] of took.sort(([a], [b]) => b - a).slice(0, 10))
	console.log(`${seconds.toFixed(1).padStart(7)}  ${title}`)
console.log(`\n${parts.map(([part, seconds]) => `${part} ${seconds} s`).join(', ')}`)
console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed === 0 ? 0 : 1)
