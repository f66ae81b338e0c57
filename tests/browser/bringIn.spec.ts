import { expect, type Page } from '@playwright/test'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const file = (name: string, ...rows: string[]) => ({
	name,
	mimeType: 'text/csv',
	buffer: Buffer.from(`${rows.join('\n')}\n`),
})

async function choose(page: Page, chosen: { name: string; mimeType: string; buffer: Buffer }) {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(chosen)
	await page.waitForURL(/\/bring-in\/\d+/)
}

test('a renamed column is named as missing, matched by hand, and the totals follow', async ({ page }) => {
	await choose(
		page,
		file(
			'renamed.csv',
			'Order No,Date,Account,How many,Unit price,Item',
			'6001,23/10/2026,LUNN01,3,"1,200.50",ANC-90',
			'6001,23/10/2026,lunn01,2,10,THM-16',
		),
	)
	await expect(page.getByRole('alert').filter({ hasText: 'No column is matched to: Quantity' })).toBeVisible()
	await expect(button(page, /^Accept/)).toBeDisabled()
	await page.getByLabel('Column for Quantity').selectOption('How many')
	await expect(button(page, 'Accept 1 order')).toBeEnabled()
	await expect(page.getByRole('table', { name: 'Rows that tie' })).toContainText('3,621.50')
	await expect(page.getByRole('row', { name: /Order number/ })).toContainText('6001')
})

test('what the file leaves open is asked, what cannot be read is mended in place, and a customer is made on the way', async ({
	page,
}) => {
	await choose(
		page,
		file(
			'exported.csv',
			'Skarvik Export;;;;;;',
			'Auftrags-Nr;Auftragsdatum;Kd-Nr;Artikel;Menge;Einzelpreis;Sachbearbeiter',
			'6101;03/04/2026;LUNN01;THM-16;2,500;1,250;bk',
			'6102;31/02/2026;LUNN01;THM-16;1;2,500;bk',
			'6103;01/10/2026;NEU77;THM-16;1O;2,000;bk',
			'6104;01/10/2026;NEU77;THM-16;4;2,000;bk',
		),
	)
	const asked = page.getByRole('region', { name: 'Questions' })
	await expect(asked).toContainText('03/04/2026: 3 Apr 2026')
	await expect(asked).toContainText('03/04/2026: 4 Mar 2026')
	await expect(button(page, /^Accept/)).toBeDisabled()
	await button(page, 'The day comes first').click()
	await expect(asked).toContainText('2,500: 2.5')
	await expect(asked).toContainText('2,500: 2500')
	await button(page, 'A comma: 1.250,50').click()
	await expect(page.getByRole('heading', { name: '3 rows refused' })).toBeVisible()
	await expect(page.getByText('Sachbearbeiter bk')).toBeVisible()
	const saved = await page.request.get(
		(await page.getByRole('link', { name: /Save them as CSV/ }).getAttribute('href')) ?? '',
	)
	expect(await saved.text()).toContain('"Auftragsdatum: This is no day that exists')
	await page.getByLabel('Menge of row 5').fill('10')
	await page
		.getByRole('row', { name: /5 Menge/ })
		.getByRole('button', { name: 'Set' })
		.click()
	await expect(page.getByRole('list', { name: 'All alike at once' })).toContainText('Kd-Nr NEU77 in 2 rows')
	await page
		.getByRole('list', { name: 'All alike at once' })
		.getByRole('button', { name: 'Make customer NEU77' })
		.click()
	await page.getByLabel('Name', { exact: true }).fill('Neue Reederei')
	await page.getByLabel('Email').fill('rechnung@neu.example')
	await button(page, 'Make the customer').click()
	await expect(page.getByRole('heading', { name: 'One row refused' })).toBeVisible()
	await button(page, 'Leave out').first().click()
	await page.getByLabel('Why').fill('asked the yard; it never was')
	await page.getByRole('dialog').getByRole('button', { name: 'Leave it out' }).click()
	await expect(page.getByRole('heading', { name: 'One row left out by hand' })).toBeVisible()
	await button(page, 'Accept 3 orders').click()
	await expect(page.getByText('3 orders with 3 lines were added.')).toBeVisible()
	await page.goto('/to-bill')
	await expect(page.getByText('Neue Reederei').first()).toBeVisible()
})

