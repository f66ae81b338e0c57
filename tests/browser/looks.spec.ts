import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect } from '@playwright/test'
import { demoFile } from './demoFile'
import { test } from './tally'

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

type Violation = { id: string; nodes: { html: string }[] }

test('every screen can be read by all (WCAG AA) and fits a window 1024 wide', async ({ page }) => {
	await page.setViewportSize({ width: 1024, height: 768 })
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await page.waitForURL(/bring-in\/\d+/)
	const file = new URL(page.url()).pathname
	const paths = [
		'/',
		'/bring-in',
		file,
		'/runs',
		'/runs/1',
		'/postroom',
		'/sent-log',
		'/sent-log/1',
		'/accounts',
		'/accounts/1',
		'/accounts/items?currency=GBP&bucket=over+90',
		'/items',
		'/papers',
		'/papers/1',
		'/papers/1/write',
		'/papers/records/1',
		'/layouts',
		'/layouts/1',
		'/layouts/forms/1',
		'/letters',
		'/registers',
		'/company',
		'/practice-mail',
		'/documents/1',
	]
	for (const path of paths) {
		await page.goto(path)
		await page.waitForLoadState('load')
		await page.evaluate(axe)
		const violations = await page.evaluate(async () => {
			const run: { axe: { run: (options: object) => Promise<{ violations: Violation[] }> } } = Object.assign(window)
			return (await run.axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] })).violations
		})
		expect(violations.map(({ id, nodes }) => `${path} ${id}: ${nodes[0]?.html}`)).toEqual([])
		const wide = await page.evaluate(() => {
			const main = document.getElementById('main')
			const within = main ? main.scrollWidth - main.clientWidth : 0
			return Math.max(within, document.documentElement.scrollWidth - window.innerWidth)
		})
		expect(wide, `${path} is wider than the window`).toBeLessThanOrEqual(0)
	}
})

test('a request under another name or from another origin is turned away', async ({ request, tally }) => {
	const foreign = await request.post(`${tally.url}/api/bring-in`, {
		headers: { origin: 'http://elsewhere.example' },
		multipart: { file: { name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2') } },
	})
	expect(foreign.status()).toBe(403)
	const rebound = await request.get(`${tally.url}/`, { headers: { host: 'rebound.example' } })
	expect(rebound.status()).toBe(403)
})
