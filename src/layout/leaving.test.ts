import fc from 'fast-check'
import { expect, test } from 'vitest'
import { pathParts } from '@/core/fileName'
import { type OwnField, ownKey, ownText, readOwn, whyNotOwn } from '@/core/ownFields'
import { invoice } from '../../tests/support'
import { fieldsByKey, ownFieldAt, ownKeysOf } from './fields'
import type { At } from './fieldTypes'
import { languages, languagesFor } from './languages'
import { filedAs, leavingSchema, nameFields, type Part, sameNames } from './leaving'
import { samplePaper } from './sample'
import { conditionWords, fieldsOf } from './values'

const content = invoice([{ quantity: '1', unitPrice: '1' }], { number: 'T-41', day: '2026-10-31' })
const named = (file: Part[], more: object = {}) =>
	filedAs({ ...content, ...more }, leavingSchema.parse({ file }), 'run-0001').file

test.each([
	[[{ field: 'number' }, { text: ' ' }, { field: 'customer.name' }], 'run-0001/T-41 Mørkvik Łodge Æfty'],
	[[{ field: 'title' }, { text: '_' }, { field: 'day' }], 'run-0001/Invoice_2026-10-31'],
	[[{ field: 'day', format: { day: 'month' as const } }], 'run-0001/October 2026'],
	[[{ field: 'number', format: { upper: true } }, { field: 'credits.number' }], 'run-0001/T-41'],
	[[{ field: 'total' }], 'run-0001/1.20'],
	[[{ field: 'credits.number' }], 'run-0001/document'],
])('a file of the parts %j is %s', (parts, file) => {
	expect(named(parts)).toBe(file)
})

test('a revision says which it is, unless a part does', () => {
	expect(named([{ field: 'number' }], { revision: 2 })).toBe('run-0001/T-41 rev. 2')
	expect(named([{ field: 'number' }, { text: '-' }, { field: 'revision' }], { revision: 2 })).toBe('run-0001/T-41-2')
})

test('what is not said stays as usual, in the customer’s language what is', () => {
	expect(filedAs(content, leavingSchema.parse({}), 'run-0001')).toEqual({})
	expect(filedAs(content, leavingSchema.parse({ folder: [{ text: 'A' }] }), 'run-0001').file).toBe(
		'A/T-41 Mørkvik Łodge Æfty',
	)
	const german = { ...content, locale: 'de-DE' }
	expect(filedAs(german, leavingSchema.parse({ title: [{ field: 'title' }] }), 'run-0001')).toEqual({
		title: 'Rechnung',
	})
	const polish = { ...content, locale: 'pl-PL', issuer: { ...content.issuer, language: 'nl' } }
	expect(languagesFor(polish).slice(0, 2)).toEqual(['nl', 'en'])
	expect(filedAs(polish, leavingSchema.parse({ title: [{ field: 'title' }] }), 'run-0001')).toEqual({
		title: 'Factuur',
	})
})

