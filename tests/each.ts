import { rmSync } from 'node:fs'
import { relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, expect, vi } from 'vitest'
import { opened } from './opened'

// What happens after each test of every file. Files share a process, and what they import is loaded once: hooks stand here, and
// nowhere in what they share.

// No test goes by the day on which it is run: what needs a day is given a desk with a clock of its own, and what measures a span
// takes `performance.now()`. A test in which our code reads the clock of the machine fails, and is told where.

type Guard = { allowed: boolean; readings: Set<string> }
// Files of tests share a process, and so one guard: the clock is watched once.
const held = globalThis as typeof globalThis & { northTallyClock?: Guard }
const first = held.northTallyClock === undefined
const guard = held.northTallyClock ?? { allowed: false, readings: new Set() }
held.northTallyClock = guard
const root = fileURLToPath(new URL('..', import.meta.url))

/** Says that the test which runs is to see the machine's clock. */
export const onRealClock = (): void => {
	guard.allowed = true
}

/** Where our own code asked, when it is not a library's; empty else. */
function asker(): string {
	const frame = new Error().stack?.split('\n')[4] ?? ''
	const path = /(?:file:\/\/)?(\/[^():]+):(\d+):\d+\)?$/.exec(frame)
	const file = path?.[1] ? relative(root, path[1]) : ''
	return /^(src|tests|scripts)\//.test(file) ? `${file}:${path?.[2]}` : ''
}
const note = (): void => {
	const where = asker()
	if (where !== '') guard.readings.add(where)
}

function watch(Real: DateConstructor): void {
	const now = (): number => {
		note()
		return Real.now()
	}
	globalThis.Date = new Proxy(Real, {
		construct: (real, args, target) => {
			if (args.length === 0) note()
			return Reflect.construct(real, args, target === globalThis.Date ? real : target)
		},
		get: (real, name) => (name === 'now' ? now : Reflect.get(real, name, real)),
	})
	Real.prototype.constructor = globalThis.Date
}
if (first) watch(Date)

afterEach(() => {
	vi.useRealTimers()
	for (const books of opened.splice(0)) {
		if (books.db.open) books.db.close()
		rmSync(books.folder, { recursive: true, force: true })
	}
	const found = [...guard.readings]
	const asked = guard.allowed
	guard.readings.clear()
	guard.allowed = false
	if (!asked) expect(found, 'The clock of the machine was read').toEqual([])
})
