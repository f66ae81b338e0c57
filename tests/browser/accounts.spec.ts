import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { parse } from 'csv-parse/sync'
import { setWorkDate, test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const cells = (page: Page) => page.getByRole('table', { name: 'Accounts' }).locator('tbody tr')

test('who owes what is sorted, filtered and exported as it is shown, and each figure leads to its items', async ({
	page,
}) => {
	await page.goto('/accounts')
	await expect(page.getByText('At the end of each month')).toBeVisible()
	await page.getByRole('link', { name: /^balance/ }).click()
	await page.getByRole('link', { name: /^balance ↑/ }).click()
	await expect(page.getByRole('columnheader', { name: /balance/ })).toHaveAttribute('aria-sort', 'descending')
	await page.getByRole('link', { name: 'past due', exact: true }).first().click()
	const first = (await cells(page).first().getByRole('link').first().textContent()) ?? ''
	const download = page.waitForEvent('download')
	await page.getByRole('link', { name: 'CSV' }).click()
	const rows: string[][] = parse(readFileSync(await (await download).path(), 'utf8'), { bom: true })
	expect(rows[1]?.[1]).toBe(first)
	expect(rows.length - 1).toBe(await cells(page).count())
	const sheet = page.waitForEvent('download')
	await page.getByRole('link', { name: 'XLSX' }).click()
	expect(
		readFileSync(await (await sheet).path())
			.subarray(0, 2)
			.toString(),
	).toBe('PK')
	const figure = cells(page).first().getByRole('link').nth(1)
	const amount = (await figure.textContent()) ?? ''
	await figure.click()
	await expect(page.getByText(/^Only .*: \d+ of \d+\./)).toBeVisible()
	await expect(page.getByText(amount).first()).toBeVisible()
	await page.getByRole('link', { name: 'Show all' }).click()
	await expect(page.getByText(/^Only /)).toHaveCount(0)

	await page.goto('/accounts')
	const sum = page.getByRole('table', { name: 'Accounts' }).locator('tfoot tr').filter({ hasText: 'GBP' })
	const together = (await sum.getByRole('link').last().textContent()) ?? ''
	await sum.getByRole('link').last().click()
	await expect(page.getByRole('heading', { name: 'Open items in GBP' })).toBeVisible()
	await expect(page.getByText(`as of 31 Oct 2026, ${together} together`)).toBeVisible()
	await page.getByRole('link', { name: /^past due/ }).click()
	await expect(page.getByRole('heading', { name: 'Open items in GBP: past due' })).toBeVisible()
	const items = page.waitForEvent('download')
	await page.getByRole('link', { name: 'CSV' }).click()
	const late: string[][] = parse(readFileSync(await (await items).path(), 'utf8'), { bom: true })
	const pence = late.slice(1).reduce((all, row) => all + Math.round(Number(row[9]) * 100), 0)
	await expect(page.getByText(`${(pence / 100).toLocaleString('en-GB')} together`)).toBeVisible()
	await page.goto('/accounts')
	await page.getByRole('link', { name: 'Open items, over 90' }).press('Enter')
	await expect(page.getByRole('heading', { name: 'Open items in GBP: over 90' })).toBeVisible()
	await page.goto('/accounts')
	await page.locator('.recharts-bar-rectangle').nth(1).click()
	await expect(page.getByRole('heading', { name: 'Open items in GBP: 1-30' })).toBeVisible()
})

test('an item is disputed, a payment taken back and applied elsewhere, a rest written off, each with its line in the history', async ({
	page,
}) => {
	await page.goto('/accounts?show=Dunmarrow')
	await page.getByRole('link', { name: 'Dunmarrow Harbour Trust' }).click()
	const items = page.getByRole('table', { name: 'Open items in GBP' })
	const late = items.locator('tbody tr').filter({ hasText: 'past due' }).first()
	const number = (await late.locator('td').first().textContent()) ?? ''
	const oldest = items
		.locator('tbody tr')
		.filter({ has: page.getByText(number, { exact: true }) })
		.first()

	await test.step('a dispute keeps it out of what is past due until it is ended', async () => {
		await oldest.getByRole('button', { name: 'Dispute' }).click()
		await page.getByLabel('What it is about').fill('Came wet')
		await button(page, 'Note the dispute').click()
		await expect(oldest).toContainText('disputed since 31 Oct 2026: Came wet')
		await oldest.getByRole('button', { name: 'End the dispute' }).click()
		await expect(oldest).toContainText('past due')
	})

	await test.step('a payment names it, is taken back, and is applied to another', async () => {
		await button(page, 'Enter a payment').click()
		await page.getByLabel('Amount').fill('10.00')
		await page.getByLabel('Reference').fill(`BACS ${number}`)
		await button(page, 'Enter the payment').click()
		const history = page.getByRole('table', { name: 'History in GBP' })
		const applied = history.getByRole('row').filter({ hasText: `BACS ${number} applied to ${number}` })
		await expect(applied).toContainText('named in the reference')
		await applied.getByRole('button', { name: 'Take it back' }).click()
		await expect(history.getByRole('row').filter({ hasText: 'no longer applied' })).toBeVisible()
		const credit = items.getByRole('row').filter({ hasText: `BACS ${number}` })
		await expect(credit).toContainText('−10.00')
		await credit.getByRole('button', { name: 'Apply' }).click()
		await page.getByRole('dialog').getByRole('checkbox').nth(1).check()
		await button(page, 'Apply it').click()
		await expect(credit).toHaveCount(0)
	})

	await test.step('what is left of it is written off with a reason', async () => {
		await oldest.getByRole('button', { name: 'Write off' }).click()
		await page.getByLabel('Why').fill('Too old to chase')
		await button(page, 'Write it off').click()
		await expect(items.getByRole('row').filter({ hasText: number })).toHaveCount(0)
		await expect(page.getByRole('table', { name: 'History in GBP' })).toContainText('Too old to chase')
	})
})

test('a promised payment that does not come is back on the Desk when its day has passed', async ({ page }) => {
	await page.goto('/accounts?show=Lunna')
	await cells(page).first().getByRole('link').first().click()
	await button(page, 'Note a promise').click()
	await page.getByRole('dialog').getByLabel('For').fill('5 Nov 2026')
	await page.getByRole('dialog').getByLabel('Amount').fill('50.00')
	await page.getByRole('dialog').getByLabel('Who said so, and how').fill('Ina, by telephone')
	await button(page, 'Note the promise').click()
	await expect(page.getByText('promised for 5 Nov 2026')).toBeVisible()
	await expect(page.getByText('awaited')).toBeVisible()
	await button(page, 'Leave in peace').click()
	await page.getByRole('dialog').getByLabel('Until').fill('20 Nov 2026')
	await page.getByRole('dialog').getByLabel('Why').fill('Flood in the yard')
	await button(page, 'Leave them in peace').click()
	await expect(page.getByText('left in peace until 20 Nov 2026')).toBeVisible()
	const account = page.url()
	await setWorkDate(page, '6 Nov 2026')
	await page.goto('/')
	await expect(page.getByText(/promised by Lunna.* for 5 Nov 2026 has not come/)).toBeVisible()
	await page.goto(account)
	await page.waitForLoadState('networkidle')
	await button(page, 'It did not').click()
	await expect(page.getByText('not kept', { exact: true })).toBeVisible()
	await page.goto('/')
	await expect(page.getByText(/has not come/)).toHaveCount(0)
})
