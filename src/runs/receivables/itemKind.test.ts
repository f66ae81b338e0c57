import { expect, test } from 'vitest'
import { eventsOf } from '@/store/events'
import { kindQuestions } from '@/store/kindQuestions'
import { addItem, readItem } from '@/store/ledger'
import { openState } from '../../../tests/ofState'
import { desk, firmBooks } from '../../../tests/support'
import { sayKinds } from './itemKind'

test('a charge that a file brought is a debit note once a person says so, and bears late charges; it is asked once', () => {
	const books = firmBooks()
	const charge = (number: string) =>
		addItem(books, desk, {
			...{
				customer_id: 1,
				kind: 'charge',
				side: 'debit',
				number,
				called: '',
				day: '2026-08-01',
				due_day: '2026-08-31',
			},
			...{ currency: 'GBP', amount: 10_000, their_order: '', note: '', document_id: null, extract_id: null },
		})
	const ids = ['DM-1', 'FEE-1', 'FEE-2'].map(charge)
	const [note = 0, fee = 0, other = 0] = ids
	for (const id of ids) books.db.prepare('INSERT INTO kind_question (item_id) VALUES (?)').run(id)
	expect(kindQuestions(books).map(({ number }) => number)).toEqual(['DM-1', 'FEE-1', 'FEE-2'])
	expect(sayKinds(books, desk, [note], 'debit note')).toEqual({ ok: true })
	expect(sayKinds(books, desk, [fee, note], 'charge')).toEqual({ ok: true })
	expect(sayKinds(books, desk, [fee], 'debit note')).toMatchObject({ ok: false })
	expect(ids.map((id) => readItem(books, id)?.kind)).toEqual(['debit note', 'charge', 'charge'])
	expect(kindQuestions(books).map(({ id }) => id)).toEqual([other])
	expect(eventsOf(books, 'customer', 1).map(({ detail }) => detail)).toContain('DM-1 is a debit note')
})

test('books from before are asked about the open charges of their files', () => {
	const { books } = openState(18)
	const asked = books.db.prepare<[], number>('SELECT count(*) FROM kind_question').pluck().get()
	const charges = books.db
		.prepare<[], number>(
			`SELECT count(*) FROM ledger_item WHERE kind = 'charge' AND extract_id IS NOT NULL AND document_id IS NULL AND side = 'debit' AND called = '' AND open > 0`,
		)
		.pluck()
		.get()
	expect([asked, kindQuestions(books).length]).toEqual([charges, charges])
	expect(asked).toBeGreaterThan(0)
})
