import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { BillContent } from '@/core/document'
import { invoice } from '../../tests/support'
import { catalogue } from './fieldCatalogue'
import { hasField } from './fields'
import type { At } from './fieldTypes'
import { languages, sayIn } from './languages'
import { looksOf, paperKinds } from './looks'
import type { Reckoned } from './reckoned'
import { samplePaper } from './sample'
import type { Condition, Format, Inline } from './schemaParts'
import { compileCondition, compileInlines, conditionWords, fieldsOf, joined, writeAll, writeValue } from './values'

const content = invoice(
	[
		{ quantity: '2', unitPrice: '10.50', description: 'Rope', taxCode: 'STD' },
		{ quantity: '1', unitPrice: '99', description: 'buoy', taxCode: 'ZERO', discountPercent: '12.5' },
		{ quantity: '3', unitPrice: '0.10', description: 'Anchor', taxCode: 'STD' },
	],
	{ purchaseOrder: '' } as Partial<BillContent>,
)
const at = (more: Partial<At> = {}): At => ({ content, languages, place: -1, row: 0, page: 1, pages: 3, ...more })
const none = fieldsOf({ reckoned: [] })
const holds = (condition: Condition, place = -1) => compileCondition(condition, none)(at({ place }))
const all = (
	field: string,
	is: Condition extends infer C
		? C extends { all: (infer T)[] }
			? T extends { is: infer I }
				? I
				: never
			: never
		: never,
	value?: string,
): Condition => ({ all: [{ field, is, ...(value === undefined ? {} : { value }) }] })

test('conditions compare figures as figures and words whatever their case', () => {
	expect(holds(all('line.net', 'above', '9.9'), 0)).toBe(true)
	expect(holds(all('line.net', 'above', '100'), 0)).toBe(false)
	expect(holds(all('line.net', 'is', '21'), 0)).toBe(true)
	expect(holds(all('line.description', 'is', 'BUOY'), 1)).toBe(true)
	expect(holds(all('day', 'below', '2026-11-01'))).toBe(true)
	expect(holds(all('line.discount-percent', 'empty'), 0)).toBe(true)
	expect(holds(all('line.discount-percent', 'not empty'), 1)).toBe(true)
	expect(holds({ any: [{ field: 'line.tax-code', is: 'one of', values: ['red', 'zero'] }] }, 1)).toBe(true)
	// What is empty is neither above nor below, and a field that there is not holds never.
	expect(holds(all('line.discount-percent', 'below', '50'), 0)).toBe(false)
	expect(holds(all('line.description', 'above', '5'), 0)).toBe(false)
	expect(holds(all('gone', 'is not', 'x'))).toBe(false)
	expect(holds({ all: [] as never })).toBe(true)
})

test('a condition reads aloud as a sentence', () => {
	expect(
		conditionWords(
			{
				all: [
					{ field: 'customer.tax', is: 'is', value: 'reverse-charge' },
					{ field: 'amount-due', is: 'above', value: '0' },
				],
			},
			none,
		),
	).toBe('the customer’s tax treatment is reverse charge and amount due is above 0')
	expect(
		conditionWords(
			{
				any: [
					{ field: 'terms', is: 'empty' },
					{ field: 'x', is: 'one of', values: ['a', 'b'] },
				],
			},
			none,
		),
	).toContain(' or ')
})

