// npm test: format and lint, types, unit tests, browser tests against the production build. Ends with "N passed, N failed".
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fail, inRoot, run, setUp } from './setup.mjs'

const wanted = {
	chromium: '/usr/bin/chromium',
	qpdf: '/usr/bin/qpdf',
	'poppler-utils': '/usr/bin/pdffonts',
	strace: '/usr/bin/strace',
}

/** Debian packages that tests need: installed when that is allowed, else named. */
function installDebian() {
	const missing = () => Object.keys(wanted).filter((name) => !existsSync(wanted[name]))
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
const results = mkdtempSync(join(tmpdir(), 'north-tally-test-'))
const counts = { passed: 0, failed: 0 }
const note = (good) => {
	counts[good ? 'passed' : 'failed']++
}
const readJson = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null)

await setUp()
installDebian()

console.log('\nFormat and lint')
note(run(bin('biome'), ['check', '--error-on-warnings', '.']) === 0)
console.log('\nTypes')
note(run(bin('tsc'), ['--noEmit']) === 0)

console.log('\nUnit tests')
const unitFile = join(results, 'unit.json')
const unitCode = run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile=${unitFile}`])
const unit = readJson(unitFile)
counts.passed += unit?.numPassedTests ?? 0
counts.failed += unit?.numFailedTests ?? 0
if (unitCode !== 0 && !unit?.numFailedTests) counts.failed++

console.log('\nBrowser tests')
const browserFile = join(results, 'browser.json')
const { status } = spawnSync(bin('playwright'), ['test', '--reporter=list,json'], {
	cwd: inRoot(),
	stdio: 'inherit',
	env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile },
})
const browser = readJson(browserFile)?.stats
counts.passed += browser?.expected ?? 0
// One that passes only sometimes counts as failed.
const wrong = (browser?.unexpected ?? 0) + (browser?.flaky ?? 0)
counts.failed += wrong
if (status !== 0 && wrong === 0) counts.failed++

console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed === 0 ? 0 : 1)
