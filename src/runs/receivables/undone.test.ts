import { isDeepStrictEqual } from 'node:util'
import { expect, test } from 'vitest'
import type { Outcome } from '@/core/outcome'
import { notePromise } from '@/runs/customers/promises'
import { drafter } from '@/runs/statements/draft'
import type { Books } from '@/store/books'
import { peaceOf, promisesOf } from '@/store/chases'
import { oneCustomer, readCustomer } from '@/store/customers'
import { addItem, itemsOfCustomer } from '@/store/ledger'
import { ledgerHolds } from '@/store/verify'
import { choice } from '../../../tests/stated'
import { desk, firmBooks } from '../../../tests/support'
import { undoAct } from './acts'
import { correctPayment, removeEntry } from './correct'
import { debitNote } from './debitNote'
import { enterPayment, paymentSchema } from './payment'
import { refund } from './refund'
import { returnPayment } from './returned'
import { setOff } from './setOff'
import { writeOff } from './writeOff'

const today = '2026-10-31'
const accounts = [1, 3]

/** Two accounts of a firm: what is owed, paid in part and in whole, promised and kept, and money that stands to their credit. */
function world(): Books {
	const books = firmBooks()
	for (const [customer_id, number, amount] of [
		[1, 'I-1', 10_000],
		[1, 'I-2', 5000],
		[1, 'I-3', 700],
		[3, 'O-1', 9000],
	] as const)
		addItem(books, desk, {
			...{ customer_id, kind: 'invoice', side: 'debit', number, day: '2026-08-01', due_day: '2026-09-01' },
			...{ currency: 'GBP', amount, their_order: '', note: '', document_id: null, extract_id: null },
		})
	for (const day of ['2026-11-20', '2026-11-25'])
		notePromise(books, desk, { customer: 1, amount: '60', currency: 'GBP', day, note: '' })
	for (const [day, amount, reference, to] of [
		['2026-10-05', '80', 'paid I-1', 'named'],
		['2026-10-06', '25', 'paid I-2', 'named'],
		['2026-10-07', '40', 'on account', 'nothing'],
	])
		enterPayment(
			books,
			desk,
			paymentSchema.parse({ customer: 1, day, amount, currency: 'GBP', reference, to, sure: [] }),
		)
	return books
}
const itemOf = (books: Books, number: string) =>
	itemsOfCustomer(books, 1).find((item) => item.number === number)?.id ?? 0

/** Every act that can be undone, by its name, as it is done in that world. */
const acts: Record<string, (books: Books) => Outcome> = {
	refund: (books) =>
		refund(books, desk, {
			...{ credit: itemOf(books, 'on account'), day: today, amount: '15', reference: 'R', reason: 'asked' },
		}),
	'returned payment': (books) =>
		returnPayment(books, desk, { payment: itemOf(books, 'paid I-1'), day: today, charge: '3', reason: 'no funds' }),
	'set-off': (books) =>
		setOff(books, desk, { customer: 1, other: 'C1', amount: '20', currency: 'GBP', reason: 'one owner' }),
	'write-off': (books) => writeOff(books, desk, itemOf(books, 'I-3'), 'too small'),
	'debit note': (books) =>
		debitNote(books, desk, {
			...{ customer: 1, number: 'DN-1', day: today, due: today, amount: '9', currency: 'GBP', reason: 'freight' },
		}),
	removal: (books) => removeEntry(books, desk, itemOf(books, 'paid I-2'), 'entered twice'),
	correction: (books) =>
		correctPayment(books, desk, itemOf(books, 'paid I-1'), {
			...{ day: '2026-10-08', amount: '70', reference: 'I-1', to: 'named', reason: 'typed wrong' },
		}),
}

