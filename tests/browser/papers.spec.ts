import { expect, type Page } from '@playwright/test'
import { pdfText } from './pdf'
import { test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
/** The text of a document's PDF. */
async function paperText(page: Page): Promise<string> {
	const [, id] = /documents\/(\d+)/.exec(page.url()) ?? []
	const answer = await page.request.get(`/api/documents/${id}/pdf`)
	return (await pdfText(await answer.body())).join('\n')
}

test('a quote is written and sent by keyboard, accepted in part into an order and billed once; both say so of each other', async ({
	page,
}) => {
	await page.goto('/papers')
	await page.getByRole('link', { name: 'Quote', exact: true }).click()
	await expect(page.getByRole('heading', { name: 'Quote', level: 1 })).toBeVisible()
	await page.keyboard.press('o')
	await page.waitForURL(/\/write$/)
	await test.step('written like an order, with what is known looked up', async () => {
		const { keyboard } = page
		const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
		await expect(page.getByLabel('Customer')).toBeFocused()
		await keyboard.type('calder')
		await expect(page.getByRole('option', { name: /Calder Mussel Growers/ })).toBeVisible()
		await keyboard.press('Enter')
		await expect.poll(focused).toBe('Their order')
		await keyboard.press('Enter')
		for (const [line, [item, quantity]] of [
			['rope-16', '120'],
			['buoy-l2', '1'],
		].entries()) {
			await expect.poll(focused).toBe(`Item of line ${line + 1}`)
			await keyboard.type(item ?? '')
			await expect(page.getByRole('option', { name: new RegExp(item ?? '', 'i') }).first()).toBeVisible()
			await keyboard.press('Enter')
			await expect.poll(focused).toBe(`Quantity of line ${line + 1}`)
			await keyboard.type(quantity ?? '')
			await expect(page.getByLabel(`Price of line ${line + 1}`)).toHaveAttribute('placeholder', /\d/)
			await keyboard.press('Enter')
		}
		await page.keyboard.press('Control+Enter')
		await expect(page.getByText(/Quote QR-\d+ for Calder Mussel Growers is kept/)).toBeVisible()
	})
	await page.getByRole('link', { name: 'Open it' }).click()
	await expect(page.getByText('None was made yet.')).toBeVisible()
	await test.step('made by one key, seen, and issued and sent by another', async () => {
		await page.keyboard.press('m')
		await page.waitForURL(/\/documents\/\d+$/)
		await expect(page.getByRole('heading', { name: 'Draft quote' })).toBeVisible()
		await page.keyboard.press('s')
		await expect(page.getByText('is issued and on its way')).toBeVisible()
		await expect
			.poll(
				async () => {
					await page.reload()
					return button(page, /^Accepted/).count()
				},
				{ intervals: [1500] },
			)
			.toBe(1)
	})
	const quote = page.url()
	const title = (await page.getByRole('heading', { level: 1 }).textContent()) ?? ''
	const number = title.replace('Quote ', '')
	expect(await paperText(page)).toContain('30 Nov 2026')
	await expect
		.poll(async () =>
			(await (await page.request.get(`/practice-mail?show=${number}`)).text()).includes(`Quote ${number} from`),
		)
		.toBe(true)
	await test.step('accepted in part', async () => {
		await page.goto(quote)
		await page.keyboard.press('a')
		const ask = page.getByRole('dialog')
		await ask.getByRole('checkbox').nth(1).uncheck()
		await ask.getByRole('button', { name: 'Make the order' }).click()
		await page.waitForURL(/\/orders\/\d+$/)
		await expect(page.getByText('waits to be billed')).toBeVisible()
		await expect(page.getByRole('link', { name: title })).toBeVisible()
	})
	const order = page.url()
	await test.step('billed once, with the price of the quote', async () => {
		await page.goto('/to-bill')
		await button(page, 'Start a run').click()
		await button(page, /^Gather 1 order/).click()
		await page.waitForURL(/\/runs\/\d+/)
		await button(page, /^Number 1 invoice/).click()
		await expect(button(page, 'Make 1 PDF')).toBeVisible()
		await page.goto(order)
		await expect(page.getByRole('link', { name: 'billed' })).toBeVisible()
		await page.goto(quote)
		await expect(page.getByText(/1 of its lines accepted by .* into/)).toContainText(/billed on SK-\d+/)
		await expect(page.getByText('1 of its lines can still be accepted.')).toBeVisible()
		await page.keyboard.press('a')
		await expect(page.getByRole('dialog').getByRole('checkbox').first()).toBeDisabled()
		await page.keyboard.press('Escape')
	})
})

test('a record lists its papers by versions: made again it asks, and a kind is taken away only when nothing of it is open', async ({
	page,
}) => {
	await page.goto('/papers')
	await test.step('from a paper to the order that it was made from', async () => {
		const found = await page.request.get('/api/find?q=BRAC01')
		const [place] = (await found.json()) as { path: string }[]
		await page.goto(place?.path ?? '')
		const papers = page.getByRole('region', { name: 'All other papers' })
		await papers.getByRole('link').first().click()
		await expect(page.getByRole('heading', { name: /^Delivery note #\d+$/ })).toBeVisible()
		const text = await paperText(page)
		expect(text).toContain('Delivery note')
		expect(text).not.toContain('Draft')
		await page.getByRole('link', { name: /^order \d+$/ }).click()
		await page.waitForURL(/\/orders\/\d+$/)
	})
	const order = page.url()
	const papers = page.getByRole('table', { name: 'Papers' })
	await expect(papers.getByRole('row')).toHaveCount(2)
	await page.keyboard.press('1')
	await expect(page.getByRole('dialog')).toContainText('was issued')
	await page.getByRole('dialog').getByRole('button', { name: 'Make another version' }).click()
	await page.waitForURL(/\/documents\/\d+$/)
	await expect(page.getByRole('heading', { name: 'Draft delivery note, version 2' })).toBeVisible()
	await page.goto(order)
	await expect(papers.getByRole('row')).toHaveCount(3)
	await page.keyboard.press('1')
	await page.getByRole('dialog').getByRole('button', { name: 'Replace the draft' }).click()
	await page.waitForURL(/\/documents\/\d+$/)
	await expect(page.getByRole('heading', { name: 'Draft delivery note, version 3' })).toBeVisible()
	const draft = page.url()
	await page.goto('/papers/2')
	await button(page, 'Take the kind away').click()
	await page.getByLabel('Why').fill('no longer')
	await button(page, 'Take Delivery note away').click()
	await expect(page.getByRole('alert')).toContainText('A draft of this kind is open')
	await page.goto(draft)
	await page.keyboard.press('f')
	await expect(page.getByText('is issued and filed')).toBeVisible()
	await expect
		.poll(
			async () => {
				await page.goto(order)
				return papers.getByText('filed').count()
			},
			{ intervals: [1500] },
		)
		.toBe(2)
	await test.step('a kind of the firm’s own is made, and is one thing with the program’s own in layouts, letters and registers', async () => {
		await page.goto('/papers')
		await page.keyboard.press('n')
		await page.getByLabel('What one is called').fill('Receipt')
		await page.getByLabel('What several are called').fill('receipts')
		await button(page, 'Make it').click()
		await page.waitForURL(/\/papers\/\d+$/)
		await expect(page.getByText('There is no number register for receipts yet.')).toBeVisible()
		await page.goto('/layouts')
		await expect(page.getByRole('heading', { name: 'Receipts' })).toBeVisible()
		await page.goto('/letters')
		await page.getByRole('link', { name: 'Receipt' }).click()
		await expect(page.getByText('our receipt', { exact: false }).first()).toBeVisible()
	})
})

/** Chooses a file, and says that its rows are for a kind of paper. */
async function sheetFor(page: Page, name: string, rows: string[], kind: RegExp) {
	await page.goto('/bring-in')
	const buffer = Buffer.from(`${rows.join('\n')}\n`)
	await page.getByLabel('File to bring in').setInputFiles({ name, mimeType: 'text/csv', buffer })
	await page.waitForURL(/\/bring-in\/\d+/)
	await page.getByLabel('The file holds').selectOption('rows')
	const paper = page.getByRole('combobox', { name: /^For\b/ })
	const option = paper.locator('option').filter({ hasText: kind })
	await expect(option).toHaveCount(1)
	await paper.selectOption((await option.getAttribute('value')) ?? '')
	await expect(paper).toHaveValue((await option.getAttribute('value')) ?? '')
}

test('a sheet of members becomes a letter each, sent in a run; a row that is wrong is refused with the remedy', async ({
	page,
}) => {
	const members = [
		'Berth,Name,Email,Address 1,Boat,Length m,Season fee,Lift-out',
		'D-01,Ola Brandt,ola@brandt.example,4 Kelp Row,Skua,6.5,371.50,20/11/2026',
		'D-02,Mina Hay,mina@hay.example,9 Kelp Row,Tern,7.0,402.00,20/11/2026',
		'D-03,Jo Peat,jo@peat.example; boat@peat.example,11 Kelp Row,Gannet,5.0,296.00,21/11/2026',
	]
	await sheetFor(page, 'members.csv', members, /^Season letter/)
	await test.step('two addresses are one too many: the row is refused with the remedy', async () => {
		await expect(button(page, 'Accept 2 records')).toBeVisible()
		const refused = page
			.getByRole('region', { name: /refused/i })
			.or(page.locator('section').filter({ hasText: 'Several addresses stand here' }))
			.first()
		await expect(refused).toContainText('a paper goes to one')
	})
	await page.goto(page.url())
	await expect(page.getByRole('table', { name: 'What the rows become' })).toContainText('Ola Brandt')
	await button(page, 'Accept 2 records').click()
	await expect(page.getByText('2 records for season letters came in; one row was refused.')).toBeVisible()
	await page.getByRole('link', { name: 'Go on to its papers' }).click()
	await page.waitForURL(/\/papers\/\d+$/)
	await page.keyboard.press('g')
	await button(page, 'Draft them').click()
	await page.waitForURL(/\/runs\/\d+/)
	await button(page, /^Issue \d+ season letters/).click()
	await button(page, /^Make \d+ PDFs/).click()
	await button(page, /^Send \d+ in practice/).click()
	await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click()
	await expect
		.poll(async () =>
			(await (await page.request.get('/practice-mail?show=ola%40brandt')).text()).includes('ola@brandt.example'),
		)
		.toBe(true)
	await page.goto('/papers')
	await page.getByRole('link', { name: 'Season letter' }).click()
	await page
		.getByRole('row')
		.filter({ hasText: 'Ola Brandt' })
		.getByRole('link', { name: /^#\d+$/ })
		.click()
	await page.waitForURL(/\/documents\/\d+$/)
	const text = await paperText(page)
	for (const words of ['Season letter', 'Ola Brandt', '4 Kelp Row', 'Skua', '371.50', '20 Nov 2026'])
		expect(text).toContain(words)
	expect(text).not.toContain('Mina')
})

test('a sheet becomes one report to one address, with its columns as a table and their sum', async ({ page }) => {
	await page.goto('/papers')
	await page.keyboard.press('n')
	await page.getByRole('radio', { name: /Rows of any sheet/ }).check()
	await page.getByRole('radio', { name: /For the whole sheet/ }).check()
	await page.getByLabel('What one is called').fill('Harbour report')
	await page.getByLabel('What several are called').fill('harbour reports')
	await page.getByLabel('Numbered by a register of its own').uncheck()
	await button(page, 'Make it').click()
	await page.waitForURL(/\/papers\/\d+$/)
	const berths = Array.from(
		{ length: 25 },
		(_, at) => `P-${at + 1},Pontoon ${(at % 4) + 1},${at + 3},${(at * 1.25 + 2).toFixed(2)}`,
	)
	await sheetFor(page, 'harbour.csv', ['Place,Where,Visits,Dues', ...berths], /^Harbour report/)
	await button(page, 'Take these 4 columns').click()
	await expect(page.getByText('Columns that can become fields')).toHaveCount(0)
	await button(page, /^Show \d+ more fields/).click()
	await test.step('whom it goes to is no column: it is given for all rows', async () => {
		await page.getByLabel('Where Customer is empty').fill('Harbour Office')
		await page.getByLabel('Where Customer is empty').press('Enter')
		await expect(page.getByLabel('Where Customer is empty')).toHaveValue('Harbour Office')
		await button(page, /^Show \d+ more fields/).click()
		await page.getByLabel('Where Email is empty').fill('office@harbour.example')
		await page.getByLabel('Where Email is empty').press('Enter')
	})
	await expect(page.getByRole('table', { name: 'What the rows become' })).toContainText('office@harbour.example')
	await button(page, 'Accept 1 record').click()
	await expect(page.getByText('One record for harbour reports came in.')).toBeVisible()
	await page.getByRole('table', { name: 'Records' }).getByRole('link', { name: 'harbour' }).click()
	await page.waitForURL(/\/papers\/records\/\d+$/)
	await page.keyboard.press('m')
	await page.waitForURL(/\/documents\/\d+$/)
	const text = await paperText(page)
	for (const words of [
		'Harbour report',
		'Harbour Office',
		'P-1',
		'P-25',
		'Pontoon 4',
		'Sum of Dues',
		'425.00',
		'Sum of Visits',
		'375',
	])
		expect(text).toContain(words)
	await page.keyboard.press('s')
	await expect(page.getByText('is issued and on its way')).toBeVisible()
	await expect
		.poll(async () =>
			(await (await page.request.get('/practice-mail?show=office%40harbour')).text()).includes('Harbour report'),
		)
		.toBe(true)
})
