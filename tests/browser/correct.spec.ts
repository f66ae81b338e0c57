import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { pdfText } from './pdf'
import { test } from './tally'

const row = (page: Page, name: string) => page.getByRole('option').filter({ hasText: name }).first()
/** Filters the list to a customer, whose row may be far down, and selects it. */
async function select(page: Page, name: string) {
	await page.getByLabel('Filter').fill(name)
	await row(page, name).click()
}
const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })

test('a draft is changed before it is numbered, and what was issued is corrected without being touched', async ({
	page,
	tally,
}) => {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await button(page, /^Accept/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await button(page, /^Gather/).click()
	await expect(button(page, /^Number \d+ invoices/)).toBeVisible()
	const bench = page.url().split('?')[0] ?? ''

	await test.step('the missing price is given, and the stop is gone', async () => {
		await select(page, 'Fennick Boatyard')
		await expect(page.getByText(/line 2 .* has no price/)).toBeVisible()
		await button(page, /^Change/).click()
		await expect(page.getByLabel(/^Price of order \d+, line 2/)).toBeFocused()
		await page.keyboard.type('3.80')
		await button(page, 'Compute and keep').click()
		await expect(page.getByText('Say why it is changed')).toHaveCount(0)
		await page.getByLabel('Why').fill('The counter gave it')
		await button(page, 'Compute and keep').click()
		await expect(row(page, 'Fennick Boatyard')).toContainText('clear, changed')
		await page.getByRole('tab', { name: 'Working' }).click()
		await expect(page.getByText('line 2: price none → 3.80').first()).toBeVisible()
	})

	await test.step('the change is taken back', async () => {
		await button(page, 'Take it back').click()
		await expect(row(page, 'Fennick Boatyard')).toContainText('line 2 has no price')
	})

	await test.step('a line is left for the next run by keyboard, and the invoice is put together again', async () => {
		await row(page, 'Fennick Boatyard').click()
		await expect(button(page, /^Divide/)).toBeVisible()
		await page.keyboard.press('d')
		await expect(page.getByRole('checkbox').first()).toBeFocused()
		await page.getByRole('checkbox').nth(1).press('Space')
		await page.getByLabel(/to the next run/).check()
		await page.getByLabel('Why').fill('No price yet')
		await page.keyboard.press('Enter')
		await expect(row(page, 'left for the next run: No price yet')).toBeVisible()
		await button(page, 'Take it back').click()
		await expect(row(page, 'left for the next run')).toHaveCount(0)
	})

	await test.step('the order of numbering is chosen', async () => {
		await page.getByLabel('Filter').fill('')
		await page.getByLabel('in order of').selectOption('order number')
		await expect(page.getByText(/^ordered the drafts/)).toHaveCount(0)
		await expect(page.getByLabel('in order of')).toHaveValue('order-number')
	})

	await button(page, /^Number \d+ invoices/).click()
	await button(page, /^Make \d+ PDFs/).click()
	await expect(button(page, /^Send \d+/)).toBeVisible()

	await test.step('an invoice that reached nobody is made void; its number stays with the reason', async () => {
		await select(page, 'Ardlow Ferries')
		await page.keyboard.press('o')
		await page.waitForURL(/documents\/\d+/)
		const number = (await page.getByRole('heading', { level: 1 }).textContent())?.replace('Invoice ', '') ?? ''
		await button(page, 'Make void').click()
		await page.getByLabel('Why').fill('Billed to the wrong yard')
		await button(page, `Make ${number} void`).click()
		await expect(page.getByText(/Void since .* Billed to the wrong yard/)).toBeVisible()
		await page.goto('/registers')
		await expect(page.getByRole('row').filter({ hasText: number })).toContainText(
			'void, Wren: Billed to the wrong yard',
		)
		await page.goto('/to-bill')
		await expect(page.getByText('Ardlow Ferries').first()).toBeVisible()
	})

	await test.step('an invoice that reached nobody is revised: the same number, the first kept', async () => {
		await page.goto(bench)
		await select(page, 'Brack Point Sailing School')
		await page.keyboard.press('o')
		await page.waitForURL(/documents\/\d+/)
		const first = page.url()
		const heading = page.getByRole('heading', { level: 1 })
		const title = (await heading.textContent()) ?? ''
		await button(page, 'Revise').click()
		await page.getByLabel(/^Quantity of order \d+, line 1/).fill('1.25')
		await page.getByLabel('Why').fill('Short by some')
		await button(page, 'Issue the revision').click()
		await expect(heading).toHaveText(`${title} rev. 2`)
		await expect(page.getByText('It stands in place of')).toBeVisible()
		const revision = await page.request.get(`${tally.url}/api/documents/${page.url().split('/').at(-1)}/pdf`)
		expect((await pdfText(await revision.body())).join(' ')).toContain('Revision')
		await page.goto(first)
		await expect(page.getByText(/^Revised .* Short by some/)).toBeVisible()
		await expect(button(page, 'Revise')).toHaveCount(0)
	})

	await test.step('an invoice is credited in part: a note of its own, with its own number, that names it', async () => {
		await page.goto(bench)
		await select(page, 'Ronas Salvage')
		await page.keyboard.press('o')
		await page.waitForURL(/documents\/\d+/)
		const invoice = (await page.getByRole('heading', { level: 1 }).textContent())?.replace('Invoice ', '') ?? ''
		const before = await (
			await page.request.get(`${tally.url}/api/documents/${page.url().split('/').at(-1)}/pdf`)
		).body()
		const document = page.url()
		await button(page, 'Credit').click()
		await page.getByLabel('Quantity to credit of line 2').fill('0')
		await page.getByLabel('Quantity to credit of line 3').fill('99999')
		await page.getByLabel('Why').fill('Came back wet')
		await button(page, 'Draft the credit note').click()
		await expect(page.getByText(/Line 3: 99999 is more than the [\d.]+ that can still be credited/)).toBeVisible()
		await page.getByLabel('Quantity to credit of line 3').fill('0')
		await button(page, 'Draft the credit note').click()
		await page.waitForURL(/runs\/\d+/)
		await button(page, 'Number 1 credit note').click()
		await button(page, 'Make 1 PDF').click()
		await expect(button(page, 'Send 1 in practice')).toBeVisible()
		await page.keyboard.press('o')
		await page.waitForURL(/documents\/\d+/)
		await expect(page.getByRole('heading', { level: 1 })).toHaveText('Credit note SKC-2026-002')
		const note = await (await page.request.get(`${tally.url}/api/documents/${page.url().split('/').at(-1)}/pdf`)).body()
		expect((await pdfText(note)).join(' ')).toContain(`Credits ${invoice} of 31 Oct 2026`)
		await page.goto(document)
		await expect(page.getByText('Credited by SKC-2026-002')).toBeVisible()
		const after = await (await page.request.get(`${tally.url}/api/documents/${document.split('/').at(-1)}/pdf`)).body()
		expect(after.equals(before)).toBe(true)
	})
})
