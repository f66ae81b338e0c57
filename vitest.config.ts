import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
	resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
	test: {
		include: ['src/**/*.test.ts', 'tests/**/*.test.ts'],
		setupFiles: ['tests/withoutServer.ts', 'tests/each.ts'],
		// No test has a time of its own to keep: beside other work everything takes several times as long. Long walks take hours.
		testTimeout: process.env.HISTORIES || process.env.KILLS ? 14_400_000 : 600_000,
		pool: 'forks',
		// Loading the program anew for each file of tests took a fifth of the time. What a file changes of its process, it puts back.
		isolate: false,
		maxWorkers: 3,
	},
})
