import { expect, test } from 'vitest'
import { onRealClock } from './each'

test.fails('a test in which our code reads the clock of the machine fails', () => {
	expect(Date.now()).toBeGreaterThan(0)
})
test.fails('so does one that makes a day of it', () => {
	expect(new Date()).toBeInstanceOf(Date)
})
test('one that says so may', () => {
	onRealClock()
	expect(new Date().getUTCFullYear()).toBeGreaterThan(2000)
})
test('a day that is given is no reading', () => {
	expect(new Date('2026-10-31').toISOString().slice(0, 10)).toBe('2026-10-31')
	expect(new Date(2026, 9, 31).constructor).toBe(Date)
})
