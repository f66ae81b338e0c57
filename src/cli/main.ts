import { readFileSync } from 'node:fs'
import { z } from 'zod'
import { compute, type Kind } from '@/core/worked'

const usage = `tally: North Tally for scripts

  tally price FILE   every figure of each document in FILE
  tally due FILE     the due date of each
  tally age FILE     what each customer owes as of a date

FILE holds a JSON array of inputs, or of cases with an "input". One JSON array of results is printed, in the same order.`

function fail(words: string): never {
	console.error(words)
	process.exit(2)
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

function attempt<T>(work: () => T, words: string): T {
	try {
		return work()
	} catch {
		return fail(words)
	}
}

const [command, file] = process.argv.slice(2)
const kind = z.enum(['price', 'due', 'age']).safeParse(command)
if (command === undefined || command === 'help' || command === '--help') console.log(usage)
else if (!kind.success) fail(`There is no command "${command}".\n\n${usage}`)
else if (!file) fail(`tally ${kind.data} needs a file.`)
else
	console.log(
		JSON.stringify(
			inputs(file).map((input) => compute(kind.data satisfies Kind, input)),
			null,
			1,
		),
	)
