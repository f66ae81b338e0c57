import { expect, test } from 'vitest'
import { customerTexts } from '@/core/customerTexts'
import { ownTexts } from '@/kinds/bill'
import { fieldsByKey } from '@/layout/fields'
import { languagesFor } from '@/layout/languages'
import { bringIn } from '@/runs/bringIn/atOnce'
import { customerByNumber } from '@/store/customers'
import { readBill } from '@/store/documents'
import { benchRows } from '@/store/places'
import { gatherRun } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'

test('each printed text of a customer goes from its column of a file to the paper, its fields and its letters', async () => {
	const books = firmBooks()
	const said = customerTexts.map(({ key }) => `what ${key} says`)
	const rows = [
		['Customer number', 'Name', ...customerTexts.map(({ name }) => name)],
		['A1', 'Customer A1', ...said],
	]
	const file = Buffer.from(rows.map((cells) => `${cells.join(',')}\n`).join(''))
	expect(await bringIn(books, desk, 'customers.csv', file)).toMatchObject({ ok: true })
	const run = await gatherRun(books, ['1,03/10/2026,A1,ROPE,Line,10,2.10,,STD,,'])
	const content = readBill(books, benchRows(books, run)[0]?.id ?? 0)?.content
	if (!content) throw new Error('no draft')
	const at = { content, languages: languagesFor(content), place: -1, row: 0, page: 1, pages: 1 }
	for (const [place, { key }] of customerTexts.entries()) {
		expect(customerByNumber(books, 'A1')?.[key]).toBe(said[place])
		expect(content.customer[key]).toBe(said[place])
		expect(fieldsByKey.get(`customer.${key}`)?.read(at)).toBe(said[place])
	}
	expect(ownTexts(content.customer)).toEqual(expect.arrayContaining(said))
})
