import config from './vitest.config'

// For scripts/mutants.mjs: the tests of a part, or all but those that look at processes and at the text of the code.
const part = process.env.MUTANTS_TESTS

export default {
	...config,
	test: {
		...config.test,
		...(part ? { include: [`${part}*/**/*.test.ts`, `${part}*.test.ts`] } : {}),
		exclude: ['tests/faults/**', 'tests/architecture.test.ts', 'node_modules/**'],
	},
}
