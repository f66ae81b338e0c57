import config from './vitest.config'

// For scripts/mutants.mjs: the tests whose paths begin so, but those that look at processes and at the text of the code.
const parts = (process.env.MUTANTS_TESTS ?? 'src,tests').split(',')

export default {
	...config,
	test: {
		...config.test,
		include: parts.flatMap((part) => [`${part}/**/*.test.ts`, `${part}*.test.ts`]),
		exclude: ['tests/faults/**', 'tests/architecture.test.ts', 'node_modules/**'],
	},
}
