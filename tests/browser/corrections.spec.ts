import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { root, test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const row = (page: Page, name: string) => page.getByRole('option').filter({ hasText: name }).first()

/** Starts a run of the orders up to a day, with documents of a day, and numbers it; gives the bench's address. */
async function numbered(page: Page, upTo: string, dated: string): Promise<string> {
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await page.getByLabel('Orders up to and on').fill(upTo)
	await page.getByLabel('Date on the invoices').fill(dated)
	await button(page, /^Gather/).click()
	await page.waitForURL(/runs\/\d+/)
	await button(page, /^Number \d+/).click()
	await expect(button(page, /^Make \d+/)).toBeVisible()
	return page.url().split('?')[0] ?? ''
}

/** Opens the own page of a customer's first document of a run. */
async function open(page: Page, bench: string, name: string): Promise<string> {
	await page.goto(bench)
	await page.getByLabel('Filter').fill(name)
	await row(page, name).click()
	await page.keyboard.press('o')
	await page.waitForURL(/documents\/\d+/)
	return page.url()
}

test('a month of corrections: credited by parts, paid and made void, December after January, a closed month', async ({
	page,
	tally,
}) => {
	/** The books hold together, by the command. */
	const verified = () => {
		const { stdout, stderr, status } = spawnSync(
			process.execPath,
			[join(root, 'scripts/tally.mjs'), 'verify', '--data', tally.data],
			{ encoding: 'utf8' },
		)
		expect(status === 0 ? '' : stdout || stderr).toBe('')
	}

	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await button(page, /^Accept/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	const first = await numbered(page, '2026-10-08', '2026-10-08')
	verified()

	await test.step('an invoice is credited in two parts, the last to the penny', async () => {
		const invoice = await open(page, first, 'SK-')
		for (const part of ['some', 'the rest']) {
			await page.goto(invoice)
			await button(page, 'Credit').click()
			const quantity = page.getByLabel('Quantity to credit of line 1', { exact: true })
			if (part === 'some') await quantity.fill('1')
			await page.getByLabel('Why').fill(`${part} came back`)
			await button(page, 'Draft the credit note').click()
			await page.waitForURL(/runs\/\d+/)
			await button(page, 'Number 1 credit note').click()
			await expect(button(page, 'Make 1 PDF')).toBeVisible()
		}
		await page.goto(invoice)
		await expect(page.getByText(/^Credited by/)).toHaveCount(2)
		await expect(button(page, 'Credit')).toHaveCount(0)
		verified()
	})

	await test.step('a paid invoice is made void: the payment is unapplied, and the history says so', async () => {
		const invoice = await open(page, first, 'Brack Point')
		await page.getByRole('tab', { name: 'Account' }).click()
		await page.getByRole('tabpanel').getByRole('link').first().click()
		await page.waitForURL(/accounts\/\d+/)
		await button(page, /Enter a payment/).click()
		await page.getByLabel('Amount').fill('10.00')
		await page.getByLabel('Reference').fill('BACS 77')
		await page
			.getByRole('dialog')
			.getByRole('button', { name: /^Enter/ })
			.click()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await page.goto(invoice)
		await button(page, 'Make void').click()
		const paid = await page.getByText(/is applied to it/).count()
		await page.getByLabel('Why').fill('Billed to the wrong yard')
		await button(page, /^Make SK-\d+ void/).click()
		await expect(page.getByText(/Void since .* Billed to the wrong yard/)).toBeVisible()
		await page.getByRole('tab', { name: 'History' }).click()
		await expect(page.getByText(/made void.*Billed to the wrong yard; 1 orders? waits? again/)).toBeVisible()
		if (paid > 0) await expect(page.getByText(/10.00 GBP of BACS 77 is unapplied again/)).toBeVisible()
		verified()
	})

	await test.step('December is numbered after January, each in its own year', async () => {
		await page.goto('/registers')
		await page.getByLabel('Prefix').first().fill('SK{year}-')
		await page.getByLabel('Begins again each year').first().check()
		await page.getByLabel('Next number').first().fill('1')
		await page.getByLabel('First number').first().fill('1')
		await button(page, 'Change the register').first().click()
		await expect(page.getByText('Saved.').first()).toBeVisible()
		const january = await numbered(page, '2026-10-14', '2027-01-02')
		await expect(row(page, 'SK2027-00001')).toBeVisible()
		await numbered(page, '2026-10-18', '2026-12-31')
		await expect(row(page, 'SK2026-00001')).toBeVisible()
		await page.goto(january)
		await expect(row(page, 'SK2027-00001')).toBeVisible()
		verified()
	})

	await test.step('in a closed month nothing is made void, and the refusal says what to do instead', async () => {
		await page.goto('/items')
		await page.getByLabel('Books closed to').fill('2026-10-31')
		await button(page, 'Save the checks').click()
		await expect(page.getByText('Saved. Drafts are looked at again.')).toBeVisible()
		await page.goto(first)
		await page.getByRole('option').last().click()
		await page.keyboard.press('o')
		await page.waitForURL(/documents\/\d+/)
		await button(page, 'Make void').click()
		await page.getByLabel('Why').fill('Too late')
		await button(page, /^Make SK-\d+ void/).click()
		await expect(page.getByText(/books that are closed to 31 Oct 2026. Credit it instead./)).toBeVisible()
		verified()
	})
})
