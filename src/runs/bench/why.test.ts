import { expect, test } from 'vitest'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { contentOf, stated } from '../../../tests/stated'
import { desk } from '../../../tests/support'
import { panelOf } from './panel'

test('beside a statement stands why each item is on it, and what the latest extract has otherwise first, then the oldest due', async () => {
	const paid = paymentSchema.parse({
		...{ customer: 1, day: '2026-10-30', amount: '100.00', currency: 'GBP', reference: 'CS-1', to: 'named' },
	})
	const { books, bench } = await stated({}, (books) => {
		expect(enterPayment(books, desk, paid)).toMatchObject({ ok: true })
	})
	const statement = bench().find(({ id }) => {
		const { customer, currency } = contentOf(books, id)
		return customer.number === 'A1' && currency === 'GBP'
	})
	const why = panelOf(books, statement?.id ?? 0)?.why
	expect(why?.rows.map(({ number, open, extract, difference }) => [number, open, extract, difference])).toEqual([
		['CS-1', '', '100.00', 'open in the extract of 31 Oct 2026'],
		['CRN-1', '−5.00', '−5.00', ''],
		['CS-3', '30.00', '30.00', ''],
		['CS-2', '20.00', '20.00', ''],
	])
	expect(why).toMatchObject({ open: 4, different: 1 })
})