test('whatever stands in values and words, a path stays below its folder and every file system takes it', () => {
	const odd = fc.string({
		unit: fc.constantFrom('a', '/', '\\', '.', ' ', ':', '*', '\u0000', '\u202e', '山', 'é', '%', '~', '\n', 'CON'),
		maxLength: 30,
	})
	fc.assert(
		fc.property(
			odd,
			odd,
			odd.filter((text) => text !== ''),
			(number, name, words) => {
				const own = { ...content, number, customer: { ...content.customer, name } }
				const parts = [{ field: 'number' }, { text: words }, { field: 'customer.name' }]
				const { file = '', title } = filedAs(
					own,
					leavingSchema.parse({ file: parts, folder: parts, title: parts }),
					'run-0001',
				)
				expect(title).not.toMatch(/\n/)
				for (const part of file.split('/')) {
					expect(part).not.toBe('')
					expect(part).not.toMatch(/^[. ]|[. ]$|[<>:"\\|?*\p{Cc}]|^(con|nul)$/iu)
					expect(Buffer.byteLength(part)).toBeLessThanOrEqual(124)
				}
				expect(file.split('/').length).toBeLessThanOrEqual(7)
			},
		),
		{ numRuns: 300 },
	)
	expect(
		pathParts([
			{ text: 'a/b', free: false },
			{ text: '/c/../d', free: true },
		]),
	).toEqual(['a-b', 'c', 'd'])
})

test('files that are the same whatever the case of their letters are found, each with those that bear it', () => {
	expect(
		sameNames([
			{ file: 'A/x', paper: '1' },
			{ file: 'a/X', paper: '2' },
			{ file: 'a/y', paper: '3' },
			{ file: 'é', paper: '4' },
			{ file: 'e\u0301', paper: '5' },
		]),
	).toEqual([
		{ file: 'A/x', papers: ['1', '2'] },
		{ file: 'é', papers: ['4', '5'] },
	])
})

const ownFields: OwnField[] = [
	{ of: 'customer', key: 'keeper', name: 'Looked after by', type: 'text' },
	{ of: 'item', key: 'weight', name: 'Weight', type: 'number' },
	{ of: 'order', key: 'promised', name: 'Promised', type: 'day' },
	{ of: 'line', key: 'batch', name: 'Batch', type: 'text' },
]
const at = (place: number): At => ({
	...{ languages, place, row: 1, page: 1, pages: 1 },
	content: {
		...content,
		customer: { ...content.customer, own: { keeper: 'Ruan' } },
		orders: content.orders.map((order) => ({ ...order, own: { promised: '2026-10-20' } })),
		lines: content.lines.map((line) => ({ ...line, own: { batch: 'B-7' }, itemOwn: { weight: '1.50' } })),
	},
})

test('an own field is read from where its key says, in any books, with its name where they have it', () => {
	const keys = ownFields.flatMap(ownKeysOf)
	expect(keys).toEqual([
		'customer.own.text.keeper',
		'line.item.own.number.weight',
		'order.own.day.promised',
		'line.order.own.day.promised',
		'line.own.text.batch',
	])
	expect(keys.map((key) => fieldsByKey.get(key)?.read(at(0)))).toEqual([
		'Ruan',
		'1.50',
		'2026-10-20',
		'2026-10-20',
		'B-7',
	])
	// Of a record that there is not, or on a statement, it is empty and breaks nothing.
	for (const key of keys.slice(1)) {
		expect(fieldsByKey.get(key)?.read(at(9))).toBe('')
		expect(fieldsByKey.get(key)?.read({ ...at(0), content: samplePaper('statement') })).toBe('')
	}
	const fields = fieldsOf({ reckoned: [] }, ownFields)
	expect(keys.map((key) => fields.get(key)?.name)).toEqual([
		'Looked after by',
		'Weight',
		'Promised',
		'Promised',
		'Batch',
	])
	expect(fieldsByKey.get('customer.own.text.keeper')?.name).toBe('keeper')
	const condition = { all: [{ field: 'customer.own.text.keeper', is: 'is' as const, value: 'Ruan' }] }
	expect(conditionWords(condition, fields)).toBe('the customer’s looked after by is Ruan')
	for (const stray of ['customer.own.money.x', 'nobody.own.text.x', 'customer.own.text.', 'line.item.own.text.A B'])
		expect(ownFieldAt(stray)).toBe(undefined)
	expect(nameFields('statement', ownFields).map(({ key }) => key)).toContain('customer.own.text.keeper')
})

test('keys are made once and are different; values are the same text however they come', () => {
	fc.assert(
		fc.property(fc.array(fc.string({ maxLength: 50 }), { maxLength: 30 }), (names) => {
			const taken = new Set<string>()
			for (const name of names) {
				const key = ownKey(name, taken)
				expect(key).toMatch(/^[a-z0-9]([a-z0-9-]{0,38}[a-z0-9])?$/)
				expect(taken.has(key)).toBe(false)
				taken.add(key)
			}
		}),
	)
	expect(ownText({ b: '2', a: '1', c: '' })).toBe(ownText({ c: '', a: '1', b: '2' }))
	expect(readOwn(ownText({ c: '' }))).toEqual({})
	const [text, number, , batch] = ownFields
	if (!text || !number || !batch) throw new Error('no fields')
	for (const [field, value, good] of [
		[text, 'x'.repeat(2001), false],
		[number, '1e5', false],
		[number, '-12.500001', true],
		[{ ...batch, type: 'day' as const }, '2026-02-30', false],
		[{ ...batch, type: 'picture' as const }, 'a.png', false],
		[number, '', true],
	] as const)
		expect(whyNotOwn(field, value) === null).toBe(good)
})
