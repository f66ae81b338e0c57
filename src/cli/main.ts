import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { z } from 'zod'
import { compute, type Kind } from '@/core/worked'
import { backup, notInBackups, restore } from '@/runs/firm/backup'
import { verify, verifyOne } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { openBooks } from '@/store/openBooks'
import { checkFile, drawFile } from './layout'
import { readFileOfOrders } from './read'

const usage = `tally: North Tally for scripts

  tally price FILE           every figure of each document in FILE
  tally due FILE             the due date of each
  tally age FILE             what each customer owes as of a date
  tally draw CONTENT         one paper from its content as it is frozen (JSON), to --out FILE; by --layout NAME or FILE,
                             else by the look that ships first
  tally layout check FILE    what is wrong with a layout, as JSON with the place; ends with 1 where it could not be released
  tally read FILE            what a file of orders says, as JSON, without any books; --as orders, --days day-first, month-first or
                             year-first, --decimal point or comma, --discount (of lines) and --orderDiscount percent, share or
                             amount answer its questions
  tally verify [NUMBER]      whether the books hold together, one line a check, how far it is on the error line; with a number,
                             what of that one document is otherwise than what determines it
  tally backup FILE          the books and their files as one archive, while work goes on
  tally restore FILE         an archive's books, into an empty folder

  --data DIR                 the books' folder (draw, verify, backup, restore); data/books when left out

FILE of price, due and age holds a JSON array of inputs, or of cases with an "input". One JSON array of results is printed, in
the same order.`

function fail(words: string): never {
	console.error(words)
	process.exit(2)
}

function attempt<T>(work: () => T, words: string): T {
	try {
		return work()
	} catch {
		return fail(words)
	}
}

function inputs(file: string): unknown[] {
	const text = attempt(() => readFileSync(file, 'utf8'), `${file} cannot be read. Give the path of a JSON file.`)
	const json: unknown = attempt(() => JSON.parse(text), `${file} is not JSON.`)
	const list = z.array(z.unknown()).safeParse(json)
	if (!list.success) fail(`${file} must hold a JSON array of inputs.`)
	return list.data.map((entry) =>
		typeof entry === 'object' && entry !== null && 'input' in entry ? entry.input : entry,
	)
}

const computes = (kind: Kind) => (file: string) => {
	const results = inputs(file).map((input) => compute(kind, input))
	console.log(JSON.stringify(results, null, 1))
}

/** Books that are there. @throws {BooksFault} with what is wrong, and the remedy */
function booksIn(folder: string): Books {
	if (!existsSync(join(folder, 'north-tally.db')))
		fail(`There are no books in ${folder}. Name their folder with --data.`)
	return openBooks(folder)
}

/** Prints one line a check with its count, and what is wrong below it; gives whether all is well. */
function printVerified(books: Books): boolean {
	const results = verify(books, {
		onProgress: (check, done) => {
			if (done > 0) console.error(`     ${String(done).padStart(7)}  ${check} …`)
		},
	})
	for (const { check, looked, wrong } of results) {
		console.log(`${wrong.length === 0 ? 'ok  ' : 'FAIL'} ${String(looked).padStart(7)}  ${check}`)
		for (const words of wrong.slice(0, 20)) console.log(`              ${words}`)
		if (wrong.length > 20) console.log(`              and ${wrong.length - 20} more`)
	}
	return results.every(({ wrong }) => wrong.length === 0)
}

/** Prints what is wrong with the document of a number; gives whether nothing is. */
function printOne(books: Books, number: string): boolean {
	const wrong = verifyOne(books, number)
	if (wrong === null) fail(`There is no document ${number} in these books. Write its number as the lists show it.`)
	console.log(wrong.length === 0 ? `ok    ${number}` : `FAIL  ${number}`)
	for (const words of wrong) console.log(`      ${words}`)
	return wrong.length === 0
}

const parsed = attempt(
	() =>
		parseArgs({
			allowPositionals: true,
			options: {
				data: { type: 'string' },
				layout: { type: 'string' },
				out: { type: 'string' },
				as: { type: 'string' },
				days: { type: 'string' },
				decimal: { type: 'string' },
				discount: { type: 'string' },
				orderDiscount: { type: 'string' },
				help: { type: 'boolean' },
			},
		}),
	usage,
)
const [command, file] = parsed.positionals
const folder = resolve(
	parsed.values.data ?? process.env.NORTH_TALLY_DATA ?? join(process.env.NORTH_TALLY_ROOT ?? '.', 'data/books'),
)
const named = file ?? ''
const commands: Record<string, { needsFile: boolean; run: () => void | Promise<void> }> = {
	price: { needsFile: true, run: () => computes('price')(named) },
	due: { needsFile: true, run: () => computes('due')(named) },
	age: { needsFile: true, run: () => computes('age')(named) },
	draw: {
		needsFile: true,
		run: async () => {
			const { layout, out } = parsed.values
			if (!out) fail('tally draw needs --out FILE, where the PDF is to go.')
			const books = existsSync(join(folder, 'north-tally.db')) ? booksIn(folder) : null
			const pages = await drawFile(named, layout, out, books)
			console.log(`${out}: ${pages === 1 ? '1 page' : `${pages} pages`}.`)
		},
	},
	layout: {
		needsFile: true,
		run: () => {
			const [, , path] = parsed.positionals
			if (named !== 'check' || !path) fail('Write tally layout check FILE.')
			const findings = checkFile(path)
			console.log(JSON.stringify(findings, null, 1))
			if (findings.some(({ level }) => level === 'stop')) process.exitCode = 1
		},
	},
	read: {
		needsFile: true,
		run: async () => {
			if (!existsSync(named)) fail(`${named} cannot be read. Give the path of a file.`)
			const answer = await readFileOfOrders(named, parsed.values)
			console.log(JSON.stringify(answer, null, 1))
			if ('error' in answer) process.exitCode = 1
		},
	},
	verify: {
		needsFile: false,
		run: () => {
			const books = booksIn(folder)
			if (!(named === '' ? printVerified(books) : printOne(books, named))) process.exitCode = 1
		},
	},
	backup: {
		needsFile: true,
		run: async () => {
			if (!existsSync(join(folder, 'north-tally.db')))
				fail(`There are no books in ${folder}. Name their folder with --data.`)
			const kept = await backup({ folder }, named)
			if (!kept.ok) fail(kept.message)
			console.log(`The books in ${folder} are in ${named}, and were read back.`)
			const apart = notInBackups.filter((name) => existsSync(join(folder, name)))
			if (apart.length > 0)
				console.log(`Not in it, since they are secret: ${apart.join(' and ')}. Keep a copy elsewhere.`)
		},
	},
	restore: {
		needsFile: true,
		run: async () => {
			const restored = await restore(named, folder)
			if (!restored.ok) fail(restored.message)
			if (!printVerified(booksIn(folder))) process.exitCode = 1
		},
	},
}
const chosen = command === undefined ? undefined : commands[command]
if (command === undefined || command === 'help' || parsed.values.help) console.log(usage)
else if (!chosen) fail(`There is no command "${command}".\n\n${usage}`)
else if (chosen.needsFile && !file) fail(`tally ${command} needs a file.`)
else
	try {
		await chosen.run()
	} catch (error) {
		fail(error instanceof Error ? error.message : String(error))
	}
