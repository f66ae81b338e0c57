import { expect, type Page } from '@playwright/test'
import { openPracticePost } from '@/post/practiceMail'
import { png, pngWith } from '../pngs'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })

/** Brings orders in and gathers them; gives the address of their run. */
async function gathered(page: Page, rows: string[]): Promise<string> {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles({
		name: `late-${rows[0]?.slice(0, 4)}.csv`,
		mimeType: 'text/csv',
		buffer: Buffer.from(['Order No;Date;Account;Qty;Price each;Item', ...rows, ''].join('\r\n')),
	})
	await button(page, /^Accept \d+/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	await page.goto(`/to-bill?show=late-${rows[0]?.slice(0, 4)}`)
	await button(page, 'Start a run').click()
	await page.getByLabel(/Gather only the/).check()
	await button(page, /^Gather \d+ orders/).click()
	await expect(button(page, /^Number \d+/)).toBeVisible()
	return new URL(page.url()).pathname
}

test('two clerks on one draft: the later hears what the earlier did, keeps what was typed, and numbers what was seen', async ({
	page,
	browser,
	baseURL,
}) => {
	const run = await gathered(page, ['7301;21/10/2026;LUNN01;2;10,00;THM-16', '7302;21/10/2026;GANN01;3;12,00;ALM-27'])
	const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
	const openChange = async (of: Page) => {
		await of.goto(run)
		await of.getByRole('option').filter({ hasText: 'Lunna' }).click()
		await button(of, /^Change/).click()
		await expect(of.getByRole('dialog')).toContainText('Change the invoice to Lunna')
	}
	await openChange(page)
	await page.getByLabel(/^Price of/).fill('11.00')
	await page.getByLabel('Send to').fill('counter@lunna.example')
	await page.getByLabel('Why').fill('as agreed')
	await openChange(other)
	await other.getByLabel(/^Price of/).fill('9.50')
	await other.getByLabel(/^Quantity of/).fill('4')
	await other.getByLabel('Why').fill('they rang')
	await button(other, 'Compute and keep').click()
	await expect(other.getByRole('dialog')).toHaveCount(0)

	await button(page, 'Compute and keep').click()
	const dialog = page.getByRole('dialog')
	await expect(dialog.getByRole('alert')).toContainText('It changed since you opened it: Wren changed')
	const both = dialog.getByRole('table', { name: 'What is different' })
	await expect(both.getByRole('row').filter({ hasText: 'price of line 1' })).toContainText(/10\.00.*11\.00.*9\.50/)
	await expect(both.getByRole('row').filter({ hasText: 'quantity of line 1' })).toContainText(/2.*2.*4/)
	// What was typed stays; what was left alone follows.
	await expect(dialog.getByLabel(/^Price of/)).toHaveValue('11.00')
	await expect(dialog.getByLabel(/^Quantity of/)).toHaveValue('4')
	await expect(dialog.getByLabel('Why')).toHaveValue('as agreed')
	await button(page, 'Keep mine over theirs').click()
	await expect(dialog).toHaveCount(0)
	await expect(page.getByRole('option').filter({ hasText: 'Lunna' })).toContainText('44.00')

	await test.step('a draft that changed since is named and asked about before it is numbered', async () => {
		await openChange(other)
		await other.getByLabel(/^Price of/).fill('8.00')
		await other.getByLabel('Why').fill('once more')
		await button(other, 'Compute and keep').click()
		await expect(other.getByRole('dialog')).toHaveCount(0)
		// What it did itself it has in view by now.
		await expect(other.getByRole('option').filter({ hasText: 'Lunna' })).toContainText('32.00')
		await button(page, /^Change/).click()
		await page.getByLabel('Why').fill('typed while it is numbered')
		await page.getByLabel(/^Price of/).fill('7.00')
		await button(other, /^Number 2/).click()
		await expect(button(other, /^Make 2/)).toBeVisible()
		await button(page, 'Compute and keep').click()
		await expect(dialog.getByRole('alert')).toContainText('It was numbered meanwhile')
		await expect(dialog.getByLabel(/^Price of/)).toHaveValue('7.00')
		await page.keyboard.press('Escape')
	})
	await other.context().close()
})

test('where the web goes away in the middle of an act, what was typed stays and the page says so', async ({ page }) => {
	await gathered(page, ['7331;21/10/2026;LUNN01;2;10,00;THM-16', '7332;21/10/2026;GANN01;3;12,00;ALM-27'])
	await page.getByRole('option').filter({ hasText: 'Lunna' }).click()
	await button(page, /^Change/).click()
	const dialog = page.getByRole('dialog')
	await dialog.getByLabel(/^Price of/).fill('11.00')
	await dialog.getByLabel('Why').fill('as agreed')
	await page.route('**/runs/**', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()))
	await button(page, 'Compute and keep').click()
	await expect(dialog.getByRole('alert')).toContainText('No answer came')
	await expect(dialog.getByLabel(/^Price of/)).toHaveValue('11.00')
	await page.unroute('**/runs/**')
	await button(page, 'Compute and keep').click()
	await expect(dialog).toHaveCount(0)
	await expect(page.getByRole('option').filter({ hasText: 'Lunna' })).toContainText('22.00')
})

