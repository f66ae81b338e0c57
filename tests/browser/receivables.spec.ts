import { join } from 'node:path'
import { expect, type Page } from '@playwright/test'
import Database from 'better-sqlite3'
import { demoFile } from './demoFile'
import { pdfText } from './pdf'
import { setWorkDate, test } from './tally'

const button = (page: Page, name: RegExp | string) => page.getByRole('button', { name })
const history = (page: Page) => page.getByRole('table', { name: 'History in GBP' })

test('an extract is accepted with a reason, each figure opens to its items, and it is taken back', async ({ page }) => {
	await page.goto('/bring-in')
	await page.getByLabel('File to bring in').setInputFiles(demoFile('open-items-2026-10-31.csv'))
	const sums = page.getByRole('table', { name: 'The ledger before and after' })
	const pounds = sums.getByRole('row').filter({ hasText: 'GBP' })
	await expect(pounds).toContainText('ties')
	const before = (await pounds.getByRole('cell').nth(1).textContent()) ?? ''
	await pounds.getByRole('button').nth(2).click()
	await expect(page.getByRole('heading', { name: 'gone, GBP' })).toBeVisible()
	const items = page.getByRole('table', { name: 'What is new, changed and gone' }).locator('tbody tr')
	const gone = await items.evaluateAll((rows) =>
		rows.map((row) =>
			Math.round(Number((row.children[5]?.textContent ?? '').replace('−', '-').replaceAll(',', '')) * 100),
		),
	)
	const figure = ((await pounds.getByRole('button').nth(2).textContent()) ?? '').replace('−', '-').replaceAll(',', '')
	expect(gone.reduce((sum, one) => sum - one, 0)).toBe(Math.round(Number(figure) * 100))
	await page.getByLabel('Why it is right all the same').fill('the sister firm has HOLL09')
	await button(page, 'Keep this reason').click()
	await button(page, /^Accept \d+ open items/).click()
	await expect(page.getByText(/^Accepted/)).toBeVisible()
	await button(page, 'Take it back').click()
	await page.getByRole('dialog').getByLabel('Why').fill('of the wrong month')
	await button(page, 'Take the extract back').click()
	await expect(page.getByText(/was taken back: of the wrong month/).first()).toBeVisible()
	await page.goto('/accounts')
	await expect(page.getByRole('table', { name: 'Accounts' }).locator('tfoot')).toContainText(before)
})

test('a refund, a payment that came back, one put right, and each undone, on the account', async ({ page }) => {
	await page.goto('/accounts?show=Dunmarrow')
	await page.getByRole('link', { name: 'Dunmarrow Harbour Trust' }).click()
	const items = page.getByRole('table', { name: 'Open items in GBP' })
	const number = (await items.locator('tbody tr').first().locator('td').first().textContent()) ?? ''
	const owes = page.getByRole('heading', { name: /^Owes .* GBP/ })
	const first = (await owes.textContent()) ?? ''
	const payment = async (amount: string, reference: string) => {
		await page.keyboard.press('p')
		await page.getByLabel('Amount').fill(amount)
		await page.getByLabel('Reference').fill(reference)
	}

	await test.step('what the reference names is seen before it is entered; the same again is asked about', async () => {
		await payment('5.00', `Inv.${number.replace('-', '')}`)
		await expect(page.getByText(`Recognised: ${number}. It goes to ${number} 5.00.`)).toBeVisible()
		await button(page, 'Enter the payment').click()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await payment('5.00', `Inv.${number.replace('-', '')}`)
		await button(page, 'Enter the payment').click()
		await expect(page.getByText(/Is this another one\?/)).toBeVisible()
		await button(page, 'Not now').click()
	})

	await test.step('it is put right, and that is undone', async () => {
		await history(page).getByRole('row').filter({ hasText: 'payment' }).getByRole('button', { name: 'Correct' }).click()
		await page.getByRole('dialog').getByLabel('Amount').fill('15.00')
		await page.getByRole('dialog').getByLabel('Why it is put right').fill('a slip')
		await button(page, 'Put it right').click()
		await expect(history(page)).toContainText('removed')
		await history(page).getByRole('button', { name: 'Undo' }).first().click()
		await expect(history(page)).toContainText('undone')
	})

	await test.step('it comes back, with a charge', async () => {
		await history(page).getByRole('button', { name: 'Came back' }).first().click()
		await page
			.getByRole('dialog')
			.getByLabel(/^Charge for it/)
			.fill('12.00')
		await page.getByRole('dialog').getByLabel('Why').fill('no funds')
		await button(page, 'It came back').click()
		await expect(history(page)).toContainText('returned payment')
		await expect(owes).not.toHaveText(first)
	})

	await test.step('what is over is given back', async () => {
		await payment('20.00', 'too much')
		await page.getByLabel('Where no item is chosen below').selectOption('nothing')
		// A slow hand: what was recognised comes while the button is held down, and the press counts all the same.
		await button(page, 'Enter the payment').hover()
		await page.mouse.down()
		await expect(page.getByText(/20\.00 GBP stay unapplied/)).toBeVisible()
		await page.mouse.up()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await items.getByRole('row').filter({ hasText: 'too much' }).getByRole('button', { name: 'Refund' }).click()
		await page.getByRole('dialog').getByLabel('Why').fill('they asked for it')
		await button(page, 'Enter the refund').click()
		await expect(items.getByRole('row').filter({ hasText: 'too much' })).toHaveCount(0)
		await expect(history(page)).toContainText('refund')
	})
})

