import { describe, expect, test } from 'vitest'
import type { Outcome } from '@/core/outcome'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { billed } from '../../../tests/runs'
import { stated } from '../../../tests/stated'
import { openInWeb } from '../../../tests/web'

type Act = (...input: unknown[]) => Promise<Outcome>
/** Every act there is, by its file and name: what a browser may call. */
const acts = Object.entries(
	import.meta.glob<Record<string, Act>>(['./*.ts', '!./*.test.ts', '!./seam.ts'], { eager: true }),
).flatMap(([file, all]) => Object.entries(all).map(([name, act]) => ({ file: file.slice(2, -3), name, act })))

/** What a caller may send who is no page of ours. */
const nonsense: unknown[][] = [
	[],
	[null],
	['x'],
	[-1],
	[Number.NaN, 'x'],
	[{ nonsense: true }],
	[[[]]],
	[1, 2, 3, 4, 5, 6, 7],
	[new FormData()],
	[new FormData(), 1],
]
/** Calls about things that there are not, in the shapes that acts have. */
const none = 999_999_999
const absent: unknown[][] = [
	[none],
	[none, 'x'],
	[none, none],
	[none, 'x', 'x'],
	[none, none, true],
	[none, [none], 'x'],
]

const changes = ({ db }: Books) => db.prepare<[], number>('SELECT total_changes()').pluck().get()
async function someBooks(): Promise<Books> {
	const { books } = await stated()
	await billed(books, '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,')
	return openInWeb(books)
}

/** Those that wait for something besides the books, and take their steps themselves. */
const long = Object.values(
	import.meta.glob<string>(['./*.ts', '!./*.test.ts'], { eager: true, query: '?raw', import: 'default' }),
).flatMap((text) => [...text.matchAll(/export const (\w+) = longAct\(/g)].map(([, name]) => name ?? ''))

test('an act reads what it decides by within its own step, so nobody changes it in between', async () => {
	const books = await someBooks()
	const { sql } = books
	const outside = new Set<string>()
	let going = ''
	books.sql = ((text: string) => {
		// Who is at the desk is known before.
		if (!books.db.inTransaction && !text.includes('FROM clerk')) outside.add(`${going}: ${text}`)
		return sql(text)
	}) as Books['sql']
	for (const { name, act } of acts.filter((one) => !long.includes(one.name)))
		for (const input of absent) {
			going = name
			await act(...input)
		}
	expect([...outside]).toEqual([])
	expect(long.length).toBeGreaterThan(3)
})

test('there are acts, each a function of its own name', () => {
	expect(acts.length).toBeGreaterThan(100)
	expect(acts.filter(({ act }) => typeof act !== 'function')).toEqual([])
})

describe('an act that is called with', () => {
	test.each([
		['nonsense', nonsense],
		['what there is not', absent],
	])('%s says so in words, and changes nothing', async (_, calls) => {
		const books = await someBooks()
		const wrong: string[] = []
		for (const { file, name, act } of acts)
			for (const input of calls) {
				const before = changes(books)
				const outcome = await act(...input)
				const said = `${file}.${name}(${JSON.stringify(input)}): ${JSON.stringify(outcome)}`
				if (!outcome.ok && !outcome.message) wrong.push(`${said}, without words`)
				if (!outcome.ok && /constraint|SQLITE|is not a function|Cannot read/i.test(outcome.message))
					wrong.push(`${said}, in the words of a machine`)
				if (changes(books) !== before && !outcome.ok) wrong.push(`${said}, and the books were changed`)
			}
		expect(wrong).toEqual([])
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})
})
