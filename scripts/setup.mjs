// Set-up that every command shares: the right Node.js, the packages, the build. Uses nothing but Node.js itself.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')
export const inRoot = (...parts) => join(root, ...parts)

const shell = '/usr/bin/chromium-headless-shell'
/** How tests start Debian's Chromium: without a window, in the build that has none where it stands, at half the work. */
export const browserOptions = () => ({
	executablePath: existsSync(shell) ? shell : '/usr/bin/chromium',
	args: [
		'--no-sandbox',
		'--disable-gpu',
		'--disable-quic',
		'--no-first-run',
		'--disable-background-networking',
		'--disable-component-update',
		'--disable-sync',
	],
})

/** Ends with a clear message and a non-zero code. */
export function fail(words) {
	console.error(`\n${words}`)
	process.exit(1)
}

export function checkNode() {
	const [major, minor] = process.versions.node.split('.').map(Number)
	if (major < 20 || (major === 20 && minor < 9))
		fail(
			`North Tally needs Node.js 20.9 or later; this is ${process.versions.node}. Install a newer Node.js and start again.`,
		)
}

/** Runs a command to its end; its output goes to standard error when `quiet`, so that standard output stays the caller's. */
export function run(command, args, { quiet = false, env = {} } = {}) {
	const { status, error } = spawnSync(command, args, {
		cwd: root,
		stdio: ['ignore', quiet ? 2 : 'inherit', 'inherit'],
		env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
	})
	return error ? 1 : (status ?? 1)
}

const hashOf = (paths) => {
	const hash = createHash('sha256')
	const add = (path) => {
		if (!existsSync(path)) return
		if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) add(join(path, name))
		else if (!/\.test\.tsx?$/.test(path)) hash.update(path.slice(root.length)).update(readFileSync(path))
	}
	for (const path of paths) add(inRoot(path))
	return hash.digest('hex')
}
const stampIs = (file, value) => existsSync(file) && readFileSync(file, 'utf8') === value
function stamp(file, value) {
	mkdirSync(dirname(file), { recursive: true })
	writeFileSync(file, value)
}

/**
 * Installs the packages when they are not there, or not those of the lock file. SQLite is compiled for two minutes, on one processor:
 * `meanwhile` is done beside that, with the packages that are JavaScript alone.
 */
export async function install({ quiet = false, meanwhile = () => {} } = {}) {
	const file = inRoot('node_modules', '.north-tally')
	const wanted = hashOf(['package-lock.json'])
	if (stampIs(file, wanted)) return meanwhile()
	const needs = 'npm says why above. It needs the npm registry, python3, make and a C++ compiler.'
	console.error('Installing packages; the first time takes about three minutes …')
	if (run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], { quiet }) !== 0)
		fail(`The packages could not be installed; ${needs}`)
	const compiling = spawn('npm', ['rebuild'], { cwd: root, stdio: ['ignore', quiet ? 2 : 'inherit', 'inherit'] })
	const compiled = new Promise((done) => {
		compiling.once('error', () => done(1))
		compiling.once('exit', done)
	})
	meanwhile()
	if ((await compiled) !== 0) fail(`SQLite could not be compiled; ${needs}`)
	stamp(file, wanted)
}

/**
 * Bundles entry points into dist/; packages stay where they are. What is loaded only when it is needed is a part of its own, so that a worker
 * is ready in half the time. Parts from more than a day before the last build go; younger ones stay, since a North Tally that runs may yet load them.
 */
export async function bundleEntries(entryPoints) {
	const { build } = await import('esbuild')
	const built = (existsSync(inRoot('dist')) ? readdirSync(inRoot('dist')) : []).map((name) => ({
		name,
		at: statSync(inRoot('dist', name)).mtimeMs,
	}))
	const last = Math.max(...built.map(({ at }) => at))
	for (const { name, at } of built) if (name.startsWith('part-') && last - at > 86_400_000) rmSync(inRoot('dist', name))
	await build({
		absWorkingDir: root,
		outdir: 'dist',
		chunkNames: 'part-[name]-[hash]',
		splitting: true,
		outExtension: { '.js': '.mjs' },
		bundle: true,
		platform: 'node',
		format: 'esm',
		target: 'node20',
		packages: 'external',
		sourcemap: 'inline',
		logLevel: 'warning',
		entryPoints,
		define: { 'import.meta.dirname': '__dirname' },
		banner: {
			js: "import { dirname as __d } from 'node:path'; import { fileURLToPath as __f } from 'node:url'; const __dirname = __d(__f(import.meta.url));",
		},
	})
}

/** Bundles the runner, its worker, the practice server and the command line. Takes well under a second. */
export async function bundle() {
	const file = inRoot('dist', '.north-tally')
	const wanted = hashOf(['src', 'package-lock.json', 'scripts/setup.mjs'])
	if (stampIs(file, wanted)) return
	await bundleEntries({
		runner: 'src/runner/main.ts',
		makeWorker: 'src/runner/makeWorker.ts',
		fileWorker: 'src/runner/fileWorker.ts',
		stagingWriter: 'src/runner/stagingWriter.ts',
		formWorker: 'src/runner/formWorker.ts',
		pictureWorker: 'src/runner/pictureWorker.ts',
		practice: 'src/runner/practice.ts',
		tally: 'src/cli/main.ts',
		ready: 'src/cli/ready.ts',
		demo: 'src/cli/demo.ts',
	})
	stamp(file, wanted)
}

/** Builds the web for production when its sources changed since the last time. */
export function buildWeb() {
	const file = inRoot('.next', '.north-tally')
	const wanted = hashOf(['src', 'public', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json'])
	if (stampIs(file, wanted)) return
	console.error('Building …')
	// What it loads of the program may make a folder of books: one that is thrown away, never the one that is to be begun.
	const data = mkdtempSync(join(tmpdir(), 'north-tally-build-'))
	const status = run(process.execPath, [inRoot('node_modules/next/dist/bin/next'), 'build'], {
		quiet: true,
		env: { NORTH_TALLY_DATA: data },
	})
	rmSync(data, { recursive: true, force: true })
	if (status !== 0) fail('The build failed; see above.')
	stamp(file, wanted)
}

/** Everything that a start needs. @param meanwhile is done while packages are compiled */
export async function setUp(meanwhile = () => {}) {
	checkNode()
	await install({
		meanwhile: () => {
			meanwhile()
			// The build needs no SQLite: it makes the folders of books, and looks into none.
			buildWeb()
		},
	})
	await bundle()
}