/** All that the acts may write, but for the trail of what was done: items, what is applied to what, promises, peace, and what a statement would say. */
function state(books: Books, upTo: number) {
	const { db } = books
	const net = db.prepare(
		`SELECT debit_id, credit_id, sum(amount) AS amount FROM application WHERE coalesce(debit_id, 0) <= @upTo AND coalesce(credit_id, 0) <= @upTo
		 GROUP BY 1, 2 HAVING sum(amount) <> 0 ORDER BY 1, 2`,
	)
	return {
		items: db
			.prepare(
				`SELECT id, customer_id, kind, side, number, day, due_day, amount, open, dated, called, away FROM ledger_item WHERE id <= ? OR open > 0 ORDER BY id`,
			)
			.all(upTo),
		applied: net.all({ upTo }),
		disputes: db.prepare('SELECT item_id, since, ended FROM dispute').all(),
		promises: accounts.map((id) => promisesOf(books, id)),
		received: db
			.prepare(
				'SELECT promise_id, sum(amount) AS amount FROM promise_receipt GROUP BY 1 HAVING sum(amount) <> 0 ORDER BY 1',
			)
			.all(),
		peace: accounts.map((id) => peaceOf(books, id)),
		drafted: accounts.flatMap((id) => {
			const one = readCustomer(books, id)
			return one ? drafter(books, 0, choice({ asOf: today }), oneCustomer(id))([one]) : []
		}),
	}
}
const last = (books: Books): number =>
	books.db.prepare<[], number>('SELECT coalesce(max(id), 0) FROM ledger_item').pluck().get() ?? 0

test('every act that there is stands here', () => {
	const named = Object.values(
		import.meta.glob<string>(['./*.ts', '!./*.test.ts'], { eager: true, query: '?raw', import: 'default' }),
	).flatMap((text) => (text.includes('actOn(') ? [...text.matchAll(/\bwhat: '([^']+)'/g)].map(([, name]) => name) : []))
	expect([...new Set(named)].sort()).toEqual(Object.keys(acts).sort())
})

/** Does two acts, or one, and undoes them in either order: @returns what was otherwise than before, or than between the two */
function otherwise(books: Books, one: string, other: string, lastFirst: boolean): string[] {
	const upTo = last(books)
	const before = state(books, upTo)
	const wrong: string[] = []
	const compare = (where: string, then: typeof before) => {
		const now = state(books, upTo)
		for (const key of Object.keys(then) as (keyof typeof then)[])
			if (!isDeepStrictEqual(now[key], then[key])) wrong.push(`${key} ${where}`)
	}
	const first = acts[one]?.(books)
	if (!first?.ok) return [`it is refused: ${first?.message}`]
	const between = state(books, upTo)
	if (isDeepStrictEqual(between, before)) wrong.push('it changes nothing')
	const second = other === '' ? null : acts[other]?.(books)
	if (second && !second.ok) compare('after the second was refused', between)
	const ids = [first, second].flatMap((done) => (done?.ok ? [done.id ?? 0] : []))
	const waiting = lastFirst ? ids.reverse() : ids
	for (let turn = 0; waiting.length > 0 && turn < 4; turn++) {
		const [id = 0] = waiting.splice(0, 1)
		// What another builds on is undone after it.
		if (!undoAct(books, desk, id).ok) waiting.push(id)
		else if (lastFirst && waiting.length === 1) compare('once the second was undone', between)
	}
	if (waiting.length > 0) wrong.push('one cannot be undone')
	compare('in the end', before)
	return [...wrong, ...ledgerHolds(books).wrong]
}

test('each act, and each pair of them, undone in either order, leaves what there was before', () => {
	const books = world()
	const wrong: string[] = []
	for (const one of Object.keys(acts))
		for (const other of ['', ...Object.keys(acts)])
			for (const lastFirst of [true, false]) {
				books.db.exec('SAVEPOINT pair')
				wrong.push(
					...otherwise(books, one, other, lastFirst).map(
						(what) => `${one}, ${other}, ${lastFirst ? 'the last' : 'the first'} undone first: ${what}`,
					),
				)
				books.db.exec('ROLLBACK TO pair; RELEASE pair')
			}
	expect(wrong).toEqual([])
})
