import { expect, type Page } from '@playwright/test'
import { demoFile } from './demoFile'
import { test } from './tally'

/** Tabs on until the focused element bears the name. */
async function tabTo(page: Page, name: RegExp) {
	for (let step = 0; step < 80; step++) {
		const focused = await page.evaluate(() => {
			const element = document.activeElement
			return element?.getAttribute('aria-label') ?? element?.textContent ?? ''
		})
		if (name.test(focused.trim())) return
		await page.keyboard.press('Tab')
	}
	throw new Error(`Tab does not reach ${name}`)
}

/** Waits until the page answers to its keys: Ctrl K opens the find box, Escape leaves it. */
async function awake(page: Page) {
	await expect(async () => {
		await page.keyboard.press('Control+k')
		await expect(page.getByRole('dialog')).toBeVisible({ timeout: 500 })
	}).toPass()
	await page.keyboard.press('Escape')
	await expect(page.getByRole('dialog')).toHaveCount(0)
	// The focus goes back to where it was a moment after the box is gone.
	await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done))))
}

test('the whole month’s work is done without the mouse', async ({ page }) => {
	const { keyboard } = page
	// Waited for from the start: a key may open the chooser before a wait begun just then is in place.
	const chooser = page.waitForEvent('filechooser')
	await page.goto('/')
	await awake(page)
	await tabTo(page, /^Bring in/)
	await keyboard.press('Enter')
	await page.waitForURL('**/bring-in')
	await awake(page)
	await tabTo(page, /^Choose a file$/)
	await keyboard.press('Enter')
	await (await chooser).setFiles(demoFile('orders-2026-10.csv'))
	await page.waitForURL(/bring-in\/\d+/)
	await expect(page.getByRole('button', { name: /^Accept \d+ orders/ })).toBeEnabled()
	await keyboard.press('g')
	await expect(page.getByText(/orders with \d+ lines were added/)).toBeVisible()
	await tabTo(page, /^See what is to bill$/)
	await keyboard.press('Enter')
	await page.waitForURL('**/to-bill')
	await keyboard.press('g')
	await expect(page.getByRole('dialog')).toBeVisible()
	await tabTo(page, /^Gather \d+ orders$/)
	await keyboard.press('Enter')
	await page.waitForURL(/runs\/\d+/)
	await expect(page.getByRole('button', { name: /^Number \d+/ })).toBeEnabled()

	const selected = page.getByRole('listbox').getByRole('option', { selected: true })
	await expect(selected).toContainText('no price')
	await keyboard.press('n')
	await expect(selected).toContainText(/first invoice|same as|far from/)
	await keyboard.press('k')
	await expect(selected).toContainText('no price')
	await keyboard.press('h')
	await expect(page.getByLabel('Why')).toBeFocused()
	await keyboard.type('Price is asked for')
	await keyboard.press('Enter')
	await expect(selected).toContainText('held: Price is asked for')
	await keyboard.press('h')
	await expect(selected).not.toContainText('held')
	await keyboard.press('/')
	await keyboard.type('Dunmarrow')
	await keyboard.press('Enter')
	await keyboard.press('j')
	await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('same as')
	await keyboard.press('k')
	await keyboard.press('Space')
	await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('looked at')
	await keyboard.press('w')
	await expect(page.getByRole('tab', { name: 'Working' })).toHaveAttribute('aria-selected', 'true')
	await keyboard.press('?')
	await expect(page.getByRole('dialog')).toContainText('hold back, release')
	await keyboard.press('Escape')
	await expect(page.getByRole('dialog')).toHaveCount(0)
	await expect(page.getByRole('button', { name: /^Number \d+/ })).toBeEnabled()

	await keyboard.press('g')
	// A key rests while the button that it stands for is off.
	await expect(page.getByRole('button', { name: /^Make \d+/ })).toBeEnabled()
	await keyboard.press('g')
	await expect(page.getByRole('button', { name: /^Send \d+/ })).toBeEnabled()
	await keyboard.press('g')
	await expect(page.getByRole('dialog').getByRole('button', { name: /^Send \d+/ })).toBeFocused()
	await keyboard.press('Enter')
	await expect(page.getByRole('button', { name: /^Note \d+/ })).toBeVisible()

	await keyboard.press('Control+k')
	await keyboard.type('Dunmarrow')
	await expect(
		page
			.getByRole('listbox')
			.getByRole('option', { name: /Dunmarrow Harbour Trust/ })
			.first(),
	).toBeVisible()
	await keyboard.press('Enter')
	await page.waitForURL(/accounts\/\d+/)
	await expect(page.getByRole('table', { name: 'Messages' })).toContainText('sent')
})
