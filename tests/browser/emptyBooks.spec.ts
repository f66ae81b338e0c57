import { expect } from '@playwright/test'
import { demoFile } from './demoFile'
import { test } from './tally'

test.use({ mode: 'real' })

test('empty books say on every screen what belongs there, and lead to a first sent invoice', async ({ page }) => {
	await page.goto('/')
	await expect(page.getByRole('heading', { name: 'Who is at the desk?' })).toBeVisible()
	await page.getByLabel('Your name').fill('Tam')
	await page.getByRole('button', { name: 'Open the books' }).click()
	await expect(page.getByText('step 1')).toBeVisible()
	const words: [string, string][] = [
		['/bring-in', 'No file was brought in yet'],
		['/to-bill', 'No order waits to be billed'],
		['/runs', 'No run was started yet'],
		['/postroom', 'Nothing waits here'],
		['/sent-log', 'Nothing was sent yet'],
		['/accounts', 'There are no customers yet'],
		['/items', 'There are no tax codes yet'],
		['/practice-mail', 'Nothing arrived yet'],
		['/registers', 'Not opened yet'],
		['/letters', 'Put in at the cursor'],
		['/company', 'What stands on every document'],
	]
	for (const [path, text] of words) {
		await page.goto(path)
		await expect(page.getByText(text).first()).toBeVisible()
	}

	await page.goto('/company')
	await page.getByLabel('Name', { exact: true }).fill('Tarn Chandlers')
	await page.getByLabel('Email', { exact: true }).fill('post@tarn.example')
	await page.getByLabel('Address, a line each').fill('1 Quay\nTarn TA1 1AA')
	await page.getByLabel('Country').fill('United Kingdom')
	await page.getByLabel('Tax number').fill('GB 000 0000 01')
	await page.getByRole('button', { name: 'Save the company' }).click()
	await expect(page.getByText('Saved. Documents from here on carry it.')).toBeVisible()

	for (const name of ['tax-codes.csv', 'items.csv', 'customers.csv', 'orders-2026-10.csv']) {
		await page.goto('/bring-in')
		await page.getByLabel('File to bring in').setInputFiles(demoFile(name))
		await page.getByRole('button', { name: /^Accept \d+/ }).click()
		await expect(page.getByText(/were added/)).toBeVisible()
	}
	await page.goto('/bring-in')
	await page
		.getByLabel('File to bring in')
		.setInputFiles({ name: 'notes.csv', mimeType: 'text/csv', buffer: Buffer.from('only one column\n1\n') })
	await expect(page.getByRole('region', { name: 'Questions' })).toContainText('What does the file hold?')

	await page.goto('/registers')
	await page.getByLabel('Prefix').first().fill('TC-')
	await page.getByLabel('Next number').first().fill('7')
	await page.getByRole('button', { name: 'Open the register' }).first().click()
	await expect(page.getByText('The next one will be TC-00007').first()).toBeVisible()

	await page.goto('/to-bill')
	await page.getByRole('button', { name: 'Start a run' }).click()
	await page.getByLabel('Orders up to and on').fill('2026-10-02')
	await page.getByRole('button', { name: /^Gather \d+ orders/ }).click()
	await page.getByRole('button', { name: /^Number \d+ invoices/ }).click()
	await page.getByRole('button', { name: /^Make \d+ PDFs/ }).click()
	await page.getByRole('button', { name: /^Send \d+ in practice/ }).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect(
		page.getByRole('option').filter({ hasText: 'TC-00007' }).getByTitle('sent', { exact: true }),
	).toBeVisible()
	await page.goto('/practice-mail')
	await expect(page.getByRole('table')).toContainText('Invoice TC-00007 from Tarn Chandlers')
})
