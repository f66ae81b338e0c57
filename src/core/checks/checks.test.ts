import { describe, expect, test } from 'vitest'
import { textsOf } from '@/kinds'
import { invoice } from '../../../tests/support'
import { isMailbox } from '../addresses'
import { parseAmount } from '../currency'
import { type Checked, check } from '.'
import { usualCheckSettings } from './settings'

const plain = invoice([{ quantity: '2', unitPrice: '50' }])
/** What checks look at, with nothing odd in it. */
const facts = (more: Partial<Checked> = {}): Checked => {
	const content = more.content ?? plain
	return {
		content,
		customer: {
			email: 'a1@shore.example',
			currency: 'GBP',
			creditLimit: null,
			hold: '',
			wantsOrder: false,
			lockFault: '',
			taxNumber: '',
		},
		firm: { name: 'Tarn Chandlers', address: '1 Quay', country: 'United Kingdom', taxNumber: 'GB 000 1' },
		registers: new Set(['invoice', 'credit-note']),
		texts: textsOf(content),
		latestDay: null,
		restChanged: false,
		net: parseAmount(content.priced.net, content.currency, 'net'),
		total: parseAmount(content.priced.total, content.currency, 'total'),
		usualNets: [9000, 10_000, 11_000],
		workDate: '2026-10-31',
		homeCurrency: 'GBP',
		billedBefore: [],
		twins: [],
		regrouped: null,
		discountsNamed: [],
		alsoBilled: 0n,
		owed: 0n,
		unprintable: () => [],
		items: new Map([
			['I-1', { unit_price: '50', price_per: '1', currency: 'GBP' }],
			['I-2', { unit_price: '10', price_per: '1', currency: 'GBP' }],
		]),
		...usualCheckSettings,
		usualTimes: 3,
		usualPart: 25,
		recordGone: '',
		sells: true,
		...more,
	}
}
const said = (more: Partial<Checked>) => check(facts(more)).map(({ level, brief }) => `${level}: ${brief}`)

test('an ordinary document is clear', () => {
	expect(check(facts())).toEqual([])
})

test('an address of no line, or of one, is said to be so; two are enough', () => {
	const texts = (address: string[]) =>
		check(facts({ content: { ...plain, customer: { ...plain.customer, address } } })).map(({ text }) => text)
	const name = plain.customer.name
	expect(texts([])).toEqual([`${name} has no address. Complete it under Accounts.`])
	expect(texts(['1 Quay'])).toEqual([`${name} has an address of one line. Complete it under Accounts.`])
	expect(texts(['1 Quay', 'Tarn'])).toEqual([])
})

test('a country is no line of an address, wherever it stands', () => {
	const found = (address: string[], country: string) =>
		check(facts({ content: { ...plain, customer: { ...plain.customer, address, country } } })).map(({ code }) => code)
	expect(found(['Kai 1', 'Norway'], 'Norway')).toEqual(['address'])
	expect(found(['Kai 1', 'NORWAY '], 'Norway')).toEqual(['address'])
	expect(found(['Kai 1', '0150 Oslo', 'Norway'], 'Norway')).toEqual([])
})

test('money off a line counts when its price is held against the item’s', () => {
	const off = (amount: string) => {
		const [line] = plain.lines
		const lines = line ? [{ ...line, quantity: '1', unitPrice: '20', discountAmount: amount }] : []
		const items = new Map([['I-1', { unit_price: '20', price_per: '1', currency: 'GBP' }]])
		return check(facts({ content: { ...plain, lines }, items })).filter(({ code }) => code === 'price-far')
	}
	expect(off('19.50')).toMatchObject([{ brief: 'I-1 −98%', text: expect.stringContaining('less 19.50 off the line') }])
	expect(off('5.00')).toEqual([])
})

