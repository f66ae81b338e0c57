import { expect, type Page } from '@playwright/test'
import { testWith } from './tally'

const test = testWith('demo')
const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })

test('the company’s particulars and logo stand on what is made from then on, not on what was issued', async ({
	page,
	tally,
}) => {
	const issued = `${tally.url}/api/documents/1/pdf`
	const before = await (await page.request.get(issued)).body()
	await page.goto('/company')
	await page.getByLabel('Name', { exact: true }).fill('Skerrow Moorings')
	await page.getByLabel('Home currency').fill('POUNDS')
	await button(page, 'Save the company').click()
	await expect(page.getByText('Write the home currency as its code')).toBeVisible()
	await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Skerrow Moorings')
	await page.getByLabel('Home currency').fill('GBP')
	await button(page, 'Save the company').click()
	await expect(page.getByText('Saved. Documents from here on carry it.')).toBeVisible()
	await expect(page.getByRole('banner')).toContainText('Skerrow Moorings')

	const logo = (svg: string) => ({ name: 'logo.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
	await page.getByLabel('PNG or SVG file').setInputFiles(logo('<svg viewBox="0 0 9 9"><text>S</text></svg>'))
	await button(page, 'Set the logo').click()
	await expect(page.getByText('Turn text into paths')).toBeVisible()
	await page
		.getByLabel('PNG or SVG file')
		.setInputFiles(logo('<svg viewBox="0 0 9 9"><path d="M0 0h9v9z" fill="#123"/></svg>'))
	await button(page, 'Set the logo').click()
	await expect(page.getByText('Set.', { exact: true })).toBeVisible()
	expect((await (await page.request.get(issued)).body()).equals(before)).toBe(true)
})

test('whether mail is practice or real is always in view, and real mail needs a server', async ({ page }) => {
	await page.goto('/company')
	await expect(page.getByRole('link', { name: 'Practice mail: nothing leaves' })).toBeVisible()
	await page.getByLabel('Mail is').selectOption('real')
	await button(page, 'Save how mail leaves').click()
	await expect(page.getByText('Real mail needs the name of the mail server.')).toBeVisible()
	await page.getByLabel('Mail server').fill('127.0.0.1')
	await page.getByLabel('Password').fill('hush')
	await button(page, 'Save how mail leaves').click()
	await expect(page.getByRole('link', { name: 'Real mail through 127.0.0.1' })).toBeVisible()
	await expect(page.getByText('One is kept; leave empty to keep it')).toBeVisible()
	expect(await page.content()).not.toContain('hush')
	await page.getByLabel('Mail is').selectOption('practice')
	await button(page, 'Save how mail leaves').click()
	await expect(page.getByRole('link', { name: 'Practice mail: nothing leaves' })).toBeVisible()
})

test('the letter is edited with its fields put in, and seen as a real customer would read it', async ({ page }) => {
	await page.goto('/letters')
	const preview = page.getByRole('region', { name: 'As it would be read' })
	await page.getByLabel('Subject').fill('Your invoice {number} over {amount}')
	await expect(preview).toContainText(/Your invoice SK-\d+ over £[\d,.]+/)
	await page.getByLabel('Text').fill('')
	await page.getByRole('button', { name: 'customer', exact: true }).click()
	await expect(page.getByLabel('Text')).toHaveValue('{customer}')
	await button(page, 'Save the letter').click()
	await expect(page.getByText('Saved. Messages written from here on carry it.')).toBeVisible()
	await page.reload()
	await expect(page.getByLabel('Subject')).toHaveValue('Your invoice {number} over {amount}')
	await page.getByRole('link', { name: 'Credit note' }).click()
	await expect(page.getByLabel('Subject')).toHaveValue('Credit note {number} from {firm}')
})

test('a customer on hold and a closed month stop an invoice; a rate from a day on is added', async ({ page }) => {
	await page.goto('/items')
	await page.getByText('Add a tax code, or a new rate of one').click()
	await page.getByRole('textbox', { name: 'Code' }).first().fill('HALF')
	await page.getByRole('textbox', { name: 'Name' }).first().fill('Half rate')
	await page.getByLabel('Rate, percent').fill('ten')
	await button(page, 'Add the rate').click()
	await expect(page.getByText('A rate is a percent from 0 to 100')).toBeVisible()
	await page.getByLabel('Rate, percent').fill('10')
	await button(page, 'Add the rate').click()
	await expect(page.getByRole('table', { name: 'Tax codes' })).toContainText('HALF')
	await page.getByLabel('Books closed to').fill('31/10/2026')
	await page.getByLabel('Books closed to').blur()
	await expect(page.getByLabel('Books closed to')).toHaveValue('31 Oct 2026')
	await button(page, 'Save the checks').click()
	await expect(page.getByText('Saved. Runs gathered from here on are checked by it.')).toBeVisible()

	await page.goto('/accounts?show=Lunna')
	await page.getByRole('link', { name: 'Lunna Tug and Tow' }).click()
	await page.getByLabel('On hold, because').fill('in dispute over run 3')
	await page.getByLabel('Credit limit').fill('ten')
	await button(page, 'Save the customer').click()
	await expect(page.getByText('Credit limit: "ten" is not a number')).toBeVisible()
	await page.getByLabel('Credit limit').fill('2,000.00')
	await button(page, 'Save the customer').click()
	await expect(page.getByText('Saved. Documents from here on carry it')).toBeVisible()

	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles({
		name: 'one.csv',
		mimeType: 'text/csv',
		buffer: Buffer.from('Order No,Date,Account,Qty,Unit price,VAT code\n5001,03/10/2026,LUNN01,1,2.50,HALF\n'),
	})
	await button(page, 'Accept 1 orders').click()
	await page.getByRole('link', { name: 'See what is to bill' }).click()
	await button(page, 'Start a run').click()
	await button(page, /^Gather 1/).click()
	await expect(page.getByText('Lunna Tug and Tow is on hold: in dispute over run 3.')).toBeVisible()
	await expect(page.getByText('the books are closed to 31 Oct 2026')).toBeVisible()
	await button(page, 'Give all back').click()
	await page.getByRole('dialog').getByRole('button', { name: 'Give all orders back' }).click()
	await expect(page.getByText(/^Given back /)).toBeVisible()
})
