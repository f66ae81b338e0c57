import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { pdfText } from './pdf'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const outline = (page: Page) => page.getByRole('navigation', { name: 'Pieces' })
const settings = (page: Page) => page.getByRole('complementary', { name: 'Settings' })
const kept = (page: Page, words: string) =>
	expect(page.getByRole('status').filter({ hasText: `kept as a draft: ${words}` })).toBeVisible()

async function begin(page: Page, name: string, from: string) {
	await page.goto('/layouts')
	await button(page, 'New layout').click()
	await page.getByLabel('It begins as').selectOption({ label: from })
	await page.getByLabel('Its name').fill(name)
	await button(page, 'Begin').click()
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
}
async function add(page: Page, piece: string) {
	await button(page, 'Put a piece in').click()
	await page.getByRole('dialog').getByRole('button', { name: piece, exact: true }).click()
	await expect(settings(page).getByRole('heading', { name: piece })).toBeVisible()
}
/** Puts a field in at the cursor of the words being written. */
async function field(page: Page, name: string) {
	await settings(page).getByRole('button', { name: 'Put in a field' }).last().click()
	await pick(page, name)
}
async function pick(page: Page, name: string) {
	const dialog = page.getByRole('dialog')
	await dialog.getByLabel('Field').fill(name)
	await expect(dialog.getByRole('option', { selected: true })).toContainText(new RegExp(name, 'i'))
	await page.keyboard.press('Enter')
	await expect(dialog).toHaveCount(0)
}
/** Writes words, a string or a [field]. */
async function write(page: Page, box: RegExp, ...parts: (string | [field: string])[]) {
	const text = settings(page).getByRole('textbox', { name: box }).last()
	await text.click()
	await page.keyboard.press('Control+a')
	await page.keyboard.press('Delete')
	for (const part of parts)
		if (typeof part === 'string') await page.keyboard.type(part)
		else await field(page, part[0])
}
const release = async (page: Page, note: string) => {
	await button(page, /^Release version/).click()
	await page.getByLabel('What changed, in a line').fill(note)
	await page
		.getByRole('dialog')
		.getByRole('button', { name: /^Release version/ })
		.click()
	await expect(page.getByRole('dialog')).toHaveCount(0)
}

test('a layout is made from nothing, refused while it lacks what an invoice must bear, mended by what is said, and released', async ({
	page,
}) => {
	await begin(page, 'Quayside', 'an empty paper')
	await add(page, 'Picture')
	await add(page, 'Words')
	await write(page, /Words in/, 'Invoice ', ['number'], ' of ', ['date'], '. ', ['tax number'])
	await add(page, 'Address')
	await settings(page).getByLabel('Whose').selectOption({ label: 'the firm’s' })
	await add(page, 'Address')
	await settings(page).getByLabel('In the window of').selectOption({ label: 'DL' })
	await expect(outline(page).getByRole('button', { name: /Address: customer/ })).toContainText('in the window')
	// The table: sorted by what it comes to, the large ones alone.
	await add(page, 'Lines')
	await settings(page).getByRole('button', { name: 'Sort by …' }).click()
	await pick(page, 'Net')
	await settings(page).getByLabel('Direction').selectOption('down')
	await settings(page)
		.getByRole('group', { name: 'Only those that' })
		.getByRole('button', { name: 'Only when …' })
		.click()
	await pick(page, 'Quantity')
	const only = settings(page).getByRole('group', { name: 'Only those that' })
	await only.getByLabel('How it is compared').selectOption('above')
	await only.getByLabel('Value').fill('1')
	await only.getByLabel('Value').blur()
	await expect(only).toContainText('quantity is above 1')
	await add(page, 'Totals')
	await settings(page).getByRole('checkbox', { name: 'Tax, a row a rate' }).uncheck()
	await add(page, 'Words')
	await write(page, /Words in/, 'Thank you for paying early.')
	await settings(page).getByRole('group', { name: 'Shown' }).getByRole('button', { name: 'Only when …' }).click()
	await pick(page, 'Amount due')
	await expect(settings(page).getByRole('group', { name: 'Shown' })).toContainText('amount due is not empty')
	await add(page, 'Code')
	await kept(page, 'put code in')
	await release(page, 'ours')
	await expect(page.getByText(/It cannot be released: .* does not bear .*the amount of a tax/)).toBeVisible()
	// Mended where it is said.
	await outline(page).getByRole('button', { name: 'Totals' }).click()
	await settings(page).getByRole('checkbox', { name: 'Tax, a row a rate' }).check()
	await kept(page, 'changed totals')
	await button(page, 'The whole paper').click()
	// Colours of the firm's own.
	await settings(page).getByLabel('Colour ink', { exact: true }).fill('#1a3f5c')
	await kept(page, 'changed the colour ink')
	await release(page, 'ours')
	await expect(page.getByText('invoice, version 1', { exact: false })).toBeVisible()
	const text = await pdfText(await (await page.request.get(`/api${new URL(page.url()).pathname}/pdf`)).body())
	expect(text[0]).toMatch(/Invoice SK-\d+ of \d+ \w+ 2026/)
	expect(text[0]).toContain('Thank you for paying early.')
	expect(text[0]).toContain('Trial')
})

