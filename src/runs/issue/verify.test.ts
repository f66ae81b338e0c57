import { expect, test } from 'vitest'
import type { BillContent } from '@/core/document'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { itemsOfCustomer } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { billed } from '../../../tests/runs'
import { desk, firmBooks, plainRegister } from '../../../tests/support'
import { creditSchema, startCredit } from './credit'
import { numberDocuments } from './number'
import { verify } from './verify'
import { voidDocument } from './void'

const rows = ['8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,04/10/2026,A1,ROPE,Line,3,2.00,,STD,,']

/** Two invoices, the second of them void. */
async function issued() {
	const books = firmBooks()
	const run = await billed(books, ...rows)
	const [first, second] = benchRows(books, run).map(({ id }) => id)
	if (!first || !second) throw new Error('Two invoices were to be numbered.')
	expect(voidDocument(books, desk, second, 'twice')).toMatchObject({ ok: true })
	return { books, first, second }
}
const wrong = (books: Books) => verify(books).flatMap(({ wrong }) => wrong)
/** Changes a row of the books as no act can: what guards it is taken away before. */
function tamper(books: Books, table: string, change: string) {
	const guards = books.db
		.prepare<[string], { name: string }>("SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = ?")
		.all(table)
	for (const { name } of guards) books.db.exec(`DROP TRIGGER ${name}`)
	books.db.exec(change)
}

test('books as acts make them hold together, a void document among them', async () => {
	expect(wrong((await issued()).books)).toEqual([])
})

test.each([
	["side = 'credit'", 'stands in the ledger otherwise'],
	['amount = amount + 1, open = open + 1', 'stands in the ledger otherwise'],
	["currency = 'EUR'", 'stands in the ledger otherwise'],
	["day = '2026-10-30'", 'stands in the ledger otherwise'],
	["day = '2026-11-01'", 'stands in the ledger otherwise'],
	['document_id = NULL', 'T-0041 is not in the ledger'],
])('an entry of the ledger with %s is found', async (change, words) => {
	const { books, first } = await issued()
	tamper(books, 'ledger_item', `UPDATE ledger_item SET ${change} WHERE document_id = ${first}`)
	expect(wrong(books).filter((one) => one.includes(words))).toHaveLength(1)
})

test('what a void document entered is asked about no more', async () => {
	const { books, second } = await issued()
	tamper(books, 'ledger_item', `UPDATE ledger_item SET document_id = NULL WHERE document_id = ${second}`)
	expect(wrong(books).filter((words) => words.includes('is not in the ledger'))).toEqual([])
})

test('a list that shows other figures than were frozen is found', async () => {
	for (const field of ['net', 'tax', 'total']) {
		const { books, first } = await issued()
		tamper(books, 'document', `UPDATE document SET ${field} = ${field} + 1 WHERE id = ${first}`)
		expect(wrong(books)).toContainEqual(
			expect.stringMatching(`^T-0041: its ${field} is \\d+, and \\d+ as it was issued`),
		)
	}
})

test('a check that breaks says so in one line, and the others go on', async () => {
	const { books, first } = await issued()
	tamper(books, 'document_content', `UPDATE document_content SET content = '{' WHERE document_id = ${first}`)
	const found = verify(books)
	const broken = found.filter(({ wrong }) => wrong.some((words) => words.startsWith('could not be looked at: ')))
	expect(broken.length).toBeGreaterThan(0)
	for (const { wrong } of broken) expect(wrong[0]).toMatch(/^could not be looked at: [^\n]{5,}$/)
	expect(found.find(({ check }) => check === 'numbers run on without a gap')).toMatchObject({ wrong: [] })
})

/** Changes the frozen content of a document as no act can. */
function reword(books: Books, id: number, change: (content: BillContent) => void) {
	const content = structuredClone(readBill(books, id)?.content)
	if (!content) throw new Error('no such document')
	change(content)
	tamper(
		books,
		'document_content',
		`UPDATE document_content SET content = '${JSON.stringify(content).replace(/'/g, "''")}' WHERE document_id = ${id}`,
	)
}

test('a line that stands on two documents is found, and one that stands on none', async () => {
	const books = firmBooks()
	const run = await billed(books, ...rows)
	const [first, second] = benchRows(books, run)
	const line = readBill(books, second?.id ?? 0)?.content.lines[0]?.line ?? 0
	reword(books, first?.id ?? 0, ({ lines: [own] }) => {
		if (own) own.line = line
	})
	const found = wrong(books).filter((words) => words.startsWith('row '))
	expect(found).toEqual([
		`row 2 of order ${first?.order_numbers} stands on no valid document and does not wait`,
		`row 3 of order ${second?.order_numbers} stands on ${first?.number} and ${second?.number}`,
	])
})

test('a line that is credited beyond what was billed is found by its place on the invoice', async () => {
	for (const at of [0, 1]) {
		const books = firmBooks()
		saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
		const run = await billed(books, ...rows.map((row) => row.replace('8802,04', '8801,03')))
		const invoice = benchRows(books, run)[0]
		const lines = [0, 1].map((line) => ({ line, quantity: '1' }))
		const started = startCredit(
			books,
			desk,
			invoice?.id ?? 0,
			creditSchema.parse({ lines, freight: false, reason: 'back' }),
		)
		const credit = started.ok ? (started.id ?? 0) : 0
		numberDocuments(books, desk, credit, 1)
		expect(wrong(books)).toEqual([])
		reword(books, benchRows(books, credit)[0]?.id ?? 0, ({ lines: own }) => {
			const line = own[at]
			if (line) line.quantity = '-11'
		})
		const beyond = wrong(books).filter((words) => words.includes('is credited beyond'))
		expect(beyond).toEqual([
			expect.stringMatching(
				`^line ${at + 1} of ${invoice?.number} is credited beyond what was billed: -\\d+ of \\d+ is left`,
			),
		])
	}
})

test('what comes to nothing enters nothing, and holds together', async () => {
	const books = firmBooks()
	const run = await billed(books, '8801,03/10/2026,A1,ROPE,Line,10,0.00,,STD,,')
	expect(benchRows(books, run)).toMatchObject([{ total: 0, number: 'T-0041' }])
	expect(itemsOfCustomer(books, 1)).toEqual([])
	expect(wrong(books)).toEqual([])
})