const written = (field: string, format: Format = {}, more: Partial<BillContent> = {}, place = -1) => {
	const own = none.get(field)
	if (!own) throw new Error(field)
	const here = at({ content: { ...content, ...more }, place })
	return writeValue(own.read(here), own, format, here)
}
test('values are written in the customer’s culture, or as they are told', () => {
	expect(written('amount-due')).toBe('£112.18')
	expect(written('amount-due', { money: 'code' })).toBe('GBP\u00a0112.18')
	expect(written('amount-due', { money: 'none', turned: true })).toBe('−112.18')
	expect(written('amount-due', {}, { locale: 'de-DE' })).toBe('112,18\u00a0£')
	expect(written('amount-due', { decimals: 0 })).toBe('GBP\u00a0112')
	expect(['short', 'figures', 'iso', 'long', 'month'].map((day) => written('day', { day } as Format))).toEqual([
		'31 Oct 2026',
		'31/10/2026',
		'2026-10-31',
		'Saturday 31 October 2026',
		'October 2026',
	])
	expect(written('day', { day: 'long' }, { locale: 'nb-NO' })).toBe('lørdag 31. oktober 2026')
	expect(written('line.discount-percent', {}, {}, 1)).toBe('12.5%')
	expect(written('line.discount-percent', {}, { locale: 'fr-FR' }, 1)).toBe('12,5\u00a0%')
	expect(written('line.price', {}, {}, 1)).toBe('99.00')
	expect(written('customer.name', { upper: true })).toBe('MØRKVIK ŁODGE ÆFTY')
	expect(written('customer.address')).toBe('2 Shore Road\nTarn TA2 2BB')
})

test('a figure of any size passes through no binary fraction', () => {
	fc.assert(
		fc.property(fc.bigInt({ min: -(10n ** 24n), max: 10n ** 24n }), (units) => {
			const own = none.get('net')
			const text = `${units < 0n ? '-' : ''}${(units < 0n ? -units : units) / 100n}.${String((units < 0n ? -units : units) % 100n).padStart(2, '0')}`
			if (!own) throw new Error('net')
			const back = writeValue(text, own, { money: 'none' }, at()).replaceAll(',', '').replace('−', '-')
			expect(back).toBe(text.replace(/^-0\.00$/, '0.00'))
		}),
	)
})

const runs = (inlines: Inline[]) => writeAll(compileInlines(inlines, none), at())
test('words stand only beside a value: all fields empty, and they are left out; what is before and after a field goes with it', () => {
	expect(runs([{ text: 'Reason ' }, { field: 'reason' }])).toBeNull()
	expect(runs([{ text: 'Reason ' }, { field: 'reason', empty: 'none given' }])).toEqual(['Reason ', 'none given'])
	expect(joined(compileInlines([{ field: 'number' }, { field: 'reason', before: ' (', after: ')' }], none), at())).toBe(
		'T-0041',
	)
	expect(joined(compileInlines([{ field: 'number', before: '(', after: ')' }], none), at())).toBe('(T-0041)')
	expect(runs([{ text: 'no fields at all' }])).toEqual(['no fields at all'])
	expect(runs([{ field: 'gone' }])).toBeNull()
})

const reckon = (how: Reckoned['how'], place = -1) => {
	const fields = fieldsOf({ reckoned: [{ key: 'it', name: 'It', how }] })
	return fields.get('reckoned.it')?.read(at({ place }))
}
test('fields are reckoned exactly from a list', () => {
	expect(reckon({ is: 'sum', of: 'line.net' })).toBe('107.92')
	expect(reckon({ is: 'sum', of: 'line.net', only: all('line.tax-code', 'is', 'STD') })).toBe('21.30')
	expect(reckon({ is: 'count', of: 'lines', only: all('line.discount-percent', 'not empty') })).toBe('1')
	expect(reckon({ is: 'least', of: 'line.price' })).toBe('0.1')
	expect(reckon({ is: 'most', of: 'line.net' })).toBe('86.62')
	expect(reckon({ is: 'times', of: 'line.net', by: { figure: '0.1' }, decimals: 2 }, 0)).toBe('2.10')
	expect(reckon({ is: 'minus', of: 'total', by: { field: 'net' }, decimals: 2 })).toBe('4.26')
	expect(reckon({ is: 'plus', of: 'total', by: { figure: '-0.005' }, decimals: 2 })).toBe('112.18')
	expect(reckon({ is: 'share', of: 'line.net', by: { field: 'net' }, decimals: 1 }, 0)).toBe('19.5')
	expect(reckon({ is: 'share', of: 'net', by: { figure: '0' }, decimals: 1 })).toBe('')
	expect(reckon({ is: 'joined', parts: [{ field: 'number' }, { text: ' / ' }, { field: 'customer.number' }] })).toBe(
		'T-0041 / A1',
	)
	expect(reckon({ is: 'times', of: 'gone', by: { figure: '2' }, decimals: 0 })).toBe('')
	expect(reckon({ is: 'sum', of: 'tax.base' })).toBe('107.92')
	// Of a field that there is not, nothing adds up, and there is no least.
	expect(reckon({ is: 'sum', of: 'gone' })).toBe('0')
	expect(reckon({ is: 'least', of: 'gone' })).toBe('')
	// A field of the whole paper is no list.
	expect(reckon({ is: 'sum', of: 'total' })).toBe('0.00')
})

