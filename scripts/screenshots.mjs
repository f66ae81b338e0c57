// npm run screenshots: one picture of each main view, from fresh demo data, into docs/screenshots.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inRoot, root, setUp } from './setup.mjs'

const freePort = () =>
	new Promise((done) => {
		const probe = createServer().listen(0, '127.0.0.1', () => {
			const { port } = probe.address()
			probe.close(() => done(port))
		})
	})

await setUp()
const { chromium } = await import('@playwright/test')
const data = mkdtempSync(join(tmpdir(), 'north-tally-shots-'))
const port = await freePort()
const tally = spawn(process.execPath, [inRoot('scripts/start.mjs'), '--demo'], {
	cwd: root,
	env: { ...process.env, PORT: String(port), NORTH_TALLY_SMTP_PORT: String(await freePort()), NORTH_TALLY_DATA: data },
	stdio: ['ignore', 'pipe', 'inherit'],
})
await new Promise((done, fail) => {
	tally.stdout.on('data', (chunk) => String(chunk).includes('North Tally is open') && done())
	tally.on('exit', () => fail(new Error('North Tally did not start')))
})
const browser = await chromium.launch({
	executablePath: '/usr/bin/chromium',
	args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: `http://127.0.0.1:${port}` })
page.setDefaultTimeout(40_000)
const shot = async (name) => {
	await page.waitForTimeout(900)
	await page.screenshot({ path: inRoot('docs/screenshots', `${name}.png`) })
	console.log(name)
}
const view = async (path, name) => {
	await page.goto(path)
	await shot(name)
}
const button = (name) => page.getByRole('button', { name })

await page.goto('/bring-in')
await page.getByLabel('File to bring in').setInputFiles(inRoot('demo/orders-2026-10.csv'))
await page.waitForURL(/bring-in\/\d+/)
await shot('bring-in')
await button(/^Accept/).click()
await page.getByText(/were added/).waitFor()
await view('/to-bill', 'to-bill')
await view('/', 'desk')
await page.goto('/to-bill')
await button(/^Start a run/).click()
await button(/^Gather/).click()
await button(/^Number \d+/).waitFor()
for (const key of ['j', 'j', 'j', 'j', 'j', 'j']) await page.keyboard.press(key)
await page.waitForTimeout(800)
await shot('bench')
await page.keyboard.press('w')
await shot('bench-working')
// An invoice with a history: its price changed, a line divided off.
await page.getByLabel('Filter').fill('Holm Sound')
await page.keyboard.press('Escape')
await page.getByRole('listbox').getByRole('option').first().click()
await button(/^Change/).click()
await page
	.getByLabel(/^Price of order/)
	.first()
	.fill('139.50')
await page.getByLabel('Why').fill('Agreed by phone with their yard master')
await button('Compute and keep').click()
await page.getByRole('dialog').waitFor({ state: 'detached' })
await button(/^Divide/).click()
await page.getByRole('checkbox').nth(1).check()
await page.getByLabel('Why').fill('The second pier is billed apart')
await page.getByRole('dialog').getByRole('button', { name: 'Divide it' }).click()
await page.getByRole('dialog').waitFor({ state: 'detached' })
await page.getByLabel('Filter').fill('')
await button(/^Number \d+/).click()
await button(/^Make \d+/).click()
await button(/^Send \d+/).click()
await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
await button(/^Note \d+/).waitFor({ timeout: 90_000 })
await page.keyboard.press('w')
await shot('bench-sent')
const bench = page.url().split('?')[0]
await page.getByLabel('Filter').fill('Holm Sound')
await page.getByRole('listbox').getByRole('option').first().click()
await page.keyboard.press('o')
await page.waitForURL(/documents\/\d+/)
const invoice = page.url()
await button('Credit').click()
for (const [place, field] of (await page.getByLabel(/^Quantity to credit/).all()).entries())
	if (place > 0) await field.fill('0')
await page.getByLabel('Why').fill('The skipper was not needed')
await button('Draft the credit note').click()
await page.waitForURL(/runs\/\d+/)
await button('Number 1 credit note').click()
await button('Make 1 PDF').waitFor()
await page.goto(invoice)
await page.getByRole('tab', { name: 'History' }).click()
await shot('history')
await page.goto(bench)
await view('/postroom', 'postroom')
await view('/sent-log', 'sent-log')
await page.getByRole('table').getByRole('link').first().click()
await page.waitForURL(/sent-log\/\d+/)
await page.getByRole('link', { name: 'As it arrived at the practice server' }).click()
await page.waitForURL(/practice-mail\/\d+/)
await shot('practice-mail')
await page.goto('/bring-in')
await page.getByLabel('File to bring in').setInputFiles(inRoot('demo/open-items-2026-10-31.csv'))
await page.waitForURL(/bring-in\/\d+/)
await shot('extract')
await button(/^Accept/).click()
await page.getByText(/As of 2026-10-31/).waitFor()
await view('/accounts', 'accounts')
await view('/accounts/4', 'account')
await page.goto('/accounts')
await page.waitForTimeout(800)
await page.keyboard.press('g')
await button('Gather the statements').click()
await button(/^Number \d+ statements/).waitFor()
await page.getByLabel('Filter').fill('Baltray')
await page.keyboard.press('Escape')
await page.getByRole('listbox').getByRole('option').first().click()
await page.getByRole('tab', { name: 'why' }).click()
await page.getByLabel('Filter').fill('')
await shot('statements')
await button(/^Number \d+ statements/).click()
await button(/^Make \d+/).click()
await button(/^Send \d+/).waitFor({ timeout: 90_000 })
await page.keyboard.press('o')
await page.waitForURL(/documents\/\d+/)
await page.waitForTimeout(1200)
await shot('statement')
await view('/items', 'items-and-rates')
await view('/letters?kind=past-due-2', 'letters')
await view('/registers', 'number-registers')
await view('/company', 'company')
await browser.close()
const ended = new Promise((done) => tally.once('exit', done))
tally.kill('SIGINT')
await ended
rmSync(data, { recursive: true, force: true })
