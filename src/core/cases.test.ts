import { describe, expect, test } from 'vitest'
import ageCases from '../../tests/cases/age.json'
import dueCases from '../../tests/cases/due.json'
import priceCases from '../../tests/cases/price.json'
import { compute } from './worked'

type Case = { name: string; input: unknown; expect: { error?: { path: string } } }

describe.each([
	['price', priceCases],
	['due', dueCases],
	['age', ageCases],
] as const)('%s agrees with the worked cases', (kind, cases) => {
	test.each(cases as Case[])('$name', ({ input, expect: wanted }) => {
		const result = compute(kind, input)
		if (!wanted.error) expect(result).toEqual(wanted)
		else expect(result).toEqual({ error: { path: wanted.error.path, message: expect.stringMatching(/\w.*\./) } })
	})
})
