import { availableParallelism } from 'node:os'
import { defineConfig } from '@playwright/test'
import { browserOptions } from './scripts/setup.mjs'

export default defineConfig({
	testDir: 'tests/browser',
	globalSetup: './tests/browser/built.ts',
	// Each file of tests has a North Tally of its own, and waits for it a quarter of the time: more of them than cores.
	workers: Math.min(4, Math.ceil(availableParallelism() * 1.5)),
	timeout: 900_000,
	// No test has a time of its own to keep: beside other work everything takes several times as long.
	expect: { timeout: 300_000 },
	use: {
		viewport: { width: 1280, height: 800 },
		launchOptions: browserOptions(),
	},
})
