import { expect } from '@playwright/test'
import { test } from './tally'

test.use({ mode: 'real' })

test('from empty books, a German file that nobody here knows leads to a first sent invoice', async ({ page }) => {
	const button = (name: RegExp | string) => page.getByRole('button', { name })
	await page.goto('/')
	await page.getByLabel('Your name').fill('Ute')
	await button('Open the books').click()
	await expect(page.getByText('step 1')).toBeVisible()
	await page.goto('/company')
	await page.getByLabel('Name', { exact: true }).fill('Elshaven Netze')
	await page.getByLabel('Email', { exact: true }).fill('post@netze.example')
	await page.getByLabel('Address, a line each').fill('Hafenstraße 1\n25999 Elshaven')
	await page.getByLabel('Country').fill('Germany')
	await page.getByLabel('Tax number').fill('DE 000000001')
	await page.getByLabel('Currency').first().fill('EUR')
	await button('Save the company').click()
	await expect(page.getByText('Saved. Documents from here on carry it.')).toBeVisible()

	const rows = [
		'Netzlager Export vom 03.10.2026;;;;;;;',
		'Auftragsnummer;Auftragsdatum;Kundennummer;Artikel;Bezeichnung;Menge;Einzelpreis;MwSt Code',
		'A-1;03/04/2026;K100;TAU;Tau 12 mm;2,500;1,250;N19',
		'A-2;04/04/2026;K100;;Spleißen;1 Std;45,00;N19',
		'Summe;;;;;;48,13;',
	]
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles({
		name: 'netzlager.csv',
		mimeType: 'text/csv',
		buffer: Buffer.from(`${rows.join('\r\n')}\r\n`, 'latin1'),
	})
	await page.waitForURL(/\/bring-in\/\d+/)
	const asked = page.getByRole('region', { name: 'Questions' })
	await expect(asked).toContainText('03/04/2026: 3 Apr 2026')
	await button('The day comes first').click()
	await expect(asked).toHaveCount(0)
	const alike = page.getByRole('list', { name: 'All alike at once' })
	await expect(alike).toContainText('Kundennummer K100 in 2 rows')
	await alike.getByRole('button', { name: 'Make customer K100' }).click()
	await page.getByLabel('Name', { exact: true }).fill('Fischerei Lund')
	await page.getByLabel('Email').fill('rechnung@lund.example')
	await page.getByLabel('Address').fill('Kai 2\n25998 Lund')
	await button('Make the customer').click()
	await expect(button('Accept 2 orders')).toBeEnabled()
	await button('Make tax code N19').click()
	await page.getByLabel('Name', { exact: true }).fill('MwSt')
	await page.getByLabel('Rate %').fill('19')
	await button('Make the tax code').click()
	await expect(button('Make tax code N19')).toHaveCount(0)
	await expect(page.getByRole('table', { name: 'Rows that tie' })).toContainText('48.13')
	await button('Accept 2 orders').click()
	await expect(page.getByText(/2 orders with 2 lines were added/)).toBeVisible()

	await page.goto('/registers')
	await button('Open the register').first().click()
	await page.goto('/to-bill')
	await button('Start a run').click()
	await button(/^Gather 2 orders/).click()
	await page.waitForURL(/\/runs\/\d+/)
	await button(/^Number \d+ invoice/).click()
	await button(/^Make \d+ PDF/).click()
	await button(/^Send \d+ in practice/).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect(page.getByRole('option').first().getByTitle('sent', { exact: true })).toBeVisible()
	await page.goto('/practice-mail')
	await expect(page.getByRole('table')).toContainText('from Elshaven Netze')
})
