import fc from 'fast-check'
import { expect, test } from 'vitest'
import { figuresOf, nearness, numberForms, numberKeys } from './numberForms'

const near = (a: string, b: string) => nearness(numberForms(a), numberForms(b))

test.each([
	['X-1', 'x-1', 3],
	['X-1', 'X 1', 2],
	['X-1', 'X-01', 2],
	['X-1', 'X001', 2],
	['2026-001', '2026001', 2],
	['2026-1', '2026/001', 2],
	['INV X-1', 'X1', 2],
	['Rechnung Nr. 77', '77', 2],
	['SK-1048', '1048', 1],
	['SK-1048', '01048', 1],
	['SK-1048', 'AB-1048', 0],
	['X-1', 'X-11', 0],
	['X-1', 'X-2', 0],
	['1-01', '10-1', 0],
	['INV', 'CN', 0],
	['', '', 3],
	['-', '/', 0],
])('%s and %s are as near as %i', (a, b, how) => {
	expect([near(a, b), near(b, a)]).toEqual([how, how])
})

test('two that are near meet under a key, and have the same figures', () => {
	const part = fc.constantFrom('X', 'SK', 'inv', '1', '01', '10', '2026', '007', '-', ' ', '/', '.', 'No')
	const number = fc
		.array(part, { minLength: 1, maxLength: 5 })
		.map((parts) => parts.join(''))
		.filter((text) => text.trim() !== '')
	fc.assert(
		fc.property(number, number, (a, b) => {
			if (near(a, b) === 0) return
			const keys = new Set(numberKeys(numberForms(a)))
			expect([a, b, numberKeys(numberForms(b)).some((key) => keys.has(key))]).toEqual([a, b, true])
			expect(figuresOf(a)).toBe(figuresOf(b))
		}),
		{ numRuns: 5000 },
	)
})