test('numbering counts on what was in view: it asks where another changed a draft since', async ({
	page,
	browser,
	baseURL,
}) => {
	await gathered(page, ['7311;21/10/2026;LUNN01;2;10,00;THM-16', '7312;21/10/2026;GANN01;3;12,00;ALM-27'])
	const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage()
	await page.getByRole('option').filter({ hasText: 'Lunna' }).click()
	// The address of a chosen draft leads another to it.
	await expect(async () => {
		await other.goto(page.url())
		const chosen = other.getByRole('listbox').getByRole('option', { selected: true })
		await expect(chosen).toContainText('Lunna', { timeout: 2000 })
	}).toPass()
	await other.keyboard.press('h')
	await other.getByLabel('Why').fill('wait')
	await button(other, 'Hold it back').click()
	await expect(other.getByRole('option').filter({ hasText: 'held: wait' })).toBeVisible()
	await other.keyboard.press('h')
	await expect(other.getByRole('option').filter({ hasText: 'held: wait' })).toHaveCount(0)
	await button(page, /^Number 2/).click()
	const dialog = page.getByRole('dialog')
	await expect(dialog).toContainText('Number them as they are now?')
	await expect(dialog).toContainText(/Lunna.*Wren released/)
	await dialog.getByRole('button', { name: /^Number 2/ }).click()
	await expect(button(page, /^Make 2/)).toBeVisible()
	await other.context().close()
})

test('a line is added and another taken off in Change; the tally ties, and what was taken off waits', async ({
	page,
}) => {
	await gathered(page, ['7321;21/10/2026;LUNN01;2;10,00;THM-16', '7321;21/10/2026;LUNN01;3;12,00;ALM-27'])
	const dialog = page.getByRole('dialog')
	await expect(page.getByRole('complementary').getByRole('img').first()).toBeVisible()
	await button(page, /^Change/).click()
	await expect(dialog).toContainText('Change the invoice to Lunna')
	await dialog.getByLabel('Take off order 7321, line 2').check()
	await button(page, 'Add a line').click()
	await dialog.getByLabel('Item of added line 1').fill('THM-16')
	await dialog.getByLabel('Quantity of added line 1').fill('5')
	await dialog.getByLabel('Price of added line 1').fill('1.00')
	await dialog.getByLabel('Why').fill('as they rang')
	await button(page, 'Compute and keep').click()
	await expect(dialog).toHaveCount(0)
	const list = page.getByRole('listbox')
	await expect(list.getByRole('option')).toHaveCount(2)
	await expect(list.getByRole('option').filter({ hasText: 'held' })).toContainText('36.00')
	await expect(list.getByRole('option').filter({ hasNotText: 'held' })).toContainText('25.00')
	await expect(page.getByText('The drafts are out of what was gathered')).toHaveCount(0)
	await expect(button(page, /^Number 1 invoice/)).toBeVisible()
})

test('many in the Postroom: all that were refused go to another address in one act, and by themselves', async ({
	page,
}) => {
	await page.goto('/accounts?show=Gannet')
	await page.getByRole('link', { name: 'Gannet Rib Tours' }).click()
	await page.getByLabel('Email for invoices').fill('refuse@gann.example')
	await button(page, 'Save the customer').click()
	await expect(page.getByText('Saved. Documents from here on carry it')).toBeVisible()
	await gathered(
		page,
		Array.from({ length: 6 }, (_, place) => `74${10 + place};21/10/2026;GANN01;${place + 1};12,00;ALM-27`),
	)
	await button(page, /^Number 6/).click()
	await button(page, /^Make 6/).click()
	await button(page, /^Send 6/).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect(button(page, 'Decide on 6 in the Postroom')).toBeVisible()
	await page.goto('/postroom?show=refuse&state=refused')
	await page.getByLabel('Choose all that are listed').check()
	await expect(page.getByText('6 chosen')).toBeVisible()
	await button(page, 'To another address: 6').click()
	await page.getByRole('dialog').getByLabel('Address').fill('office@gann.example')
	await button(page, 'Send there').click()
	await expect(page.getByText('6 sent to another address.')).toBeVisible()
	await expect(async () => {
		await page.goto('/sent-log?show=office@gann.example')
		await expect(page.getByRole('row').filter({ hasText: 'office@gann.example' })).toHaveCount(6, { timeout: 1000 })
	}).toPass()
})

