// npm run screenshots: one picture of each main view, from fresh demo data, into docs/screenshots.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { browserOptions, inRoot, root, setUp } from './setup.mjs'

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
process.on('exit', () => tally.kill('SIGINT'))
const browser = await chromium.launch(browserOptions())
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

const bring = async (name) => {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(inRoot('demo', name))
	await page.waitForURL(/bring-in\/\d+/)
	await page.getByRole('heading', { name: 'As understood' }).waitFor()
}
/** Marks the first page of a text report of the demo, and goes to a page that something does not fit on. */
async function reportMarked() {
	await page.getByLabel('File to bring in').setInputFiles(inRoot('demo', 'samples/tarn-billing.txt'))
	await page.getByRole('link', { name: 'Mark what is what' }).click()
	const paper = page.getByRole('textbox', { name: /^Page 1/ })
	await paper.waitFor()
	const letter = await paper.evaluate((one) => (one.firstElementChild?.getBoundingClientRect().width ?? 0) / 100)
	const drag = async (line, from, toLine, to) => {
		const box = await paper.boundingBox()
		await page.mouse.move(box.x + from * letter + 0.3, box.y + line * 18 + 9)
		await page.mouse.down()
		await page.mouse.move(box.x + to * letter, box.y + toLine * 18 + 9, { steps: 3 })
		await page.mouse.up()
	}
	const say = async (field) => {
		await page.keyboard.press('f')
		await page.getByPlaceholder('Part of a field').fill(field)
		await page.keyboard.press('Enter')
		await page.getByRole('dialog').waitFor({ state: 'detached' })
	}
	await drag(0, 0, 1, 85)
	await page.keyboard.press('x')
	await drag(3, 0, 3, 6)
	await page.keyboard.press('b')
	for (const [field, line, from, toLine, to] of [
		['Order number', 3, 7, 3, 14],
		['Order date', 3, 36, 3, 44],
		['Customer number', 3, 60, 3, 66],
		['Deliver to', 4, 10, 6, 30],
	]) {
		await drag(line, from, toLine, to)
		await say(field)
	}
	await drag(9, 0, 13, 82)
	await page.keyboard.press('r')
	await drag(16, 74, 16, 82)
	await say('Order total')
	await page.keyboard.press('n')
	await page.getByText('16 of 40').waitFor()
	await shot('report')
	await page.keyboard.press('g')
	await button(/^Accept/).waitFor()
	await button('Leave it out').click()
	await page.waitForURL(/bring-in$/)
}

/** Two at one draft: what one typed, and what the other kept meanwhile, side by side. */
async function twoClerks() {
	const other = await (
		await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: `http://127.0.0.1:${port}` })
	).newPage()
	await page.keyboard.press('e')
	await page
		.getByLabel(/^Price of/)
		.first()
		.fill('11.00')
	await page.getByLabel('Why').fill('as agreed')
	await other.goto(page.url())
	await other
		.getByRole('img', { name: /page 1 of/ })
		.first()
		.waitFor()
	await other.keyboard.press('e')
	await other
		.getByLabel(/^Price of/)
		.first()
		.fill('9.50')
	await other.getByLabel('Why').fill('they rang')
	await other.getByRole('button', { name: 'Compute and keep' }).click()
	await other.getByRole('dialog').waitFor({ state: 'detached' })
	await other.close()
	await button('Compute and keep').click()
	await page.getByRole('table', { name: 'What is different' }).waitFor()
	await shot('two-clerks')
	await page.keyboard.press('Escape')
	await page.reload()
}
/** Customers whose mailboxes the practice server does not know. */
async function refusing(...names) {
	for (const name of names) {
		await page.goto(`/accounts?all=1&show=${encodeURIComponent(name)}`)
		await page.getByRole('link', { name }).first().click()
		await page.getByLabel('Email for invoices').fill(`refuse-${name.slice(0, 4).toLowerCase()}@shore.example`)
		await button('Save the customer').click()
		await page.getByText('Saved. Documents from here on carry it').waitFor()
	}
}

