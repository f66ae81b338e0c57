import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import type { BillContent } from '@/core/document'
import type { StatementContent } from '@/core/statement'
import { invoice } from '../../tests/support'
import { readLogo } from './logo'
import { makeDocument } from './makeDocument'

// Papers as they were drawn before layouts were data. What was issued then must be made again byte for byte, for good: the hashes
// below are of files that were made then.

const lines = Array.from({ length: 47 }, (_, place) => ({
	quantity: `${(place % 5) + 1}.5`,
	unitPrice: `${place + 3}.25`,
	description:
		place % 9 === 4 ? 'Łódź rope, Ærø splice, ½ fathom “eye”, кириллица and a long text '.repeat(4) : `Line ${place}`,
	discountPercent: place % 7 === 3 ? '12.5' : '0',
	taxCode: place % 3 === 0 ? 'ZERO' : 'STD',
}))
const bill = (more: Partial<BillContent>): BillContent =>
	invoice(lines, {
		discounts: [{ label: 'Fair', percent: '2.5' }],
		charges: [{ label: 'Freight', order: 0, taxCode: 'STD', amount: '6.50' }],
		home: { currency: 'NOK', rate: '13.2', day: '2026-10-01', tax: '1234.50' },
		supply: { from: '2026-10-01', to: '2026-10-03' },
		...more,
	})
const { issuer, customer } = bill({})
const statement = (more: Partial<StatementContent>): StatementContent => ({
	...{ kind: 'statement', ...drawn('statement', 2), number: 'S-001', revision: 1, day: '2026-10-31' },
	...{ dueDay: '2026-10-31', currency: 'EUR', locale: 'de-DE', issuer, customer, form: 'open items', show: 'all' },
	...{ credits: 'apart', since: '2026-10-01', opening: '12.00', charge: null, letter: 'past-due-2', spared: '' },
	...{ asked: '', promised: '', stage: 0, kept: '', chargeDropped: false },
	items: Array.from({ length: 30 }, (_, id) => ({
		...{ id, kind: id === 7 ? 'payment' : 'invoice', number: `T-00${id}`, day: '2026-08-31', due: '2026-09-30' },
		...{ theirOrder: 'PO-7', amount: '120.00', open: id === 7 ? '-100.00' : '100.00', daysPastDue: 31 },
		...{ pastDue: true, disputed: false },
	})),
	movements: Array.from({ length: 9 }, (_, place) => ({
		...{ day: '2026-10-09', words: `Payment ${place}`, change: '-10.00', balance: '2.00' },
	})),
	buckets: ['not due', '1-30', '31-60', '61-90', 'over 90'].map((name) => ({ name, amount: '1234.50' })),
	...{ pastDue: '100.00', disputed: '5.00', unapplied: '100.00', balance: '100.00', total: '100.00', oldest: 31 },
	...more,
})
const drawn = (name: string, version: number) => ({ layout: { name, version, id: 0, own: false } })
const plain = (version: number) => drawn('plain', version)
const papers = {
	'invoice, version 1': bill(plain(1)),
	'invoice, version 2': bill(plain(2)),
	'draft, version 2': bill({ ...plain(2), number: '' }),
	'credit note, version 1': bill({ ...plain(1), kind: 'credit-note', refersTo: { number: 'T-1', day: '2026-01-01' } }),
	'credit note, version 2': bill({ ...plain(2), kind: 'credit-note', refersTo: { number: 'T-1', day: '2026-01-01' } }),
	'statement, version 1': statement(drawn('statement', 1)),
	'statement, version 2': statement({}),
	'balance forward, version 2': statement({ form: 'balance forward' }),
}
const made = JSON.parse(readFileSync('tests/earlierPapers.json', 'utf8'))

test.each(Object.entries(papers))('%s is made again as it was', async (name, content) => {
	const logo = await readLogo('image/svg+xml', readFileSync('demo/logo.svg'), 'demo')
	if (!logo.ok) throw new Error(logo.refusal.message)
	const own = { ...content, issuer: { ...content.issuer, logo: 'demo' } }
	const hashes = await Promise.all([
		makeDocument(content, { layout: null, pictures: new Map() }),
		makeDocument(own, { layout: null, pictures: new Map([['demo', logo.value]]) }),
	])
	expect(hashes.map(({ sha256 }) => sha256)).toEqual(made[name])
})
