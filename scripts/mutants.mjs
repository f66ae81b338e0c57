// npm run mutants [-- PART]: plants faults in the code, one at a time, runs the tests that reach each, and says which no test noticed.
// The sample is fixed: it is chosen by what a line says, so that another change does not move it. PART is the beginning of a path below
// src/, "core" or "runs/issue". First the faults of each room are tried with the tests of that room; what lives is tried with the tests of
// what uses it: STEPS says how far up (0 is the rooms alone, 1 is without the histories, which take hours). What was found is kept in
// data/mutants-found.json.

import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { bundle, checkNode, inRoot, install, root, run } from './setup.mjs'

const part = process.argv[2] ?? ''
const steps = Number(process.env.STEPS ?? 9)
/** Floors whose rules decide figures, numbers, messages, readings and papers. */
const floors = ['core', 'runs', 'store', 'post', 'intake', 'layout', 'pdf', 'app/acts']
const histories = [
	'histories',
	'ledgerHistories',
	'statementHistories',
	'paperHistories',
	'mendedHistories',
	'brokenBooks',
]
const ofRuns = [['src/runs', 'src/app/acts'], histories.map((name) => `tests/${name}`)]
/** The tests of what uses a floor, where its own did not notice; each list is tried with what lived before it. */
const above = {
	core: [['src/core', 'src/runs/drafts', 'src/runs/issue', 'src/runs/bringIn', 'tests/reading']],
	runs: ofRuns,
	store: ofRuns,
	post: [['src/post', 'src/runs/send']],
	intake: [
		[
			'src/runs/bringIn',
			'src/runs/extract',
			'tests/reading',
			'tests/intakeHistories',
			'tests/oddFiles',
			'tests/workbook',
		],
	],
	layout: [['src/pdf', 'src/runs/layouts', 'src/companions', 'tests/paper', 'tests/forms', 'tests/earlierBooks']],
	pdf: [['src/runs/layouts', 'src/companions', 'tests/paper', 'tests/earlierBooks']],
	'app/acts': [['src/app']],
}
/** One line of so many is taken. */
const oneOf = 62

const isRule = (name) =>
	floors.some((floor) => name.startsWith(`src/${floor}/`)) &&
	!/\.test\.ts$|layout\/v\d|layout\/looks|schema(Parts)?\.ts$/.test(name)
const taken = (line) =>
	/[<>=&|?+*-]|return|\d/.test(line) &&
	!/^\s*(\/\/|\*|\/\*|import|export type|type )/.test(line) &&
	createHash('sha256').update(line.trim()).digest().readUInt32BE() % oneOf === 0

const files = execFileSync('git', ['ls-files', 'src'], { cwd: root, encoding: 'utf8' }).split('\n')
/** The folders whose tests are tried first: a floor, or a room of one that has rooms. An endless loop costs as long as its tests take. */
const rooms = floors.flatMap((floor) => {
	const within = files.flatMap((name) =>
		name.startsWith(`src/${floor}/`) ? (name.split('/').slice(2, -1)[0] ?? []) : [],
	)
	return floor === 'runs' ? [...new Set(within)].map((room) => `${floor}/${room}`) : [floor]
})
const linesOf = (room) =>
	files
		.filter((name) => /\.tsx?$/.test(name) && isRule(name))
		.filter((name) => name.startsWith(`src/${room}/`) && name.startsWith(`src/${part}`))
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

/** The faults of these places, each with whether a test noticed. @param tests beginnings of the paths of tests, with commas between */
const plant = (mutate, tests) => {
	const config = inRoot('data', 'mutants.json')
	const found = inRoot('data', 'mutants-report.json')
	rmSync(found, { force: true })
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
			reporters: ['progress-append-only', 'json'],
			jsonReporter: { fileName: 'data/mutants-report.json' },
			tempDirName: 'data/mutants',
			allowEmpty: true,
			// The compiler's own reader of its settings is not there to be asked.
			tsconfigFile: 'none',
			disableTypeChecks: false,
			ignorePatterns: ['.next', 'data', 'docs'],
		}),
	)
	const ended = run(inRoot('node_modules/.bin/stryker'), ['run', config], { env: { MUTANTS_TESTS: tests } })
	if (ended !== 0 || !existsSync(found)) throw new Error(`faults could not be planted in ${mutate[0]} and others`)
	return Object.entries(JSON.parse(readFileSync(found, 'utf8')).files).flatMap(([name, { source, mutants }]) =>
		mutants.map(({ location: { start, end }, mutatorName, replacement, status }) => ({
			place: `${name}:${start.line}:${start.column}`,
			// A range to plant in counts columns from 0, the report from 1.
			range: `${name}:${start.line}:${start.column - 1}-${end.line}:${end.column - 1}`,
			line: source.split('\n')[start.line - 1].trim(),
			fault: `${mutatorName}: ${replacement}`,
			status,
		})),
	)
}
const isLeft = ({ status }) => status === 'Survived' || status === 'NoCoverage'
const nameOf = ({ place, fault }) => `${place} ${fault}`

/** @type {Map<string, ReturnType<typeof plant>[number]>} */
const faults = new Map()
/** Places whose room has no tests of its own. */
const untested = []
for (const room of rooms) {
	const lines = linesOf(room)
	if (lines.length === 0) continue
	console.log(`${room}: ${lines.length} lines`)
	if (!files.some((name) => name.startsWith(`src/${room}/`) && name.endsWith('.test.ts'))) untested.push(...lines)
	else for (const fault of plant(lines, `src/${room}`)) if (fault.status !== 'Ignored') faults.set(nameOf(fault), fault)
}
for (const floor of floors)
	for (const [step, tests] of above[floor].slice(0, steps).entries()) {
		const ofFloor = (place) => place.startsWith(`src/${floor}/`)
		const lived = [...faults.values()].filter((fault) => isLeft(fault) && ofFloor(fault.place))
		const left = [...new Set(lived.map(({ range }) => range)), ...(step === 0 ? untested.filter(ofFloor) : [])]
		if (left.length === 0) continue
		console.log(`${floor}: what lived in ${left.length} places`)
		for (const fault of plant(left, tests.join())) {
			const before = faults.get(nameOf(fault))
			if (fault.status !== 'Ignored' && (!before || isLeft(before))) faults.set(nameOf(fault), fault)
		}
	}

writeFileSync(inRoot('data', 'mutants-found.json'), JSON.stringify([...faults.values()], undefined, '\t'))
const counted = [...faults.values()]
const lived = counted.filter(isLeft)
for (const { place, line, fault } of lived) console.log(`${place}\n\t${line}\n\t${fault}`)
for (const floor of floors) {
	const of = counted.filter(({ place }) => place.startsWith(`src/${floor}/`))
	if (of.length > 0) console.log(`${floor}: ${of.length - of.filter(isLeft).length} of ${of.length} noticed`)
}
console.log(`${counted.length - lived.length} of ${counted.length} faults noticed`)
