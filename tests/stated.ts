import type { StatementChoice } from '@/core/statement'
import { bringIn } from '@/runs/bringIn/atOnce'
import { startStatements } from '@/runs/statements/start'
import type { Books } from '@/store/books'
import { saveCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { work } from './runs'
import { customer, desk, firmBooks, plainRegister } from './support'

const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr,PO ref'
const october = [
	'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,100.00,GBP,PO-1',
	'A1,CS-2,Invoice,10/10/2026,09/11/2026,50.00,20.00,GBP,',
	'A1,CS-3,Invoice,01/09/2026,01/10/2026,30.00,30.00,GBP,',
	'A1,CRN-1,Credit,12/09/2026,12/09/2026,-5.00,-5.00,GBP,',
	'A1,EU-1,Invoice,12/10/2026,11/11/2026,70.00,70.00,EUR,',
	'B1,CS-4,Invoice,10/10/2026,09/11/2026,3.00,3.00,GBP,',
	'C1,CS-5,Invoice,10/09/2026,10/10/2026,40.00,40.00,GBP,',
	'D1,CS-6,Invoice,10/09/2026,10/10/2026,60.00,60.00,GBP,',
]
export const choice = (more: Partial<StatementChoice> = {}): StatementChoice => ({
	asOf: '2026-10-31',
	form: 'open items',
	since: '',
	show: 'all',
	credits: 'apart',
	least: 500,
	hold: false,
	copies: false,
	charges: false,
	customers: [],
	...more,
})

/** Books with October's extract, and a run of statements over it. */
export async function stated(more: Partial<StatementChoice> = {}, before: (books: Books) => void = () => {}) {
	const books = firmBooks()
	saveCustomer(books, desk, customer('A1', { statement_email: 'ledger@shore.example' }))
	saveCustomer(books, desk, customer('D1', { statements: 0 }))
	saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 3, next: 1 })
	changeSettings(books, desk, { workDate: '2026-10-31' })
	const content = Buffer.from([head, ...october, ''].join('\n'))
	await bringIn(books, desk, 'open-items-2026-10-31.csv', content, { days: 'day first' })
	before(books)
	const started = startStatements(books, desk, choice(more))
	if (!started.ok) throw new Error(started.message)
	await work(books)
	const run = started.id ?? 0
	return { books, run, bench: () => benchRows(books, run) }
}

/** What a statement says. */
export const contentOf = (books: Books, id = 0) => {
	const content = readAnyDocument(books, id)?.content
	if (content?.kind !== 'statement') throw new Error('no statement')
	return content
}
