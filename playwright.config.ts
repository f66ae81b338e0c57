import { defineConfig } from '@playwright/test'

export default defineConfig({
	testDir: 'tests/browser',
	globalSetup: './tests/browser/built.ts',
	// Each file of tests has a North Tally of its own.
	workers: 2,
	timeout: 420_000,
	expect: { timeout: 90_000 },
	use: {
		viewport: { width: 1280, height: 800 },
		launchOptions: {
			executablePath: '/usr/bin/chromium',
			args: [
				'--no-sandbox',
				'--disable-gpu',
				'--disable-quic',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync',
			],
		},
	},
})
