import fc from 'fast-check'
import { expect, test } from 'vitest'
import { invoice } from '../../tests/papers'
import { walks } from '../../tests/walks'
import { creditable, creditBill } from './creditBill'
import { parseAmount } from './currency'
import type { BillContent, Unpriced } from './document'
import { homeTax } from './law'
import { pricedText } from './price'
import { priceBill } from './priceBill'

const base = {
	...{ number: '', day: '2026-11-05', reason: 'came back', of: { number: 'T-0041', day: '2026-10-31' } },
	chargeName: () => 'Freight',
}
function priced(content: Unpriced): BillContent {
	const found = priceBill(content)
	if (!found.ok) throw new Error(JSON.stringify(found.refusal))
	const whole = { ...content, priced: pricedText(found.value) }
	return content.rest ? { ...whole, home: homeTax(whole, '', null) } : whole
}
const taxCodes = [
	{ code: 'STD', name: 'VAT', rate: '20' },
	{ code: 'RED', name: 'VAT', rate: '5.5' },
	{ code: 'ZERO', name: 'VAT', rate: '0' },
]
/** A bill of lines, with its discounts, freight and tax in the home currency. */
function billOf(lines: Parameters<typeof invoice>[0], more: Partial<Unpriced>): BillContent {
	const { priced: _, ...content } = invoice(lines, { taxCodes })
	const whole = priced({ ...content, ...more })
	return { ...whole, home: homeTax(whole, 'NOK', { rate: '13.37', day: '2026-10-31' }) }
}
const minor = (amount: string) => parseAmount(amount, 'GBP', 'figure')
/** What of a figure of a bill is left beside its credit notes. */
const leftOf = (bill: BillContent, notes: BillContent[], of: (content: BillContent) => string): bigint =>
	[bill, ...notes].reduce((sum, content) => sum + minor(of(content)), 0n)

test('the last part of a credit never turns its sign: 0.10 and 66.6667% off, in three parts', () => {
	const bill = billOf([{ quantity: '3', unitPrice: '40.26' }], {
		discounts: [
			{ label: '', percent: '66.6667' },
			{ label: '', amount: '0.10' },
		],
	})
	const notes: BillContent[] = []
	for (const _ of [1, 2, 3]) {
		const note = creditBill(bill, notes, { lines: [{ line: 0, quantity: '1' }], freight: false }, base)
		if (!note.ok) throw new Error(note.refusal.message)
		notes.push(priced(note.value))
	}
	expect(leftOf(bill, notes, ({ priced: { total } }) => total)).toBe(0n)
	for (const note of notes) expect(minor(note.priced.total)).toBeLessThan(0n)
})

test('a line that is named twice is refused, and nothing is credited twice', () => {
	const bill = billOf([{ quantity: '1', unitPrice: '10.00' }], {})
	const twice = [
		{ line: 0, quantity: '1' },
		{ line: 0, quantity: '1' },
	]
	expect(creditBill(bill, [], { lines: twice, freight: false }, base)).toMatchObject({
		ok: false,
		refusal: { message: expect.stringContaining('named twice') },
	})
})