test('next month’s file with a renamed column is read by the same reader, which says what changed', async ({
	page,
}) => {
	const rows = (head: string, month: string) => [
		head,
		`7001${month},2026-${month}-03,LUNN01,THM-16,3,2.50,bk`,
		`7002${month},2026-${month}-04,LUNN01,THM-16,4,2.50,bk`,
	]
	await choose(page, file('tarn-september.csv', ...rows('Beleg,Vom,Wer,Was,Wieviel,Zu,Von', '09')))
	for (const [field, column] of [
		['Order number', 'Beleg'],
		['Order date', 'Vom'],
		['Customer number', 'Wer'],
		['Item', 'Was'],
		['Quantity', 'Wieviel'],
	] as const) {
		if (field === 'Order number') await page.getByRole('button', { name: 'orders', exact: true }).click()
		await page.getByLabel(`Column for ${field}`).selectOption(column)
		await expect(page.getByLabel(`Column for ${field}`)).toHaveValue(/^\d+$/)
		await expect(page.getByRole('status').filter({ hasText: 'Working out' })).toHaveCount(0)
	}
	await button(page, 'Accept 2 orders').click()
	await expect(page.getByText('2 orders with 2 lines were added.')).toBeVisible()
	await choose(page, file('tarn-october.csv', ...rows('Beleg,Vom,Wer,Was,Wieviele Stück,Zu,Von', '10')))
	await expect(page.getByText('Read by the reader “tarn september”.')).toBeVisible()
	await expect(page.getByRole('region', { name: 'Questions' })).toContainText('Quantity: “Wieviele Stück”')
	await button(page, 'Take the likely column').click()
	await button(page, 'Accept 2 orders').click()
	await expect(page.getByText('2 orders with 2 lines were added.')).toBeVisible()
})

test('rows are pasted; an accepted file is taken back; a waiting order is held and withdrawn', async ({ page }) => {
	await page.goto('/bring-in')
	await button(page, 'Paste rows').click()
	await page
		.getByLabel('Rows', { exact: true })
		.fill(
			'Order No\tDate\tAccount\tItem\tQty\n6301\t2026-10-03\tLUNN01\tTHM-16\t5\n6302\t2026-10-04\tLUNN01\tTHM-16\t6',
		)
	await button(page, 'Look at 3 rows').click()
	await page.waitForURL(/\/bring-in\/\d+/)
	await expect(page.getByText('2 lines take their price from their item.')).toBeVisible()
	await button(page, 'Accept 2 orders').click()
	await expect(page.getByText('2 orders with 2 lines were added.')).toBeVisible()
	const address = page.url()
	await page.goto('/to-bill?show=6301')
	await button(page, 'Hold').click()
	await page.getByLabel('Why').fill('asked for a purchase order')
	await button(page, 'Hold it back').click()
	await expect(page.getByText('held: asked for a purchase order (Wren)')).toBeVisible()
	await page.goto('/to-bill?show=6302')
	await page.getByRole('link', { name: '6302' }).click()
	await expect(page.getByRole('table', { name: 'Lines of the order' })).toContainText('price from its item')
	await button(page, 'Hold or withdraw').click()
	await page.getByLabel('Why').fill('ordered by mistake')
	await button(page, 'Withdraw it').click()
	await expect(page.getByText('withdrawn: ordered by mistake').first()).toBeVisible()
	await page.goto(address)
	await button(page, 'Take it back').click()
	await page.getByLabel('Why').fill('the wrong export')
	await button(page, 'Take 1 orders back').click()
	await expect(page.getByText('1 orders were taken back: the wrong export.').first()).toBeVisible()
	await page.goto('/to-bill?show=6301')
	await expect(page.getByText('asked for a purchase order')).toHaveCount(0)
})

