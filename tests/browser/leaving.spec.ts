import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { pdfText } from './pdf'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const settings = (page: Page) => page.getByRole('complementary', { name: 'Settings' })
const outline = (page: Page) => page.getByRole('navigation', { name: 'Pieces' })

/** A run of October, numbered and made. */
async function made(page: Page) {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await button(page, /^Accept/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await button(page, /^Gather/).click()
	await button(page, /^Number \d+ invoices/).click()
	await button(page, /^Make \d+ PDFs/).click()
	await expect(button(page, /^Send \d+/)).toBeVisible()
}

test('names, formats and a lock are set, seen at once, and stand on what a run makes and sends', async ({ page }) => {
	await page.goto('/layouts/leaving')
	await page.getByLabel('File: another field').selectOption({ label: 'Name' })
	// The customer's name alone: two of the latest would share a file, which is said and refused.
	await expect(page.getByText(/would share a file with another/)).toBeVisible()
	await button(page, 'Save for invoices').click()
	await expect(page.getByText(/would have the same file/)).toBeVisible()
	await button(page, 'Words').first().click()
	await page.getByLabel('File: another field').selectOption('number')
	await page.getByLabel('Folder: another field').selectOption('day')
	await page.getByLabel('Folder, how part 1 is written').selectOption('month')
	await expect(page.getByText(/would share a file/)).toHaveCount(0)
	await expect(page.getByText(/^September 2026\/.* SK-\d+\.pdf$/).first()).toBeVisible()
	await page.getByLabel('text document (DOCX)').check()
	await page.getByLabel('page (HTML)').check()
	await button(page, 'Save for invoices').click()
	await expect(page.getByText('Saved for invoices.')).toBeVisible()

	await page.goto('/accounts')
	await page.getByRole('link', { name: 'Ardlow Ferries' }).first().click()
	await page.getByLabel('The PDF that is sent opens with').selectOption('own')
	await button(page, 'Save the customer').click()
	await expect(page.getByText('Give the password that opens their PDFs.')).toBeVisible()
	await page.getByLabel('Their own password').fill('Slack-water-17')
	await button(page, 'Save the customer').click()
	await expect(page.getByText(/^Saved\. Documents from here on/)).toBeVisible()

	await made(page)
	await page.getByLabel('Filter').fill('Ardlow')
	await page.getByRole('option').filter({ hasText: 'Ardlow' }).first().click()
	await expect(page.getByText(/Ardlow Ferries SK-\d+\.pdf, \d+ KB/)).toBeVisible()
	const html = page.getByRole('link', { name: /Ardlow Ferries SK-\d+\.html/ })
	const address = await html.getAttribute('href')
	const text = await (await page.request.get(address ?? '')).text()
	expect(text).toContain('Ardlow Ferries')
	expect(text).toContain('<table')
	const copy = await page.getByRole('link', { name: 'Print it again' }).getAttribute('href')
	expect((await pdfText(await (await page.request.get(copy ?? '')).body())).join()).toContain('Copy')
	await page.getByRole('tab', { name: 'message' }).click()
	await expect(page.getByText(/\.pdf, locked with their password/)).toBeVisible()
	await expect(page.getByText('Slack-water-17')).toHaveCount(0)
})

test('a field of the firm’s own is added, filled and shown on a paper, with a photograph for each item', async ({
	page,
}) => {
	await page.goto('/company')
	await page.getByText('Add a field').click()
	await page.getByLabel('Name of the field').fill('Shelf')
	await page.getByLabel('Of', { exact: true }).selectOption('item')
	await button(page, 'Add the field').click()
	await expect(page.getByRole('row', { name: /Shelf items text/ })).toBeVisible()
	await page.goto('/items')
	await page.getByText('Bring pictures in').click()
	await page.getByLabel('PNG, JPEG or SVG files').setInputFiles([
		{
			name: 'RIV-5.svg',
			mimeType: 'image/svg+xml',
			buffer: Buffer.from('<svg viewBox="0 0 4 4"><path d="M0 0h4v4z" fill="#345"/></svg>'),
		},
		{
			name: 'NOWHERE.svg',
			mimeType: 'image/svg+xml',
			buffer: Buffer.from('<svg viewBox="0 0 4 4"><path d="M0 0h4v4z"/></svg>'),
		},
	])
	await button(page, 'Set the pictures').click()
	await expect(page.getByText(/Nothing was set\. NOWHERE: no item has this code/)).toBeVisible()
	await page.goto('/layouts')
	await page
		.getByRole('link', { name: /Ledger/ })
		.first()
		.click()
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
	await outline(page)
		.getByRole('button', { name: /^Lines/ })
		.first()
		.click()
	for (const name of ['Photograph', 'Shelf']) {
		await settings(page).getByRole('button', { name: 'Another column' }).click()
		const dialog = page.getByRole('dialog')
		await dialog.getByLabel('Field').fill(name)
		await expect(dialog.getByRole('option', { selected: true })).toContainText(name)
		await page.keyboard.press('Enter')
		await expect(dialog).toHaveCount(0)
	}
	await expect(page.getByText('kept as a draft: put a column in')).toBeVisible()
	// What is missing is told with how many papers it touches, and the field cannot go while it stands there.
	await button(page, 'The whole paper').click()
	await page.getByText(/fields are empty on some papers/).click()
	await expect(page.getByText(/“Photograph” is empty on \d+ of \d+/)).toBeVisible()
	await page.goto('/company')
	await page
		.getByRole('row', { name: /Shelf items text/ })
		.getByRole('button', { name: 'Take it away' })
		.click()
	await page.getByRole('dialog').getByRole('button', { name: 'Take it away' }).click()
	await expect(page.getByText(/Shelf is used by Ledger/)).toBeVisible()
})

test('words are written on the paper itself, a run is leafed through, and two versions are compared', async ({
	page,
}) => {
	await page.goto('/layouts')
	await page.getByRole('link', { name: /Plain/ }).first().click()
	const paper = page.getByRole('img', { name: /^Page 1 of/ })
	await expect(paper).toBeVisible()
	await outline(page)
		.getByRole('button', { name: /Words: How to pay/ })
		.click()
	await page.keyboard.press('Enter')
	const here = page.getByRole('region', { name: 'The paper' }).getByRole('textbox', { name: /on the paper$/ })
	await expect(here).toBeFocused()
	await page.keyboard.type(' within the month')
	await expect(page.getByText('kept as a draft: wrote')).toBeVisible()
	await page.keyboard.press('Escape')
	await expect(here).toHaveCount(0)
	const pdf = await pdfText(await (await page.request.get(`/api${new URL(page.url()).pathname}/pdf`)).body())
	expect(pdf.join()).toContain('How to pay within the month')
	// Only papers of the chosen run, from its first on.
	const runs = page.getByLabel('Leaf through')
	const options = await runs.locator('option').allTextContents()
	const [, , second = ''] = options
	await runs.selectOption({ label: second })
	await expect(button(page, 'The paper before')).toBeDisabled()
	await page.keyboard.press('Escape')
	await page.locator('body').click({ position: { x: 2, y: 2 } })
	await button(page, 'The next paper').click()
	await expect(button(page, 'The paper before')).toBeEnabled()
	await button(page, 'Versions').click()
	await page
		.getByRole('row', { name: /as it ships/ })
		.getByRole('link', { name: 'Compare' })
		.click()
	await expect(page.getByText(/changed: Words: How to pay/)).toBeVisible()
	await expect(page.getByRole('region', { name: 'version 1' })).toBeVisible()
	await expect(page.getByRole('region', { name: 'what is in the making' })).toBeVisible()
	await expect(page.getByText('Each of the hardest papers has as many pages by both.')).toBeVisible()
})

test('a letter paper is laid under a layout, one that cannot be is refused, and colours are renamed and taken away', async ({
	page,
}) => {
	await page.goto('/layouts')
	await page
		.getByRole('link', { name: /Margin/ })
		.first()
		.click()
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
	const file = settings(page).getByLabel('Lay a PDF under everything')
	await file.setInputFiles({ name: 'x.pdf', mimeType: 'application/pdf', buffer: Buffer.from('GIF89a') })
	await expect(settings(page).getByText('The letter paper must be a PDF.')).toBeVisible()
	const sheet = await (await page.request.get('/api/layouts/1/pdf')).body()
	await file.setInputFiles({ name: 'sheet.pdf', mimeType: 'application/pdf', buffer: sheet })
	await expect(page.getByText('kept as a draft: laid a letter paper under it')).toBeVisible()
	// A whole invoice as letter paper: everything stands over its print, and that is said.
	await expect(
		settings(page)
			.getByText(/over what the letter paper has printed there/)
			.first(),
	).toBeVisible()
	const name = settings(page)
		.getByLabel(/^Name of the colour/)
		.first()
	const before = await name.inputValue()
	await name.fill('quay blue')
	await name.blur()
	await expect(page.getByText(`kept as a draft: renamed the colour ${before}`)).toBeVisible()
	await settings(page).getByLabel('Take the colour quay blue away').click()
	await expect(page.getByText('kept as a draft: took the colour quay blue away')).toBeVisible()
	await expect(settings(page).getByText(/The palette has no colour/)).toHaveCount(0)
})
