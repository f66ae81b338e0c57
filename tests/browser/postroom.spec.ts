import { expect, type Page } from '@playwright/test'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const orders = (...rows: string[]) => ({
	name: 'late-orders.csv',
	mimeType: 'text/csv',
	buffer: Buffer.from(['Order No;Date;Account;Qty;Price each;Item', ...rows, ''].join('\r\n')),
})

/** Brings orders in, and takes them to made invoices. */
async function makeRun(page: Page, ...rows: string[]) {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(orders(...rows))
	await button(page, /^Accept \d+/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await button(page, /^Gather/).click()
	await button(page, /^Number \d+/).click()
	await button(page, /^Make \d+/).click()
	await expect(button(page, /^Send \d+/)).toBeVisible()
	return page.url().split('?')[0] ?? ''
}

test('a refused message waits in the Postroom with the server’s words, and goes after the address is put right', async ({
	page,
}) => {
	await page.goto('/accounts?show=Gannet')
	await page.getByRole('link', { name: 'Gannet Rib Tours' }).click()
	await page.getByLabel('Email for invoices').fill('refuse@gann.example')
	await button(page, 'Save the customer').click()
	await expect(page.getByText('Saved. Documents from here on carry it')).toBeVisible()

	const run = await makeRun(
		page,
		'7001;21/10/2026;GANN01;2;88,50;MARK-12',
		'7002;22/10/2026;MIDY01;1;12,00;ALM-27',
		'7003;22/10/2026;LUNN01;4;6,20;SHK-B16',
	)
	await button(page, /^Send 2/).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect(button(page, 'Decide on 1 in the Postroom')).toBeVisible()
	await expect(page.getByRole('option').filter({ hasText: 'Lunna' }).getByTitle('sent', { exact: true })).toBeVisible()
	const lunna = page.getByRole('option').filter({ hasText: 'Lunna' }).locator('.figures').first()
	const number = (await lunna.textContent()) ?? ''
	await button(page, 'Decide on 1 in the Postroom').click()
	await page.waitForURL('**/postroom')
	const refused = page.getByRole('table', { name: 'Messages' }).getByRole('row').filter({ hasText: 'Gannet' })
	await expect(refused).toContainText('550 No such mailbox: refuse@gann.example')

	await test.step('a customer without an address is listed to print, with the PDF', async () => {
		const print = page
			.getByRole('table', { name: 'Documents to print' })
			.getByRole('row')
			.filter({ hasText: 'Midyell' })
		const pdf = await page.request.get((await print.getByRole('link', { name: /\.pdf$/ }).getAttribute('href')) ?? '')
		expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
		await print.getByRole('button', { name: 'Printed and posted' }).click()
		await expect(print).toHaveCount(0)
	})

	await test.step('sent again, the log has both attempts, and nothing went twice', async () => {
		await refused.getByRole('checkbox').check()
		await button(page, 'Send now').click()
		await expect(page.getByText('1 to be sent again.')).toBeVisible()
		// It goes by itself, and is refused again.
		await expect(async () => {
			await page.goto('/sent-log?show=Gannet')
			await expect(page.getByRole('row').filter({ hasText: 'refuse@gann.example' })).toHaveCount(2, { timeout: 1000 })
		}).toPass()
		await page.goto(run)
		await expect(button(page, 'Decide on 1 in the Postroom')).toBeVisible()
		await page.goto(`/sent-log?show=${number}`)
		await expect(page.getByRole('row').filter({ hasText: number })).toHaveCount(1)
		await expect(page.getByRole('row').filter({ hasText: number })).toContainText('Lunna')
	})
})

test('what is done bears the name of who is at the desk', async ({ page }) => {
	await page.goto('/')
	await button(page, /At the desk: Wren/).click()
	await page.getByLabel('Another name').fill('Tam')
	await button(page, 'Sit down').click()
	await expect(button(page, /At the desk: Tam/)).toBeVisible()
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(orders('7101;21/10/2026;LUNN01;1;5,00;THM-16'))
	await button(page, /^Accept 1/).click()
	await expect(page.getByText(/Accepted .* by Tam/)).toBeVisible()
	await page.goto('/')
	await expect(page.getByRole('listitem').filter({ hasText: 'accepted the file' }).first()).toContainText('Tam')
	await button(page, /At the desk: Tam/).click()
	await page.getByRole('dialog').getByRole('button', { name: 'Wren' }).click()
	await expect(button(page, /At the desk: Wren/)).toBeVisible()
})
