import { expect, type Page } from '@playwright/test'
import { testWith } from './tally'

const test = testWith('demo')
const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const file = (name: string, ...rows: string[]) => ({
	name,
	mimeType: 'text/csv',
	buffer: Buffer.from(`${rows.join('\n')}\n`),
})

async function choose(page: Page, chosen: { name: string; mimeType: string; buffer: Buffer }) {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(chosen)
}

test('a renamed column is named as missing, matched by hand, and the totals follow', async ({ page }) => {
	await choose(
		page,
		file(
			'renamed.csv',
			'Order No,Date,Account,How many,Unit price,Item',
			'6001,03/10/2026,LUNN01,3,"1,200.50",ANC-90',
			'6001,03/10/2026,lunn01,2,10,THM-16',
		),
	)
	await expect(page.getByRole('alert').filter({ hasText: 'No column is matched to: Quantity' })).toBeVisible()
	await expect(button(page, /^Accept/)).toBeDisabled()
	await page.getByLabel('Column for Quantity').selectOption('How many')
	await expect(button(page, 'Accept 1 orders')).toBeEnabled()
	await expect(page.getByRole('table', { name: 'Orders in the file' })).toContainText('3,621.50')
	await expect(page.getByRole('row', { name: /Order number/ })).toContainText('6001')
})

test('days and decimals are read as the clerk says, and what cannot be read is saved with its reasons', async ({
	page,
}) => {
	await choose(
		page,
		file(
			'ambiguous.csv',
			'Order No;Date;Account;Qty;Unit price',
			'6101;03/04/2026;LUNN01;1;2,50',
			'6102;31/02/2026;LUNN01;1;2,50',
			'6103;01/10/2026;NOBODY;1;2,50',
		),
	)
	await expect(page.getByRole('heading', { name: '2 rows refused' })).toBeVisible()
	await expect(page.getByRole('table', { name: 'Refused rows' })).toContainText('No customer has this number')
	await expect(page.getByRole('table', { name: 'Refused rows' })).toContainText('31/02/2026')
	const saved = await page.request.get(
		(await page.getByRole('link', { name: /Save them as CSV/ }).getAttribute('href')) ?? '',
	)
	expect(await saved.text()).toContain('"4","Account","No customer has this number.')
	await expect(page.getByLabel('Decimals are parted by')).toHaveValue(',')
	await page.getByLabel('Decimals are parted by').selectOption('a point')
	await expect(page.getByRole('heading', { name: /^[45] rows refused/ })).toBeVisible()
	await page.getByLabel('Decimals are parted by').selectOption('a comma')
	await expect(page.getByRole('heading', { name: '2 rows refused' })).toBeVisible()
	await page.getByLabel('Days are written').selectOption('month first')
	await expect(button(page, /^Accept/)).toBeVisible()
})

test('wrong files are refused by name, and leave nothing behind', async ({ page }) => {
	for (const [chosen, words] of [
		[file('empty.csv'), 'No columns were found'],
		[
			{ name: 'picture.csv', mimeType: 'text/csv', buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0]) },
			'not a text file',
		],
		[file('quotes.csv', 'a,b', '1,"x"y'), 'a quotation mark is out of place'],
	] as const) {
		await choose(page, { ...chosen })
		await expect(page.getByRole('alert').filter({ hasText: chosen.name })).toContainText(words)
	}
	await page.reload()
	await expect(page.getByRole('table', { name: 'Files' })).not.toContainText('quotes.csv')
})

test('a file can be left out, and orders that were brought in before are not brought in again', async ({ page }) => {
	const rows = [
		'Order No,Date,Account,Qty,Unit price',
		'6201,03/10/2026,LUNN01,1,2.50',
		'6202,03/10/2026,LUNN01,1,2.50',
	]
	await choose(page, file('first.csv', ...rows))
	await button(page, 'Leave it out').click()
	await page.waitForURL('**/bring-in')
	await choose(page, file('first.csv', ...rows))
	await button(page, 'Accept 2 orders').click()
	await expect(page.getByText('2 orders with 2 lines were added.')).toBeVisible()
	await choose(page, file('more.csv', ...rows, '6203,04/10/2026,LUNN01,7,2.50'))
	await expect(page.getByText('2 orders are in the books already')).toBeVisible()
	await expect(button(page, 'Accept 1 orders')).toBeVisible()
	await choose(page, file('changed.csv', rows[0] ?? '', '6201,03/10/2026,LUNN01,9,2.50'))
	await expect(page.getByRole('table', { name: 'Refused rows' })).toContainText(
		'in the books already with other content',
	)
})