await refusing('Gannet Rib Tours', 'Burravoe Workboats', 'Calder Mussel Growers')
await bring('samples/auftraege.csv')
await shot('bring-in-questions')
await button('The day comes first').click()
await button('A share').click()
await page.getByRole('heading', { name: /rows refused/ }).waitFor()
await shot('bring-in')
await button('Leave it out').click()
await page.waitForURL(/bring-in$/)
await reportMarked()
await page.goto('/bring-in')
await bring('orders-2026-10.csv')
await button(/^Accept/).click()
await page.getByText(/were added/).waitFor()
await page.goto('/orders/new')
await page.getByRole('combobox', { name: 'Customer' }).fill('lunna')
await page.getByRole('option', { name: /Lunna/ }).waitFor()
await page.keyboard.press('Enter')
await page.getByLabel('Their order').fill('PO-77')
for (const [line, item, quantity] of [
	[1, 'ROPE-24', '60'],
	[2, 'FND-W', '3'],
]) {
	await page.getByRole('combobox', { name: `Item of line ${line}` }).fill(item)
	await page.getByRole('option', { name: new RegExp(item) }).waitFor()
	await page.keyboard.press('Enter')
	await page.getByLabel(`Quantity of line ${line}`).fill(quantity)
}
await page.getByLabel('Freight').fill('12.50')
await page.getByRole('combobox', { name: 'Item of line 3' }).fill('buoy')
await page.getByRole('option', { name: /BUOY-40/ }).waitFor()
await shot('order-form')
await view('/', 'desk')
await page.goto('/to-bill')
await button(/^Start a run/).click()
await button(/^Gather/).click()
await button(/^Number \d+/).waitFor()
for (const key of ['j', 'j', 'j', 'j', 'j', 'j']) await page.keyboard.press(key)
await page.waitForTimeout(800)
await page
	.getByRole('img', { name: /page 1 of/ })
	.first()
	.waitFor()
await shot('bench')
await page.keyboard.press('p')
await page.waitForTimeout(1200)
await shot('bench-working')
await page.keyboard.press('p')
await twoClerks()
await button(/^Number \d+/).click()
await button(/^Make \d+/).click()
await button(/^Send \d+/).click()
await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
await button(/^(Note|Decide on) \d+/).waitFor({ timeout: 90_000 })
await page.goto('/postroom')
await page.getByLabel('Choose all that are listed').check()
await shot('postroom')
await view('/sent-log', 'sent-log')
await bring('open-items-2026-10-31.csv')
await page.getByRole('heading', { name: 'The ledger before and after' }).scrollIntoViewIfNeeded()
await page.mouse.move(700, 500)
await page.mouse.wheel(0, 560)
await shot('extract')
await page.getByLabel('Why it is right all the same').fill('HOLL09 is asked about')
await button('Keep this reason').click()
await button(/^Accept/).click()
await page.getByText(/As of 2026-10-31/).waitFor()
await view('/accounts', 'accounts')
await page.goto('/accounts/4')
const pay = async (amount, reference, to) => {
	await button(/^Enter a payment/).click()
	await page.getByLabel('Amount').fill(amount)
	await page.getByLabel('Reference').fill(reference)
	await page.getByLabel('Where no item is chosen below').selectOption(to)
	await button('Enter the payment').click()
	await page.getByRole('dialog').waitFor({ state: 'detached' })
	await page
		.getByRole('table', { name: /^History/ })
		.getByText(reference, { exact: true })
		.waitFor()
}
await pay('120.00', 'BACS 4471', 'oldest')
await button('Came back').first().click()
await page.getByLabel(/^Charge for it/).fill('12.00')
await page.getByRole('dialog').getByLabel('Why').fill('no funds')
await button('It came back').click()
await page.getByRole('dialog').waitFor({ state: 'detached' })
await pay('45.00', 'BACS 4502', 'nothing')
await button('Refund').first().click()
await page.getByRole('dialog').getByLabel('Why').fill('paid twice')
await button('Enter the refund').click()
await page.getByRole('dialog').waitFor({ state: 'detached' })
await page
	.getByRole('table', { name: /^History/ })
	.getByText('refund', { exact: true })
	.waitFor()
await page
	.getByRole('heading', { name: /^What happened in/ })
	.evaluate((one) => one.scrollIntoView({ block: 'center' }))
await shot('account')
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
await page.goto('/letters?kind=past-due-1')
await button('Save the stages').scrollIntoViewIfNeeded()
await shot('letters')
await view('/papers', 'kinds')
await view('/papers/records/1', 'record')
await page.goto('/layouts')
await page.getByRole('link', { name: 'Margin, invoice' }).click()
await page.getByRole('img', { name: /^Page 1 of/ }).waitFor()
await page.getByRole('button', { name: 'Hardest' }).click()
await page
	.getByRole('dialog')
	.getByRole('button', { name: /most orders|most lines/ })
	.first()
	.click()
await page
	.getByRole('navigation', { name: 'Pieces' })
	.getByRole('button', { name: /^Lines/ })
	.first()
	.click()
await page.waitForTimeout(1200)
await shot('layout')
await page.goto('/layouts')
await page.getByRole('link', { name: 'Old invoice form', exact: true }).click()
await page.getByRole('img', { name: /^Page 1 of/ }).waitFor()
for (let place = 0; place < 9; place++) await page.keyboard.press('Enter')
await page.waitForTimeout(1500)
await shot('mapping')
await browser.close()
const ended = new Promise((done) => tally.once('exit', done))
tally.kill('SIGINT')
await ended
rmSync(data, { recursive: true, force: true })
