import { expect } from '@playwright/test'
import { test } from './tally'

const many = 3000

/** A file of orders for three customers, each order two lines. */
function largeFile(): Buffer {
	const rows = ['Order No,Date,Account,Item,Description,Qty,Unit price,VAT code']
	for (let index = 0; index < many; index++) {
		const account = ['LUNN01', 'INVE01', 'QUEN01'][index % 3]
		rows.push(`L${100_000 + index},23/10/2026,${account},THM-16,"Thimble, batch ${index}",${(index % 9) + 1},1.85,STD`)
		rows.push(`L${100_000 + index},23/10/2026,${account},RNG-M,Mooring ring,1,17.40,STD`)
	}
	return Buffer.from(rows.join('\n'))
}

test(`a run of ${many} is read, filtered, walked through and stopped without losing its place`, async ({ page }) => {
	await page.goto('/bring-in')
	await page
		.getByLabel('File to bring in')
		.setInputFiles({ name: 'large.csv', mimeType: 'text/csv', buffer: largeFile() })
	await page.getByRole('button', { name: `Accept ${many.toLocaleString('en-GB')} orders` }).click()
	await expect(page.getByText(`${many} orders with ${2 * many} lines were added.`)).toBeVisible()
	await page.goto('/to-bill')
	await page.getByLabel('Filter').fill('L102999')
	await expect(page.getByText('1 in GBP', { exact: false })).toBeVisible()
	await page.getByRole('button', { name: 'Start a run' }).click()
	await page.getByRole('button', { name: `Gather ${many} orders` }).click()
	await expect(page.getByRole('button', { name: `Number ${many} invoices` })).toBeVisible()

	await test.step('only what is in view is drawn, and the last row is reached', async () => {
		await expect(page.getByRole('button', { name: `All ${many}` })).toBeVisible()
		const list = page.getByRole('listbox')
		const shown = list.getByRole('option')
		expect(await shown.count()).toBeLessThan(80)
		await list.evaluate((box) => box.scrollTo(0, box.scrollHeight))
		await expect(shown.last()).toHaveAttribute('aria-posinset', String(many))
		await page.getByLabel('Filter').fill('L102998')
		await expect(shown).toHaveCount(1)
		await page.getByLabel('Filter').fill('')
	})

	await page.getByRole('button', { name: `Number ${many} invoices` }).click()
	await page.getByRole('button', { name: `Make ${many} PDFs` }).click()
	await expect(page.getByRole('status').filter({ hasText: 'Making PDFs' })).toContainText(/\d+ of 3000/)

	await test.step('paused, it waits through a reload, and goes on by its key', async () => {
		await page.getByRole('button', { name: 'Pause', exact: true }).click()
		const status = page.getByRole('status').filter({ hasText: 'Paused:' })
		await expect(status).toBeVisible()
		await page.reload()
		await expect(status).toContainText(/\d+ of 3000/)
		await expect(page.getByRole('button', { name: /^Go on/ })).toBeVisible()
		await page.keyboard.press('g')
		await expect(page.getByRole('status').filter({ hasText: 'Making PDFs' })).toBeVisible()
	})

	await test.step('stopped, it says how far it came; asked again, it goes on from there', async () => {
		await page.getByRole('button', { name: 'Stop', exact: true }).click()
		await expect(page.getByText(/Stopped with \d+ of 3000 PDFs made/)).toBeVisible()
		const rest = page.getByRole('button', { name: /^Make \d+ PDFs/ })
		const left = Number((await rest.textContent())?.match(/\d+/)?.[0])
		expect(left).toBeGreaterThan(0)
		expect(left).toBeLessThan(many)
		await page.reload()
		await rest.click()
		await expect(page.getByRole('button', { name: /^Send \d+ in practice/ })).toBeVisible()
	})
})
