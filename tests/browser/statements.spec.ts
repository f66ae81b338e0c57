import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { pdfText } from './pdf'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const row = (page: Page, name: string) =>
	page.getByRole('listbox').getByRole('option').filter({ hasText: name }).first()
const tab = (page: Page, name: string) => page.getByRole('tab', { name })

async function select(page: Page, name: string) {
	await page.getByLabel('Filter').fill(name)
	await row(page, name).click()
}
/** Starts statements over the accounts at an address, as wanted, and waits for their bench. */
async function start(page: Page, path: string, want: (dialog: ReturnType<Page['getByRole']>) => Promise<void>) {
	await page.goto(path)
	await button(page, /^Start statements/).click()
	await want(page.getByRole('dialog'))
	await button(page, 'Gather the statements').click()
	await page.waitForURL(/runs\/\d+/)
}

test('the month end, from the second extract to sent letters', async ({ page, tally }) => {
	await test.step('the extract says what is new, changed and gone, and where it does not tie', async () => {
		await page.goto('/bring-in')
		await page.getByLabel('File to bring in').setInputFiles(demoFile('open-items-2026-10-31.csv'))
		await expect(page.getByRole('heading', { name: /^\d+ new, \d+ changed, \d+ gone$/ })).toBeVisible()
		await expect(page.getByText(/control total is .*, out by 413\.48/)).toBeVisible()
		await expect(page.getByRole('heading', { name: 'One row refused' })).toBeVisible()
		await expect(button(page, /^Accept \d+ open items/)).toBeDisabled()
		await page.getByLabel('Why it is right all the same').fill('HOLL09 is no customer of ours')
		await button(page, 'Keep this reason').click()
		await button(page, /^Accept \d+ open items/).click()
		await expect(page.getByText(/As of 2026-10-31: \d+ new.*HOLL09 is no customer of ours/)).toBeVisible()
		await page.getByRole('link', { name: 'See who owes what' }).click()
		await expect(page.getByRole('row').filter({ hasText: 'Ardlow Ferries' })).toContainText('4,702.75')
	})

	await test.step('a stage’s letter is shown to those whom it would go to, with their items', async () => {
		// Nobody was written to before, so that it is the first, however late they are.
		await page.goto('/letters?kind=past-due-1')
		await page.getByLabel('As it would be read by').selectOption({ label: 'Ardlow Ferries' })
		await expect(page.getByRole('region', { name: 'As it would be read' })).toContainText(
			/£4,702\.75 of it is past its due date/,
		)
		await page.goto('/accounts')
	})

	await test.step('a payment ends a chase', async () => {
		await page.getByRole('link', { name: 'Islander Barge Company' }).click()
		const late = page.getByText('past due', { exact: true }).locator('xpath=following-sibling::dd')
		const amount = (await late.textContent()) ?? ''
		await button(page, 'Enter a payment').click()
		await page.getByLabel('Amount').fill(amount)
		await page.getByLabel('Where no item is chosen below').selectOption('oldest')
		await button(page, 'Enter the payment').click()
		await expect(late).toHaveText('0')
	})

	await test.step('one letter is held, written for its customer alone, and goes', async () => {
		await start(page, '/accounts?show=Ardlow', async (dialog) => {
			await dialog.getByLabel('For whom').selectOption('past-due')
			await dialog.getByLabel('Hold each to be read').check()
		})
		await button(page, 'Number 1 statement').click()
		await button(page, 'Make 1 PDF').click()
		await button(page, 'Read 1 message held').click()
		await expect(page.getByText('Held to be read before it goes.')).toBeVisible()
		await button(page, 'Write it for them alone').click()
		await page.getByLabel('Text of this message').fill('Dear Morag,\n\nthe two from summer, please.')
		await button(page, 'Keep this message').click()
		await expect(page.getByText('the two from summer, please.')).toBeVisible()
		await button(page, 'Read: let it go').click()
		await button(page, 'Send 1 in practice').click()
		await page.getByRole('dialog').getByRole('button', { name: 'Send 1 statement' }).click()
		await expect(button(page, /^Close the run/)).toBeVisible()
		await page.goto('/practice-mail')
		await page
			.getByRole('link', { name: /Statement .* past due/ })
			.first()
			.click()
		await expect(page.getByText('the two from summer, please.')).toBeVisible()
	})

	await test.step('past due only: who was just written to, or has paid, is held back with the reason', async () => {
		await start(page, '/accounts', (dialog) =>
			dialog
				.getByLabel('For whom')
				.selectOption('past-due')
				.then(() => {}),
		)
		await expect(button(page, /^Number \d+ statements/)).toBeVisible()
		await select(page, 'Ardlow Ferries')
		await expect(row(page, 'Ardlow Ferries')).toContainText('held: written to as of 31 Oct 2026')
		await select(page, 'Islander Barge')
		await expect(row(page, 'Islander Barge')).toContainText('held: nothing is past due')
	})

	await test.step('the paper has just the undisputed overdue debits, and the Why names the rest', async () => {
		await select(page, 'Baltray Sea')
		await tab(page, 'why').click()
		const why = page.getByRole('table', { name: 'Why each item is on it or not' })
		await expect(why).toContainText('on it: ')
		await expect(why).toContainText('not on it: disputed since 12 Oct 2026')
		await expect(why).toContainText(/not on it: not due until/)
		const disputed = await why
			.getByRole('row')
			.filter({ hasText: 'disputed' })
			.locator('.figures')
			.first()
			.textContent()
		const id = new URL(page.url()).searchParams.get('doc')
		const paper = await page.request.get(`${tally.url}/api/documents/${id}/pdf`)
		const text = (await pdfText(await paper.body())).join(' ')
		expect(text).toContain('Past due on this statement')
		expect(text).not.toContain(disputed ?? 'no number')
		for (const late of await why
			.getByRole('row')
			.filter({ hasText: 'on it: ' })
			.filter({ hasNotText: 'not on it' })
			.all())
			expect(text).toContain((await late.locator('.figures').first().textContent()) ?? 'no number')
	})

	await test.step('they are numbered, made and sent, the tally ties, and the run is closed', async () => {
		await page.getByLabel('Filter').fill('')
		await button(page, /^Number \d+ statements/).click()
		await button(page, /^Make \d+ PDFs/).click()
		await button(page, /^Send \d+ in practice/).click()
		await page
			.getByRole('dialog')
			.getByRole('button', { name: /^Send \d+ statements/ })
			.click()
		await button(page, /^Note \d+ as printed/).click()
		await button(page, /^Close the run/).click()
		await page.getByRole('dialog').getByRole('button', { name: 'Close the run' }).click()
		await expect(page.getByRole('region', { name: 'What was done in this run' })).toContainText('closed the run')
	})
})
