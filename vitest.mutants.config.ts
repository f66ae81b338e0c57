import config from './vitest.config'

export default {
	...config,
	test: { ...config.test, exclude: ['tests/faults/**', 'tests/architecture.test.ts', 'node_modules/**'] },
}