test('twenty tabs of runs in one browser, and each still answers', async ({ page, context }) => {
	await page.goto('/runs')
	const path =
		(await page
			.getByRole('link', { name: /^Run \d+/ })
			.first()
			.getAttribute('href')) ?? ''
	const tabs = await Promise.all(Array.from({ length: 20 }, () => context.newPage()))
	for (const tab of tabs) await tab.goto(path)
	// Where lines are held open, the seventh tab never hears.
	for (const tab of tabs) expect(await tab.evaluate(async () => (await fetch('/api/alive')).status)).toBe(200)
	for (const tab of tabs) await tab.close()
})

test('the paper is made wide by a key, drawn by arrows, and the width stays', async ({ page }) => {
	await page.goto('/runs')
	await page
		.getByRole('link', { name: /^Run \d+, invoice/ })
		.first()
		.click()
	const list = page.getByRole('listbox')
	const paper = page.getByRole('complementary', { name: 'The selected document' })
	await expect(paper.getByRole('img').first()).toBeVisible()
	const before = (await paper.boundingBox())?.width ?? 0
	await page.keyboard.press('p')
	await expect(list).toHaveCount(0)
	expect((await paper.boundingBox())?.width ?? 0).toBeGreaterThan(before * 2)
	await page.keyboard.press('p')
	await expect(list).toBeVisible()
	const rule = page.getByRole('separator', { name: 'Width of the paper' })
	await rule.focus()
	for (let times = 0; times < 3; times++) await page.keyboard.press('ArrowLeft')
	const wider = (await paper.boundingBox())?.width ?? 0
	expect(wider).toBeGreaterThan(before + 80)
	await page.reload()
	await expect.poll(async () => Math.abs(((await paper.boundingBox())?.width ?? 0) - wider) < 3).toBe(true)
	await rule.dblclick()
	await expect.poll(async () => Math.abs(((await paper.boundingBox())?.width ?? 0) - before) < 3).toBe(true)
})

test('every answer says what a browser may do with it; what a stranger made runs nowhere; odd requests are turned away', async ({
	page,
	request,
	tally,
}) => {
	await page.goto('/practice-mail')
	const paths = ['/', '/runs', '/api/alive', '/icon.svg', '/api/images/none', '/no-such-page', '/api/documents/1/pdf']
	for (const path of paths) {
		const { headers } = { headers: (await request.get(path)).headers() }
		expect([path, headers['x-content-type-options'], headers['referrer-policy']]).toEqual([
			path,
			'nosniff',
			'same-origin',
		])
		expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
		expect(headers['content-security-policy']).toContain("default-src 'none'")
		expect(headers['permissions-policy']).toContain('camera=()')
	}
	const [one, two] = await Promise.all([request.get('/'), request.get('/')])
	const nonce = (answer: typeof one) => /'nonce-([^']+)'/.exec(answer.headers()['content-security-policy'] ?? '')?.[1]
	expect(nonce(one)).not.toBe(nonce(two))
	expect(one.headers()['content-security-policy']).not.toContain("script-src 'self' 'unsafe-inline'")
	expect(await one.text()).toContain(`nonce="${nonce(one)}"`)

	const post = (headers: Record<string, string>) =>
		request.post('/api/bring-in', { headers, data: { name: 'x.csv', size: 3, changed: 1 } })
	for (const origin of ['null', 'https://elsewhere.example', 'nonsense'])
		expect([origin, (await post({ origin })).status()]).toEqual([origin, 403])
	expect((await request.get('/', { headers: { host: 'elsewhere.example' } })).status()).toBe(403)
	for (const path of ['/api/accounts/months?currency=ZZZ', '/api/accounts/items?currency=x%27'])
		expect([path, (await request.get(path)).status()]).toEqual([path, 400])
	for (const path of [
		'/accounts/items?currency=ZZZ',
		'/runs/99999999999999999999',
		'/practice-mail/x',
		'/documents/-1',
	])
		expect([path, (await request.get(path)).status()]).toEqual([path, 404])

	// A page that came by mail is saved, and shown it fetches nothing.
	const mail = openPracticePost(`${tally.data}/practice-mail`)
	const raw = [
		'From: a@b.example',
		'To: c@d.example',
		'Subject: Odd',
		'MIME-Version: 1.0',
		'Content-Type: multipart/mixed; boundary=x',
		'',
		'--x',
		'Content-Type: text/html',
		'',
		'<p>Hello<img src="/api/alive?seen"><script>parent.ran = 1</script></p>',
		'--x',
		'Content-Type: text/html; name=evil.html',
		'Content-Disposition: attachment; filename=evil.html',
		'',
		'<script>opener.ran = 1</script>',
		'--x--',
		'',
	].join('\r\n')
	const { lastInsertRowid } = mail
		.prepare(
			"INSERT INTO arrival (at, sender, recipient, subject, message_id, raw) VALUES ('2026-10-31T09:00:00.000Z', '', 'c@d.example', 'Odd', '<odd@x>', ?)",
		)
		.run(Buffer.from(raw))
	mail.close()
	const attached = await request.get(`/api/practice/${lastInsertRowid}/attachment?place=0`)
	expect(attached.headers()['content-disposition']).toMatch(/^attachment/)
	const fetched: string[] = []
	const watched = await page.context().newPage()
	// What the page's policy stops is asked for and never answered.
	watched.on('response', (answered) => fetched.push(answered.url()))
	await watched.goto(`/practice-mail/${lastInsertRowid}`)
	await expect(watched.frameLocator('iframe').getByText('Hello')).toBeVisible()
	await watched.waitForTimeout(500)
	expect(fetched.length).toBeGreaterThan(0)
	expect(fetched.filter((url) => url.includes('seen'))).toEqual([])
	expect(await watched.evaluate(() => 'ran' in window)).toBe(false)
	await watched.close()
})