test('wrong files are refused in words, and the server goes on', async ({ page }) => {
	for (const [chosen, words] of [
		[
			{ name: 'picture.csv', mimeType: 'text/csv', buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0]) },
			'It is a picture',
		],
		[file('nul.csv', 'Order No,Date,Account', '1,\0,2'), 'a control character stands in line 2'],
		[file('quotes.csv', 'Order No,Date,Account', '1,"x,y'), 'opens in row 2 is never closed'],
		[
			{ name: 'torn.xlsx', mimeType: 'x', buffer: Buffer.from('PK\u0003\u0004 and no more') },
			'a ZIP archive that cannot be opened',
		],
	] as const) {
		await choose(page, { ...chosen })
		await expect(page.getByRole('alert').filter({ hasText: words })).toBeVisible()
		await button(page, 'Leave it out').click()
		await page.waitForURL('**/bring-in')
	}
	await expect(page.getByText('quotes.csv')).toHaveCount(0)
})

test('a file can be left out, and orders that were brought in before are not brought in again', async ({ page }) => {
	const rows = [
		'Order No,Date,Account,Qty,Unit price',
		'6201,23/10/2026,LUNN01,1,2.50',
		'6202,23/10/2026,LUNN01,1,2.50',
	]
	await choose(page, file('first.csv', ...rows))
	await button(page, 'Leave it out').click()
	await page.waitForURL('**/bring-in')
	await choose(page, file('first.csv', ...rows))
	await button(page, 'Accept 2 orders').click()
	await expect(page.getByText('2 orders with 2 lines were added.')).toBeVisible()
	await choose(page, file('first-again.csv', ...rows))
	await expect(page.getByText('This very file was accepted before')).toBeVisible()
	await choose(page, file('more.csv', ...rows, '6203,24/10/2026,LUNN01,7,2.50'))
	await expect(page.getByText('2 orders are in the books already, just so')).toBeVisible()
	await expect(button(page, 'Accept 1 order')).toBeVisible()
	await choose(page, file('changed.csv', rows[0] ?? '', '6201,23/10/2026,LUNN01,9,2.50'))
	await expect(page.getByRole('region', { name: 'Questions' })).toContainText('6201: quantity of line 1: 1 → 9')
	await button(page, 'Replace them').click()
	await button(page, 'Accept 1 order').click()
	await expect(page.getByText('1 of them in place of waiting ones')).toBeVisible()
})

test('a bank’s file: likely customers are offered, what a payment is applied to stands there first, and one mended later enters no other again', async ({
	page,
}) => {
	await choose(
		page,
		file(
			'umsaetze.csv',
			'Buchungstag;Auftraggeber;Verwendungszweck;Betrag;Währung',
			'20.10.2026;Ardlow Ferries;für Oktober, danke;1.204,10;GBP',
			'21.10.2026;Unbekannt;Anzahlung;5,00;GBP',
		),
	)
	await expect(page.getByRole('heading', { name: '2 rows refused' })).toBeVisible()
	await expect(page.getByText(/It names no customer/).first()).toBeVisible()
	await page
		.getByRole('row', { name: /Take one of those that are likely/ })
		.getByRole('button', { name: /Ardlow Ferries, by name/ })
		.click()
	const payments = page.getByRole('table', { name: 'Payments' })
	await expect(payments).toContainText('Ardlow Ferries')
	await button(page, 'Accept 1 payment').click()
	await expect(page.getByText('1 payment was entered; one row was refused.')).toBeVisible()

	await page.getByLabel('Customer number of row 3').fill('LUNN01')
	await page.getByRole('row', { name: /^3 / }).getByRole('button', { name: 'Set' }).click()
	await expect(payments.getByRole('row', { name: /Ardlow Ferries/ })).toContainText('entered already')
	await expect(payments.getByRole('row', { name: /Anzahlung/ })).toContainText('5.00')
	await button(page, 'Accept 1 more payment').click()
	await expect(page.getByText('1 payment was entered.')).toBeVisible()
	await page.goto('/accounts?show=Ardlow')
	await page.getByRole('link', { name: 'Ardlow Ferries' }).first().click()
	await expect(page.getByRole('row', { name: /payment.*für Oktober, danke.*1,204\.10/ })).toHaveCount(1)
})
