// npm run mutants [-- PART [--all]]: plants faults in the code, one at a time, runs the tests that reach each, and says which no test
// noticed. The sample is fixed: it is chosen by what a line says, so that another change does not move it. PART is the beginning of a
// path below src/, "core" or "runs/issue"; of its own tests alone, unless --all runs every test: a fault that all tests reach and none
// notices takes minutes then.

import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { bundle, checkNode, inRoot, install, root, run } from './setup.mjs'

const part = process.argv.slice(2).find((word) => !word.startsWith('--')) ?? ''
const all = process.argv.includes('--all')
/** Floors whose rules decide figures, numbers, messages, readings and papers. */
const floors = ['core', 'runs', 'store', 'post', 'intake', 'layout', 'pdf', 'app/acts']
/** One line of so many is taken. */
const oneOf = 70

const isRule = (name) =>
	floors.some((floor) => name.startsWith(`src/${floor}/`)) &&
	!/\.test\.ts$|layout\/v\d|layout\/looks|schema(Parts)?\.ts$/.test(name)
const taken = (line) =>
	/[<>=&|?+*-]|return|\d/.test(line) &&
	!/^\s*(\/\/|\*|\/\*|import|export type|type )/.test(line) &&
	createHash('sha256').update(line.trim()).digest().readUInt32BE() % oneOf === 0

const files = execFileSync('git', ['ls-files', 'src'], { cwd: root, encoding: 'utf8' }).split('\n')
const mutate = files
	.filter((name) => /\.tsx?$/.test(name) && isRule(name) && name.startsWith(`src/${part}`))
	.flatMap((name) =>
		readFileSync(inRoot(name), 'utf8')
			.split('\n')
			.flatMap((line, index) => (taken(line) ? [`${name}:${index + 1}-${index + 1}`] : [])),
	)
checkNode()
await install()
// What plants the faults is 150 packages, which no other command needs.
const planter = ['@stryker-mutator/core@9.6.1', '@stryker-mutator/vitest-runner@9.6.1']
if (!existsSync(inRoot('node_modules/.bin/stryker')))
	run('npm', ['install', '--no-save', '--no-audit', '--no-fund', ...planter])
await bundle()
mkdirSync(inRoot('data'), { recursive: true })
const config = inRoot('data', 'mutants.json')
console.log(`${mutate.length} lines`)
writeFileSync(
	config,
	JSON.stringify({
		testRunner: 'vitest',
		plugins: ['@stryker-mutator/vitest-runner'],
		vitest: { configFile: 'vitest.mutants.config.ts', related: false },
		mutate,
		// Words, and what has no rule in it.
		mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral', 'ArrayDeclaration', 'Regex'] },
		coverageAnalysis: 'perTest',
		ignoreStatic: true,
		concurrency: Number(process.env.MUTANTS_AT_ONCE ?? 1),
		timeoutMS: 20_000,
		dryRunTimeoutMinutes: 60,
		reporters: ['clear-text', 'progress-append-only', 'json'],
		jsonReporter: { fileName: 'data/mutants-found.json' },
		clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: true },
		tempDirName: 'data/mutants',
		allowEmpty: true,
		// The compiler's own reader of its settings is not there to be asked.
		tsconfigFile: 'none',
		disableTypeChecks: false,
		ignorePatterns: ['.next', 'data', 'docs'],
	}),
)
const env = { MUTANTS_TESTS: all || part === '' ? '' : `src/${part}` }
process.exit(run(inRoot('node_modules/.bin/stryker'), ['run', config], { env }))
