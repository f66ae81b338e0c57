import { expect } from '@playwright/test'
import { demoFile, octoberOrders, plainTotal } from './demoFile'
import { pdfText } from './pdf'
import { test } from './tally'

// An ordinary order of a customer who is invoiced by order: what its rows say must reach the customer.
const plain = octoberOrders().find(
	(lines) =>
		lines.length > 2 &&
		lines[0]?.Curr === 'GBP' &&
		lines[0].Customer === 'Ronas Salvage' &&
		lines.every((line) => line['Unit price'] && !line['Disc %'] && !line['Order disc %'] && !line.Freight),
)

test('a file of orders becomes sent invoices whose PDFs say what the file says', async ({ page, tally }) => {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
	await expect(
		page.getByRole('heading', { name: '6 rows refused' }).or(page.getByRole('heading', { name: /rows refused/ })),
	).toBeVisible()
	await expect(page.getByRole('table', { name: 'Refused rows' })).toContainText('after a number is not known')
	await page.getByRole('button', { name: /^Accept \d+ orders/ }).click()
	await expect(page.getByText(/orders with \d+ lines were added/)).toBeVisible()

	await test.step('the same file again adds nothing and says so', async () => {
		await page.goto('/bring-in')
		await page.getByLabel('File to bring in').setInputFiles(demoFile('orders-2026-10.csv'))
		await expect(page.getByText('This very file was accepted before. Nothing was added.')).toBeVisible()
	})

	await page.goto('/to-bill')
	await page.getByLabel('Filter').fill('Fennick')
	await expect(page.getByText(/\d+ in GBP/)).toBeVisible()
	await page.getByRole('button', { name: 'Start a run' }).click()
	await page.getByRole('button', { name: /^Gather \d+ orders/ }).click()
	await page.waitForURL(/\/runs\/\d+/)
	const number = page.getByRole('button', { name: /^Number \d+ invoices/ })
	await expect(number).toBeVisible()

	await test.step('a document is held back with a reason, and the tally opens to it', async () => {
		const before = Number((await number.textContent())?.match(/\d+/)?.[0])
		await page.getByRole('option').filter({ hasText: 'Gullane Rock Lights' }).first().click()
		await expect(page.getByText('This is the first invoice to this customer')).toBeVisible()
		await page.getByRole('button', { name: /^Hold back/ }).click()
		await page.getByLabel('Why').fill('Asked for a purchase order')
		await page.getByRole('button', { name: 'Hold it back' }).click()
		await expect(page.getByRole('button', { name: `Number ${before - 1} invoices` })).toBeVisible()
		await page
			.getByRole('button', { name: /Checked: out by/ })
			.first()
			.click()
		await expect(page.getByRole('dialog')).toContainText('held back by Wren: Asked for a purchase order')
		await expect(page.getByRole('dialog')).toContainText('line 2 has no price')
		await page.keyboard.press('Escape')
		await page.getByRole('button', { name: /^Release/ }).click()
		await expect(page.getByRole('button', { name: `Number ${before} invoices` })).toBeVisible()
	})

	await test.step('the working says how a figure was reached, down to the row', async () => {
		await page.getByRole('tab', { name: 'Working' }).click()
		await expect(page.getByText(/orders-2026-10\.csv, row \d+/).first()).toBeVisible()
		await expect(page.getByText(/STD: 20% of [\d.]+ is [\d.]+/).first()).toBeVisible()
		await page.getByRole('tab', { name: 'Paper' }).click()
		await expect(page.getByRole('img', { name: /^Invoice draft to/ }).first()).toBeVisible()
	})

	await number.click()
	const make = page.getByRole('button', { name: /^Make \d+ PDFs/ })
	await expect(make).toBeVisible()
	const asked = page.waitForResponse((answer) => answer.request().method() === 'POST')
	await make.click()
	await asked
	await page.reload()
	const send = page.getByRole('button', { name: /^Send \d+ in practice/ })
	await expect(send).toBeVisible()
	await send.click()
	await expect(page.getByRole('dialog')).toContainText('nowhere else')
	await page
		.getByRole('dialog')
		.getByRole('button', { name: /^Send \d+ invoices/ })
		.click()
	await expect(page.getByRole('button', { name: /^Note \d+ as printed/ })).toBeVisible()

	const order = plain?.[0]?.['Order No'] ?? ''
	const customer = plain?.[0]?.Customer ?? ''
	const subject = await test.step('the sent log has the message', async () => {
		const found = await page.request.get(`/api/find?q=${order}`)
		const [place] = (await found.json()) as { path: string }[]
		await page.goto(place?.path ?? '')
		const title = (await page.getByRole('heading', { level: 1 }).textContent()) ?? ''
		const issued = title.replace('Invoice ', '')
		await page.goto(`/sent-log?show=${issued}`)
		await expect(page.getByRole('row').filter({ hasText: customer })).toContainText('250 Kept as practice message')
		await page.getByRole('cell').getByRole('link').first().click()
		await expect(page.getByText(/This is the very message/)).toBeVisible()
		return issued
	})

	await test.step('the PDF inside the received message says what the file says', async () => {
		await page.goto(`/practice-mail?show=${subject}`)
		await page.getByRole('link', { name: new RegExp(subject) }).click()
		await expect(page.getByText(`Dear ${customer}`)).toBeVisible()
		const link = await page.getByRole('link', { name: new RegExp(`${subject}.*\\.pdf`) }).getAttribute('href')
		const file = await page.request.get(`${tally.url}${link}`)
		const text = (await pdfText(await file.body())).join(' ')
		expect(text).toContain(subject)
		expect(text).toContain(customer)
		for (const line of plain ?? []) {
			expect(text).toContain(line.Description)
			expect(text).toContain(`${Number(line.Qty).toLocaleString('en-GB')} ${line.Unit}`)
		}
		const total = (plainTotal(plain ?? []) / 100).toLocaleString('en-GB', { style: 'currency', currency: 'GBP' })
		expect(text).toContain(`Total ${total}`)
		expect(text).toContain(`Please pay ${total} by`)
	})

	await test.step('what was printed is noted, and the run is closed with its stopped orders waiting again', async () => {
		await page.goto('/runs')
		await page.getByRole('link', { name: /invoices to 31 Oct 2026/ }).click()
		await page.getByRole('button', { name: /^Note \d+ as printed/ }).click()
		await page.getByRole('button', { name: /^Look at \d+ stopped/ }).click()
		const stopped = page.getByRole('option').filter({ hasText: 'Fennick Boatyard' })
		await stopped.click()
		await page.getByRole('button', { name: /^Hold back/ }).click()
		await page.getByLabel('Why').fill('Asked the counter')
		await page.keyboard.press('Enter')
		await expect(stopped).toHaveCount(0)
		await page.getByRole('button', { name: 'Close the run' }).click()
		await page.getByRole('dialog').getByRole('button', { name: 'Close the run' }).click()
		await expect(page.getByText(/^Closed /)).toBeVisible()
		await page.goto('/to-bill')
		await expect(page.getByText('1 order waits')).toBeVisible()
	})
})