test('a field of the firm’s own is empty on a paper that has no place for it', () => {
	const owns = (['sheet', 'order', 'row', 'line', 'customer'] as const).flatMap((of) =>
		(['invoice', 'statement'] as const).map((kind) => {
			const field = { of, key: 'berth', name: 'Berth', type: 'text' } as const
			const fields = fieldsOf({ reckoned: [] }, [field])
			return fields.get(`${of}.own.text.berth`)?.read(at({ content: samplePaper(kind), place: 0 }))
		}),
	)
	expect(owns).toEqual(owns.map(() => ''))
})

test('the sum over lines is the exact sum, whatever their nets', () => {
	fc.assert(
		fc.property(fc.array(fc.integer({ min: 0, max: 10 ** 11 }), { minLength: 1, maxLength: 30 }), (pence) => {
			const own = {
				...content,
				lines: pence.map(() => content.lines[0] as BillContent['lines'][number]),
				priced: {
					...content.priced,
					lines: pence.map((one) => ({
						gross: '0',
						discount: '0',
						documentDiscount: '0',
						net: (one / 100).toFixed(2),
					})),
				},
			}
			const fields = fieldsOf({ reckoned: [{ key: 'it', name: 'It', how: { is: 'sum', of: 'line.net' } }] })
			const sum = pence.reduce((total, one) => total + BigInt(one), 0n)
			expect(fields.get('reckoned.it')?.read(at({ content: own }))).toBe(
				`${sum / 100n}.${String(sum % 100n).padStart(2, '0')}`,
			)
		}),
	)
})

test('every field can be read on every kind of paper that has it, and has a name of its own in its group', () => {
	for (const kind of paperKinds) {
		const paper = samplePaper(kind)
		for (const field of catalogue) {
			if (!hasField(field, kind)) continue
			const raw = field.read({ ...at(), content: paper, place: 0, row: 1 })
			expect([field.key, typeof raw === 'string' || Array.isArray(raw)]).toEqual([field.key, true])
		}
	}
	const names = catalogue.map(({ name, group, kinds }) => `${group} ${name} ${kinds?.join()}`)
	expect(names.filter((name, place) => names.indexOf(name) !== place)).toEqual([])
})

test('every fixed word of the shipped looks is there in all six languages', () => {
	const lacking: string[] = []
	const walk = (value: unknown, path: string) => {
		if (typeof value !== 'object' || value === null) return
		// Sentences are written a language each, in its own order.
		if (languages.every((language) => language in value)) return
		if ('en' in value && Object.values(value).every((one) => typeof one === 'string'))
			for (const language of languages) if (!(language in value)) lacking.push(`${path} ${language}`)
		for (const [key, inner] of Object.entries(value)) {
			if (
				['label', 'head', 'title', 'text', 'paid', 'empty'].includes(key) &&
				typeof inner === 'string' &&
				/[a-z]{2}/i.test(inner)
			)
				lacking.push(`${path}.${key}: ${inner}`)
			walk(inner, `${path}.${key}`)
		}
	}
	for (const kind of paperKinds)
		for (const look of looksOf(kind)) walk([look.head, look.body, look.foot], `${kind} ${look.name}`)
	expect(lacking).toEqual([])
	expect(sayIn({ de: 'Rechnung' }, ['fr', 'en'])).toBe('Rechnung')
})
