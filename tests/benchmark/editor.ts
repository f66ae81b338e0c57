// How soon the paper follows a change in the layouts' table, in a browser: npm run bench -- editor
import { rmSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { gather } from '@/runs/drafts/gather'
import { numberDocuments } from '@/runs/issue/number'
import { addRun } from '@/store/runs'
import { seatClerk } from '@/store/settings'
import { browserOptions } from '../../scripts/setup.mjs'
import { freePort, pause, startWeb } from '../faults/processes'
import { benchBooks, benchDesk } from './books'

const rounds = 30
const books = benchBooks(1000)
seatClerk(books, benchDesk)
const run = addRun(books, benchDesk, '2026-10-31', '2026-10-31')
gather(books, benchDesk, run, '2026-10-31')
numberDocuments(books, benchDesk, run, 1000)
const port = await freePort()
const web = startWeb(books.folder, port)
const page = `http://127.0.0.1:${port}/layouts/1`
for (let tries = 0; tries < 200; tries++) {
	try {
		if ((await fetch(page)).ok) break
	} catch {
		await pause(50)
	}
}
const browser = await chromium.launch(browserOptions())
const view = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await view.goto(page)
await view.getByRole('img', { name: /^Page 1 of/ }).waitFor()
await view
	.getByRole('button', { name: /^Totals/ })
	.first()
	.click()
await view.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
const times: number[] = []
for (let round = 0; round < rounds; round++) {
	// From the key that moves a piece to the new page in its place.
	times.push(
		await view.evaluate(
			(key) =>
				new Promise<number>((done) => {
					const from = performance.now()
					const place = document.querySelector('[aria-label^="Page 1"]')
					const seen = new MutationObserver(() => {
						seen.disconnect()
						done(performance.now() - from)
					})
					if (place) seen.observe(place, { childList: true })
					document.dispatchEvent(new KeyboardEvent('keydown', { key, altKey: true, bubbles: true }))
				}),
			round % 2 === 0 ? 'ArrowUp' : 'ArrowDown',
		),
	)
	await pause(900)
}
await browser.close()
await web.kill('SIGTERM')
times.sort((a, b) => a - b)
const share = (part: number) =>
	`${(times[Math.min(times.length - 1, Math.floor(times.length * part))] ?? 0).toFixed(0)} ms`
console.log(
	`A change of a one-page invoice is on the paper: 50% in ${share(0.5)}, 90% in ${share(0.9)}, ${rounds} changes, books of 1,000.`,
)
books.db.close()
rmSync(books.folder, { recursive: true, force: true })