test('a version is brought back, and steps are taken back and done again', async ({ page }) => {
	await begin(page, 'Twice', 'the look Ledger, as it ships')
	await release(page, 'as it ships')
	await expect(button(page, 'Release version 2')).toBeDisabled()
	await outline(page).getByRole('button', { name: /^Rule/ }).last().click()
	await settings(page).getByRole('button', { name: 'Take away' }).click()
	await kept(page, 'took rule away')
	const rules = () => outline(page).getByRole('button', { name: /^Rule/ }).count()
	expect(await rules()).toBe(0)
	await button(page, /^Undo/).click()
	await expect.poll(rules).toBe(1)
	await button(page, /^Redo/).click()
	await expect.poll(rules).toBe(0)
	await release(page, 'without the band at the foot')
	await button(page, 'Versions').click()
	await page
		.getByRole('row', { name: /as it ships/ })
		.getByRole('button', { name: 'Bring it back' })
		.click()
	await expect.poll(rules).toBe(1)
	await expect(button(page, 'Release version 3')).toBeEnabled()
	// The page read anew has it too: what is in the making is kept.
	await page.reload()
	await expect.poll(rules).toBe(1)
	await button(page, 'Versions').click()
	await button(page, 'Throw away what is in the making').click()
	await button(page, 'Throw it away').click()
	await expect.poll(rules).toBe(0)
})

test('the order of pieces is changed by keyboard alone, and the paper follows', async ({ page }) => {
	await begin(page, 'By keys', 'the look Plain, as it ships')
	const names = async () =>
		(await outline(page).getByRole('button').allTextContents()).filter(
			(text) => !/^Put a piece|^The whole paper/.test(text),
		)
	const before = await names()
	await page.getByRole('img', { name: /^Page 1 of/ }).waitFor()
	for (let count = 0; count < 40; count++) {
		await page.keyboard.press('ArrowDown')
		const current = await outline(page).locator('[aria-current=true]').textContent()
		if (current?.startsWith('Rule')) break
	}
	const at = before.indexOf('Rule')
	await page.keyboard.press('Alt+ArrowDown')
	await expect.poll(names).not.toEqual(before)
	await page.keyboard.press('Alt+ArrowUp')
	await expect.poll(names).toEqual(before)
	await page.keyboard.press('Alt+ArrowUp')
	await expect.poll(async () => (await names()).indexOf('Rule')).toBeLessThan(at)
	await page.keyboard.press('z')
	await expect.poll(names).toEqual(before)
	await page.keyboard.press('a')
	await page.getByRole('dialog').getByRole('button', { name: 'Space' }).press('Enter')
	await expect.poll(async () => (await names()).length).toBe(before.length + 1)
	await page.keyboard.press('Delete')
	await expect.poll(async () => (await names()).length).toBe(before.length)
})

test('two clerks at one layout: the second change is refused and says who was first', async ({ page, context }) => {
	await begin(page, 'Shared', 'the look Margin, as it ships')
	const other = await context.newPage()
	await other.goto(page.url())
	await other.getByRole('img', { name: /^Page 1 of/ }).waitFor()
	for (const own of [page, other])
		await outline(own)
			.getByRole('button', { name: /^Lines/ })
			.first()
			.click()
	await settings(page).getByLabel('Space round a line').fill('6')
	await settings(page).getByLabel('Space round a line').press('Enter')
	await kept(page, 'changed lines')
	await settings(other).getByLabel('Space round a line').fill('1')
	await settings(other).getByLabel('Space round a line').press('Enter')
	await expect(
		other.getByText(/changed this layout at .*: changed lines\. Your last change was not kept/),
	).toBeVisible()
	await other.close()
})

test('a customer’s own layout and language stand on their invoice in a run; one draft is given another', async ({
	page,
}) => {
	await page.goto('/layouts')
	await page.getByLabel('Customer or language').selectOption({ label: 'Veenskar Offshore (VEEN01)' })
	await button(page, 'Give them their own').click()
	const theirs = page.getByLabel('Invoices of Veenskar Offshore (VEEN01)')
	await theirs.selectOption({ label: 'Margin' })
	// It shows what is in the books.
	await expect(theirs.locator('option:checked')).toHaveText('Margin')
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await button(page, /^Accept/).click()
	await expect(page.getByText(/were added/)).toBeVisible()
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await button(page, /^Gather/).click()
	await expect(button(page, /^Number \d+ invoices/)).toBeVisible()
	await page.getByLabel('Filter').fill('Veenskar')
	await page.getByRole('option').filter({ hasText: 'Veenskar' }).first().click()
	const chosen = page.getByLabel('Layout of this draft')
	await expect(chosen).toContainText('Margin, version 1, as usual')
	const id = new URL(page.url()).searchParams.get('doc')
	const text = async () => (await pdfText(await (await page.request.get(`/api/documents/${id}/pdf`)).body())).join(' ')
	for (const words of ['Faktura', 'Forfall', 'Beskrivelse', 'Utkast']) expect(await text()).toContain(words)
	await chosen.selectOption({ label: 'Ledger' })
	await expect.poll(text).toContain('Forfallsdato')
	await chosen.selectOption({ label: 'what they usually get' })
	await expect.poll(text).not.toContain('Forfallsdato')
})