test('who pays, or promises, between gathering and sending is not asked for what they do not owe', async ({
	page,
	tally,
}) => {
	await page.goto('/accounts')
	await button(page, /^Start statements/).click()
	await button(page, 'Gather the statements').click()
	await page.waitForURL(/runs\/\d+/)
	const run = page.url()
	const row = (name: string) => page.getByRole('listbox').getByRole('option').filter({ hasText: name }).first()
	await expect(button(page, /^Number \d+ statements/)).toBeVisible()

	await test.step('every paper has the figures of the ledger', async () => {
		const books = new Database(join(tally.data, 'north-tally.db'), { readonly: true })
		const drafts = books
			.prepare<[], { id: number; currency: string; owed: number; late: number }>(
				`SELECT d.id, d.currency, (SELECT sum(iif(side = 'debit', open, -open)) FROM ledger_item i
						WHERE i.customer_id = d.customer_id AND i.currency = d.currency) AS owed,
					max(0, (SELECT coalesce(sum(iif(side = 'credit', -open, iif(due_day < '2026-10-31'
						AND id NOT IN (SELECT item_id FROM dispute WHERE ended IS NULL), open, 0))), 0) FROM ledger_item i
						WHERE i.customer_id = d.customer_id AND i.currency = d.currency)) AS late
				 FROM document d WHERE d.kind = 'statement' AND d.held_reason IS NULL ORDER BY d.id`,
			)
			.all()
		books.close()
		expect(drafts.length).toBeGreaterThan(50)
		for (const { id, owed, late } of drafts) {
			const paper = await page.request.get(`${tally.url}/api/documents/${id}/pdf`)
			const figures = (await pdfText(await paper.body())).join(' ').replace(/(\d)[., ’\u00a0\u202f](?=\d)/g, '$1')
			for (const amount of [owed, late])
				expect([id, amount, amount === 0 || figures.includes(String(amount))]).toEqual([id, amount, true])
		}
	})

	await test.step('a payment before it is numbered is named, and the statement made anew', async () => {
		await page.goto('/accounts?show=Ardlow')
		await page.getByRole('link', { name: 'Ardlow Ferries' }).click()
		await button(page, /^Enter a payment/).click()
		await page.getByLabel('Amount').fill('100.00')
		await button(page, 'Enter the payment').click()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await page.goto(run)
		await button(page, /^Number \d+ statements/).click()
		await expect(
			page.getByText(/Something changed since the drafts were checked: Ardlow Ferries: owed in all/),
		).toBeVisible()
		await page.getByLabel('Filter').fill('Ardlow')
		await row('Ardlow Ferries').click()
		await button(page, 'Make it anew').click()
		await expect(button(page, 'Make it anew')).toHaveCount(0)
		await page.getByLabel('Filter').fill('')
		await button(page, /^Number \d+ statements/).click()
		await button(page, /^Make \d+ PDFs/).click()
		await expect(button(page, /^Send \d+ in practice/)).toBeVisible()
	})

	await test.step('a paper that is no longer true is named before it is printed, and noted in a second act alone', async () => {
		await page.goto('/accounts?show=Midyell')
		await page.getByRole('link', { name: 'Midyell Pier Users' }).click()
		await button(page, /^Enter a payment/).click()
		await page.getByLabel('Amount').fill('10.00')
		await button(page, 'Enter the payment').click()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await page.goto(`/api/print?run=${/runs\/(\d+)/.exec(run)?.[1]}`)
		await expect(page.getByText(/^SKS-\S+, Midyell Pier Users: owed in all/)).toBeVisible()
		const sure = await page.getByRole('link', { name: 'Print them all as they are' }).getAttribute('href')
		expect((await page.request.get(`${tally.url}${sure}`)).headers()['content-type']).toBe('application/pdf')
		const paper = page.getByRole('row').filter({ hasText: 'Midyell Pier Users' })
		await paper.getByRole('button', { name: 'Printed and posted' }).click()
		await expect(paper.getByText(/is no longer true: .* note it once more/)).toBeVisible()
		await paper.getByRole('button', { name: 'Printed and posted' }).click()
		await expect(paper).toHaveCount(0)
	})

	await test.step('who pays before it is sent is held to be read, with what is otherwise', async () => {
		await setWorkDate(page, '3 Nov 2026')
		await page.goto('/accounts?show=Ardlow')
		await page.getByRole('link', { name: 'Ardlow Ferries' }).click()
		const owed = ((await page.getByRole('heading', { name: /^Owes/ }).textContent()) ?? '').replace(/[^\d.]/g, '')
		await button(page, /^Enter a payment/).click()
		await page.getByLabel('Amount').fill(owed)
		await page.getByLabel('Where no item is chosen below').selectOption('oldest')
		await button(page, 'Enter the payment').click()
		await expect(page.getByRole('dialog')).toHaveCount(0)
		await page.goto(run)
		await button(page, /^Send \d+ in practice/).click()
		await page
			.getByRole('dialog')
			.getByRole('button', { name: /^Send \d+ statements/ })
			.click()
		await expect(button(page, 'Read 1 message held')).toBeVisible()
		await button(page, 'Read 1 message held').click()
		await expect(page.getByText(/No longer true: it asks for .*, and 0\.00 is asked for now/)).toBeVisible()
	})

	await test.step('a promise that was not kept holds nothing back any more', async () => {
		await page.goto('/accounts?show=Kelda')
		await page.getByRole('link', { name: 'Kelda Fish Landing' }).click()
		await button(page, 'Note a promise').click()
		await page.getByRole('dialog').getByLabel('For').fill('20 Nov 2026')
		await page.getByRole('dialog').getByLabel('Amount').fill('99,999.00')
		await button(page, 'Note the promise').click()
		await expect(page.getByText('promised for 20 Nov 2026')).toBeVisible()
		const heldOn = async (day: string) => {
			await setWorkDate(page, day)
			await page.goto('/accounts?show=Kelda')
			await button(page, /^Start statements/).click()
			await page.getByRole('dialog').getByLabel('For whom').selectOption('past-due')
			await button(page, 'Gather the statements').click()
			await page.waitForURL(/runs\/\d+/)
			await expect(row('Kelda Fish Landing')).toBeVisible()
			return (await row('Kelda Fish Landing').textContent()) ?? ''
		}
		expect(await heldOn('19 Nov 2026')).toContain('a payment is promised for 20 Nov 2026')
		expect(await heldOn('21 Nov 2026')).not.toContain('promised')
	})
})