describe('each check says what it found', () => {
	const customer = facts().customer
	const priceless = invoice([
		{ quantity: '1', unitPrice: '50' },
		{ quantity: '1', unitPrice: null },
	])
	test.each<[says: string, more: Partial<Checked>]>([
		['stop: line 2 has no price', { content: priceless, usualNets: [5000, 5000, 5000] }],
		['stop: tax code STD', { content: { ...plain, taxCodes: [{ code: 'STD', name: '', rate: '0' }] } }],
		['stop: cannot print 山', { unprintable: (text) => (text.startsWith('Mørkvik') ? ['山'] : []) }],
		['stop: customer on hold', { customer: { ...customer, hold: 'in dispute' } }],
		['stop: in closed books', { closedTo: '2026-10-31' }],
		[
			'stop: no purchase order',
			{
				customer: { ...customer, wantsOrder: true },
				content: { ...plain, orders: plain.orders.map((order) => ({ ...order, purchaseOrder: '' })) },
			},
		],
		['look: exempt, order says STD', { content: { ...plain, customer: { ...plain.customer, tax: 'exempt' } } }],
		['look: unknown item I-1', { items: new Map() }],
		[
			'look: I-1 −99%',
			{
				content: invoice([{ quantity: '200', unitPrice: '50', discountPercent: '99' }]),
				usualNets: [9000, 10_000, 12_000],
			},
		],
		['look: same as 8802 in run 3', { twins: [{ order: '8801', other: '8802', run: 3 }] }],
		['look: due in the past', { content: { ...plain, dueDay: '2020-11-30' } }],
		['look: out of sequence', { latestDay: '2026-11-01' }],
		['stop: out of sequence', { latestDay: '2026-11-01', ascending: true }],
		['look: before its order', { content: { ...plain, supply: { from: '2026-11-02', to: '2026-11-03' } } }],
		['look: year 2031', { content: { ...plain, day: '2031-10-31', dueDay: '2031-11-30' } }],
		['stop: firm without address, tax number', { firm: { ...facts().firm, address: ' ', taxNumber: '' } }],
		[
			'stop: no rate of EUR',
			{ content: { ...plain, currency: 'EUR' }, customer: { ...facts().customer, currency: 'EUR' } },
		],
		[
			'stop: no tax number',
			{ content: { ...plain, taxCodes: [], customer: { ...plain.customer, tax: 'reverse-charge' } } },
		],
		[
			'look: tax number odd',
			{
				content: {
					...plain,
					taxCodes: [],
					customer: { ...plain.customer, tax: 'reverse-charge', taxNumber: 'DE 12' },
				},
			},
		],
		[
			'look: exempt, order says STD',
			{
				content: {
					...invoice([{ quantity: '2', unitPrice: '50', taxCode: 'ZERO' }], {
						charges: [{ label: 'Freight', order: 0, taxCode: 'STD', amount: '1.00' }],
					}),
					customer: { ...plain.customer, tax: 'exempt' },
				},
				net: 10_000n,
			},
		],
		['stop: cannot print ж', { unprintable: (text) => (text === 'I-1' ? ['ж'] : []) }],
		['look: I-1 +30%', { content: invoice([{ quantity: '2', unitPrice: '65' }]), usualNets: [9000, 10_000, 12_000] }],
		['look: as on T-0040', { billedBefore: [{ order: '8801', otherOrder: '8700', number: 'T-0040' }] }],
		['look: same as 8802', { twins: [{ order: '8801', other: '8802', run: null }] }],
		['look: apart from 8803', { regrouped: { grouping: 'all', others: [{ number: '8803', purchaseOrder: '' }] } }],
		[
			'look: 2 together',
			{
				content: { ...plain, orders: plain.orders.flatMap((order) => [order, { ...order, number: '8803' }]) },
				regrouped: { grouping: 'order', others: [{ number: '8804', purchaseOrder: '' }] },
			},
		],
		['look: in GBP, not EUR', { customer: { ...customer, currency: 'EUR' } }],
		['look: comes to nothing', { total: 0n, net: 0n }],
		['look: below zero', { total: -5n, net: -4n }],
		['look: date in the future', { workDate: '2026-10-02' }],
		['look: over limit', { customer: { ...customer, creditLimit: 11_999 } }],
		['look: over limit', { customer: { ...customer, creditLimit: 20_000 }, alsoBilled: 5_000n, owed: 3_001n }],
		['look: Fair not taken', { discountsNamed: [{ order: '8801', label: 'Fair' }] }],
		['look: first invoice', { usualNets: [] }],
		['look: 4.0× usual', { usualNets: [2000, 2500, 3000] }],
		['look: 20% of usual', { usualNets: [48_000, 50_000, 52_000] }],
		['look: large total', { lookAbove: 11_999 }],
		['look: address incomplete', { content: { ...plain, customer: { ...plain.customer, address: ['Tarn'] } } }],
		['look: no email: will print', { customer: { ...customer, email: '' } }],
		['stop: email malformed', { customer: { ...customer, email: 'a1 at shore.example' } }],
	])('%s', (says, more) => {
		expect(said(more)).toEqual([says])
	})

	test('exactly the share that is allowed is within it: 25% is 25%, and four times is four times', () => {
		for (const cents of [49, 333, 997, 1203, 4999]) {
			const item = { unit_price: (cents / 100).toFixed(2), price_per: '1', currency: 'GBP' }
			const price = ((cents * 125) / 10_000).toFixed(4)
			const content = invoice([{ quantity: '1', unitPrice: price }])
			expect(said({ content, items: new Map([['I-1', item]]), usualNets: [] })).toEqual(['look: first invoice'])
		}
		expect(said({ usualNets: [2500, 2500, 2500], usualTimes: 4 })).toEqual([])
	})

	test('the limit itself is within the limit, and two invoices are too few to know what is usual', () => {
		expect(said({ customer: { ...customer, creditLimit: 12_000 } })).toEqual([])
		expect(said({ usualNets: [10, 10] })).toEqual([])
	})

	test('stops come before looks, and name order, line and remedy', () => {
		const found = check(facts({ content: priceless, usualNets: [], customer: { ...customer, email: '' } }))
		expect(found.map(({ level }) => level)).toEqual(['stop', 'look', 'look'])
		expect(found[0]?.text).toBe(
			'Order 8801, line 2 (Galvanised shackle number 2) has no price. Give it one, or hold the order back.',
		)
	})
})

test.each([
	['a@b.example', true],
	['first.last@sub.b.example', true],
	['a@b', false],
	['a b@c.example', false],
	['a@b.example, c@d.example', false],
	['@b.example', false],
])('%s as a mailbox: %s', (address, good) => {
	expect(isMailbox(address)).toBe(good)
})

test('a price is held against its item’s in the item’s own currency alone, and only as far as the firm wants', () => {
	const codes = (more: Partial<Checked>) => check(facts(more)).map(({ code }) => code)
	const items = new Map([['I-1', { unit_price: '10', price_per: '1', currency: 'EUR' }]])
	expect(codes({ items: new Map([['I-1', { unit_price: '10', price_per: '1', currency: 'GBP' }]]) })).toContain(
		'price-far',
	)
	expect(codes({ items })).not.toContain('price-far')
	expect(
		codes({ items: new Map([['I-1', { unit_price: '10', price_per: '1', currency: 'GBP' }]]), priceShare: 0 }),
	).not.toContain('price-far')
})
