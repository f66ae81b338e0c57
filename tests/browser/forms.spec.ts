import { expect, type Page } from '@playwright/test'
import { demoFile, octoberOrders } from './demoFile'
import { pdfText } from './pdf'
import { root, test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const mark = (page: Page, name: string) =>
	page
		.getByRole('list', { name: 'Marks of the form' })
		.getByRole('listitem')
		.filter({ has: page.getByText(name, { exact: true }) })
const kept = (page: Page) => expect(page.getByRole('status').filter({ hasText: /^kept$/ })).toBeVisible()

async function bringForm(page: Page, file: string, name: string) {
	await page.goto('/layouts')
	await button(page, 'Bring in a form you have').click()
	await page.getByLabel('The form: DOCX, ODT or HTML').setInputFiles(file)
	await page.getByLabel('Name of the layout').fill(name)
	await button(page, 'Bring it in').click()
	await page.waitForURL(/layouts\/forms\/\d+/)
	await expect(page.getByRole('heading', { name: 'Marks of the form' })).toBeVisible()
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
}

/** An ordinary order of October as a file of its own. */
function orderOf(customer: string, at: number) {
	const [lines = []] = octoberOrders()
		.filter(
			(rows) =>
				rows[0]?.Customer === customer && rows.every((line) => line['Unit price'] && !line['Disc %'] && !line.Freight),
		)
		.slice(at)
	const heads = Object.keys(lines[0] ?? {})
	const cell = (text = '') => `"${text.replaceAll('"', '""')}"`
	const csv = [heads, ...lines.map((line) => heads.map((head) => line[head]))]
		.map((row) => row.map(cell).join(','))
		.join('\n')
	return {
		lines,
		file: { name: `order-${lines[0]?.['Order No']}.csv`, mimeType: 'text/csv', buffer: Buffer.from(csv) },
	}
}

/** Bills an order and sends its invoice in practice. @returns the invoice's page and text */
async function billAndSend(page: Page, order: ReturnType<typeof orderOf>): Promise<string> {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(order.file)
	await button(page, /^Accept 1 order/).click()
	await expect(page.getByText(/1 order with \d+ lines? were added/)).toBeVisible()
	await page.goto('/to-bill')
	await button(page, 'Start a run').click()
	await button(page, /^Gather 1 order/).click()
	await page.waitForURL(/\/runs\/\d+/)
	await button(page, /^Number 1 invoice/).click()
	await button(page, 'Make 1 PDF').click()
	await button(page, /^Send 1 in practice/).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect(button(page, 'Close the run')).toBeVisible()
	const found = await page.request.get(`/api/find?q=${order.lines[0]?.['Order No']}`)
	const [place] = (await found.json()) as { path: string }[]
	await page.goto(place?.path ?? '')
	const number = ((await page.getByRole('heading', { level: 1 }).textContent()) ?? '').replace('Invoice ', '')
	await page.goto(`/practice-mail?show=${number}`)
	await page.getByRole('link', { name: new RegExp(number) }).click()
	const link = page.getByRole('link', { name: /\.pdf/ })
	await expect(link).toBeVisible()
	const answer = await page.request.get((await link.getAttribute('href')) ?? '')
	const [text = ''] = await pdfText(await answer.body())
	return text
}

test('a form in Norwegian is mapped by mouse, released, chosen for a customer and sent', async ({ page }) => {
	await bringForm(page, `${root}/tests/forms/page.html`, 'Fakturaskjema')
	await test.step('nothing is taken unseen; each mark shows what is offered for it on a real invoice', async () => {
		await expect(page.getByText('0 of 23 marks say what they are')).toBeVisible()
		await expect(mark(page, 'Forfall')).toContainText('Due date?')
		await expect(mark(page, 'Forfall')).toContainText(/\d{1,2} \w{3} 20\d\d/)
		await expect(page.getByText('Hidden text of the form is left out.')).toBeVisible()
	})
	const names = await page
		.getByRole('list', { name: 'Marks of the form' })
		.getByRole('button', { name: /^Take / })
		.count()
	expect(names).toBeGreaterThan(20)
	for (let left = names; left > 1; left--) {
		await page
			.getByRole('list', { name: 'Marks of the form' })
			.getByRole('button', { name: /^Take / })
			.first()
			.click()
		await expect(
			page.getByRole('list', { name: 'Marks of the form' }).getByRole('button', { name: /^Take / }),
		).toHaveCount(left - 1)
	}
	await test.step('a field of another kind is looked up among ours', async () => {
		await mark(page, 'Ref').getByRole('button').first().click()
		await page.getByPlaceholder('part of its name').fill('orders')
		await page.getByRole('option', { name: /^Orders/ }).click()
		await expect(mark(page, 'Ref')).toContainText('= Orders')
		await button(page, /^Undo/).click()
		await expect(mark(page, 'Ref')).toContainText('= Their orders')
	})
	await page
		.getByRole('list', { name: 'Marks of the form' })
		.getByRole('button', { name: /^Take / })
		.click()
	await kept(page)
	await page
		.getByRole('button', { name: 'The next paper' })
		.or(page.getByRole('button', { name: 'The paper before' }))
		.first()
		.click()
	await button(page, /^Make the layout/).click()
	await button(page, 'Make it').click()
	await page.waitForURL(/layouts\/\d+$/)
	await button(page, /^Release version 1/).click()
	await page.getByLabel('What changed, in a line').fill('as the form was')
	await page
		.getByRole('dialog')
		.getByRole('button', { name: /^Release version/ })
		.click()
	await expect(page.getByRole('dialog')).toHaveCount(0)
	await expect(page.getByText('invoice, version 1', { exact: false })).toBeVisible()

	await page.goto('/layouts')
	await page.getByLabel('Customer or language').selectOption({ label: 'Ronas Salvage (RONA01)' })
	await button(page, 'Give them their own').click()
	await page.getByLabel('Invoices of Ronas Salvage').selectOption({ label: 'Fakturaskjema' })
	// The list says so when it is in the books.
	await expect(page.getByRole('listitem').filter({ hasText: 'Fakturaskjema' })).toContainText('Ronas Salvage')
	const order = orderOf('Ronas Salvage', 0)
	const text = await billAndSend(page, order)
	for (const words of [
		'Faktura SK-',
		'Forfallsdato',
		'Beskrivelse',
		'Sum eks. mva',
		'Takk for handelen.',
		'Ronas Salvage',
	])
		expect(text).toContain(words)
	for (const line of order.lines) expect(text.replace(/\s/g, '')).toContain((line.Description ?? '').replace(/\s/g, ''))
})

test('the firm’s own form is mapped by keyboard alone to a released layout', async ({ page }) => {
	const { keyboard } = page
	await page.goto('/layouts')
	await page.getByRole('link', { name: 'Old invoice form', exact: true }).focus()
	await keyboard.press('Enter')
	await page.waitForURL(/layouts\/forms\/\d+/)
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
	const current = page.locator('[aria-current=true]')
	await expect(current).toContainText('Our address')
	await keyboard.press('Enter')
	await expect(mark(page, 'Our address')).toContainText('= The firm: Address')
	await expect(current).toContainText('Customer')
	await keyboard.press('ArrowDown')
	await keyboard.press('ArrowDown')
	await expect(current).toContainText('Bank details')
	await keyboard.press('/')
	await keyboard.type('bank')
	await keyboard.press('Enter')
	await expect(mark(page, 'Bank details')).toContainText('= The firm: Bank')
	await keyboard.press('Escape')
	await keyboard.press('t')
	await expect(mark(page, 'Invoice no')).toContainText('= it is text and stays')
	await keyboard.press('z')
	await expect(mark(page, 'Invoice no')).toContainText('Number?')
	await keyboard.press('a')
	await expect(page.getByText('23 of 23 marks say what they are')).toBeVisible()
	await kept(page)
	await keyboard.press('g')
	await expect(page.getByRole('dialog')).toBeVisible()
	await expect(button(page, 'Make it')).toBeFocused()
	await keyboard.press('Enter')
	await page.waitForURL(/layouts\/\d+$/)
	await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible()
	await keyboard.press('g')
	await expect(page.getByLabel('What changed, in a line')).toBeFocused()
	await keyboard.type('from the old form')
	await keyboard.press('Enter')
	await expect(page.getByRole('dialog')).toHaveCount(0)
	await expect(page.getByText('version 1 in the making')).toHaveCount(0)

	await test.step('a newer form of it keeps what was said, and words can be pointed at', async () => {
		await page.getByRole('link', { name: 'Its form' }).focus()
		await keyboard.press('Enter')
		await page.waitForURL(/layouts\/forms\/\d+/)
		await expect(button(page, /^Make the layout anew/)).toBeVisible()
		await keyboard.press('w')
		await page.getByRole('button', { name: 'inspected' }).focus()
		await keyboard.press('Enter')
		await button(page, 'Make a mark of “inspected”').focus()
		await keyboard.press('Enter')
		await expect(mark(page, 'inspected')).toContainText('says nothing yet')
		await expect(page.getByText('23 of 24 marks say what they are')).toBeVisible()
	})
})

test('what is no form is refused on its page with what to do instead', async ({ page }) => {
	await page.goto('/layouts')
	await button(page, 'Bring in a form you have').click()
	await page.getByLabel('The form: DOCX, ODT or HTML').setInputFiles(demoFile('orders-2026-10.csv'))
	await button(page, 'Bring it in').click()
	await expect(
		page.getByRole('alert').filter({ hasText: 'It is no text document: a form is DOCX, ODT or HTML.' }),
	).toBeVisible()
	await button(page, 'Put this form away').click()
	await page.waitForURL(/\/layouts$/)
	await expect(page.getByText('orders-2026-10.csv')).toHaveCount(0)
})