test('a logo over its size is refused in words, and so is a picture for a layout', async ({ page, request }) => {
	await page.goto('/company')
	await page.getByLabel(/PNG, JPEG or SVG/).setInputFiles({
		...{ name: 'large.png', mimeType: 'image/png' },
		buffer: Buffer.concat([png(2, 2, [9, 9, 9]), Buffer.alloc(1_100_000)]),
	})
	await button(page, /logo/i).first().click()
	await expect(page.getByText('The logo is over 1 MB')).toBeVisible()
	const long = await request.post('/api/layouts/pictures', {
		headers: { 'content-type': 'image/png' },
		data: Buffer.concat([png(2, 2, [9, 9, 9]), Buffer.alloc(5_100_000)]),
	})
	expect([long.status(), await long.json()]).toEqual([400, { message: 'The file is over 5 MB. Make it smaller.' }])
	const wide = await request.post('/api/layouts/pictures', {
		headers: { 'content-type': 'image/png' },
		data: pngWith(20_000, 20_000, Buffer.alloc(10)),
	})
	expect([wide.status(), (await wide.json()).message]).toEqual([400, expect.stringContaining('20000 × 20000')])
})

test('a file of twelve megabytes comes in', async ({ page }) => {
	await page.goto('/bring-in')
	const long = 'x'.repeat(1900)
	const rows = Array.from({ length: 6500 }, (_, place) => `Z${place},2026-10-05,LUNN01,THM-16,${long},1,2.00`)
	await page.getByLabel('File to bring in').setInputFiles({
		name: 'long.csv',
		mimeType: 'text/csv',
		buffer: Buffer.from(['Order No,Order date,Cust. No,Item,Description,Qty,Unit price', ...rows, ''].join('\n')),
	})
	await expect(button(page, 'Accept 6,500 orders').or(button(page, 'Accept 6500 orders'))).toBeVisible()

	await test.step('and what a form sends, over ten, comes whole and is answered in words', async () => {
		await page.goto('/layouts')
		await button(page, /^New layout|^Begin a layout|^A new layout/)
			.first()
			.click()
		await page.getByLabel('Or bring one in from its file, a ZIP').setInputFiles({
			...{ name: 'layout.zip', mimeType: 'application/zip' },
			buffer: Buffer.alloc(12_000_000, 7),
		})
		await button(page, 'Bring it in').click()
		await expect(page.getByRole('dialog').getByRole('alert')).not.toContainText('No answer came')
		await expect(page.getByRole('dialog').getByRole('alert')).toContainText(/ZIP|layout/)
	})
})