test('credited in random parts and order, what is left of no figure is ever below nothing, and at the end all of it is nothing', () => {
	const line = fc.record({
		quantity: fc
			.oneof(
				{ weight: 5, arbitrary: fc.integer({ min: 1, max: 60 }) },
				{ weight: 1, arbitrary: fc.integer({ min: -30, max: -1 }) },
			)
			.map((tenths) => String(tenths / 10)),
		unitPrice: fc.integer({ min: 1, max: 400_000 }).map((units) => (units / 10_000).toFixed(4)),
		discountPercent: fc.constantFrom('0', '0', '33.3333', '66.6667', '99.99', '100'),
		taxCode: fc.constantFrom('STD', 'RED', 'ZERO'),
	})
	const discount = fc.oneof(
		fc.constantFrom('66.6667', '2.5', '99.9').map((percent) => ({ label: '', percent })),
		fc.integer({ min: 1, max: 30 }).map((pence) => ({ label: 'Fair', amount: (pence / 100).toFixed(2) })),
	)
	const scene = fc.record({
		lines: fc.array(line, { minLength: 1, maxLength: 4 }),
		discounts: fc.array(discount, { maxLength: 2 }),
		freight: fc.option(fc.integer({ min: 1, max: 999 })),
		tax: fc.constantFrom('standard' as const, 'standard' as const, 'exempt' as const),
		parts: fc.array(fc.array(fc.nat(10), { minLength: 4, maxLength: 4 }), { minLength: 1, maxLength: 5 }),
	})
	let credited = 0
	let bills = 0
	fc.assert(
		fc.property(scene, ({ lines, discounts, freight, tax, parts }) => {
			const charges =
				freight === null ? [] : [{ label: '', order: 0, taxCode: 'STD', amount: (freight / 100).toFixed(2) }]
			const plain = invoice([{ quantity: '1', unitPrice: '1' }])
			let bill: BillContent
			try {
				bill = billOf(lines, { discounts, charges, customer: { ...plain.customer, tax } })
			} catch {
				// Discounts above what they are taken on are no bill.
				return
			}
			bills++
			const notes: BillContent[] = []
			for (const [turn, part] of [...parts, [10, 10, 10, 10]].entries()) {
				const left = creditable(bill, notes)
				const asked = left.lines.map((most, place) => ({
					line: place,
					quantity: part[place] === 10 ? most : String(Math.trunc((Number(most) * (part[place] ?? 0)) / 10)),
				}))
				const last = turn === parts.length
				const note = creditBill(bill, notes, { lines: asked, freight: last || part[0] === 7 }, base)
				if (!note.ok) continue
				const done = priced(note.value)
				credited++
				notes.push(done)
				const returns = lines.some(({ quantity }) => Number(quantity) < 0)
				if (!returns) expect(minor(done.priced.total)).toBeLessThanOrEqual(0n)
				const figures: [string, bigint][] = [
					['total', leftOf(bill, notes, ({ priced: { total } }) => total)],
					['net', leftOf(bill, notes, ({ priced: { net } }) => net)],
					['tax', leftOf(bill, notes, ({ priced: { taxTotal } }) => taxTotal)],
					['home', leftOf(bill, notes, ({ home }) => home?.tax ?? '0')],
					...bill.lines.flatMap((_, place) =>
						(['gross', 'net', 'discount', 'documentDiscount'] as const).map((key): [string, bigint] => {
							const mine = notes.flatMap(({ lines: own, priced: { lines: out } }) =>
								own.flatMap(({ credits }, index) => (credits === place ? [out[index]?.[key] ?? '0'] : [])),
							)
							const whole = minor(bill.priced.lines[place]?.[key] ?? '0')
							return [`line ${place} ${key}`, mine.reduce((sum, amount) => sum + minor(amount), whole)]
						}),
					),
					...bill.priced.taxes.map(({ code }): [string, bigint] => [
						`tax ${code}`,
						leftOf(bill, notes, ({ priced: { taxes } }) => taxes.find((row) => row.code === code)?.tax ?? '0'),
					]),
				]
				for (const [name, amount] of figures) {
					// What is left of a return is below nothing, and of a bill with one it may be.
					const place = /^line (\d+)/.exec(name)?.[1]
					const below = place !== undefined && Number(lines[Number(place)]?.quantity) < 0
					if (!returns || place !== undefined) expect([name, below ? amount > 0n : amount < 0n]).toEqual([name, false])
					if (creditable(bill, notes).lines.every((most) => Number(most) === 0) && !creditable(bill, notes).freight)
						expect([name, amount]).toEqual([name, 0n])
				}
				const sums = done.priced
				expect(minor(sums.subtotal) - minor(sums.discountTotal)).toBe(minor(sums.net))
				expect(sums.taxes.reduce((sum, row) => sum + minor(row.base), 0n)).toBe(minor(sums.net))
			}
			// What comes to nothing by itself is not credited.
			creditable(bill, notes).lines.forEach((most, place) => {
				const worth = leftOf(bill, notes, ({ priced: { total } }) => total)
				expect([place, Number(most) === 0 || worth === 0n || Number(bill.priced.lines[place]?.gross) === 0]).toEqual([
					place,
					true,
				])
			})
		}),
		{ numRuns: walks(300) },
	)
	expect(credited).toBeGreaterThan(bills)
})
