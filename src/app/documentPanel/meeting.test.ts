import fc from 'fast-check'
import { expect, test } from 'vitest'
import { walks } from '../../../tests/walks'
import { type FormView, meet } from './meeting'

const draft = (over: Partial<FormView> = {}): FormView => ({
	lines: [
		{
			order: '7',
			item: 'ROPE',
			quantity: '2',
			unitPrice: '5.00',
			discountPercent: '0',
			description: 'Rope',
			taxCode: 'STD',
		},
		{
			order: '7',
			item: 'TAR',
			quantity: '1',
			unitPrice: null,
			discountPercent: '5',
			description: 'Tar',
			taxCode: 'RED',
		},
	],
	discounts: [
		{ label: 'Trade', words: 'Trade, 5%', on: true },
		{ label: 'Season', words: 'Season, 2%', on: false },
	],
	charges: [{ label: 'Carriage', typed: '12.50' }] as FormView['charges'],
	document: { due_day: '2026-11-30', email: 'a@lunna.example', number: null },
	...over,
})

/** A form's fields by the order of the screen, each with how a draft holds it: told apart from the form's own names for them. */
const places: { name: string; get: (of: FormView) => string; set: (of: FormView, to: string) => void }[] = [
	...[0, 1].flatMap((at) =>
		(
			[
				['description', 'description'],
				['quantity', 'quantity'],
				['price', 'unitPrice'],
				['discount', 'discountPercent'],
				['tax', 'taxCode'],
			] as const
		).map(([name, key]) => ({
			name: `${name}${at}`,
			get: (of: FormView) => of.lines[at]?.[key] ?? '',
			set: (of: FormView, to: string) => {
				const line = of.lines[at]
				if (line) line[key] = to
			},
		})),
	),
	...['Trade', 'Season'].map((label) => ({
		name: `taken ${label}`,
		get: (of: FormView) => (of.discounts.find((one) => one.label === label)?.on ? 'on' : ''),
		set: (of: FormView, to: string) => {
			for (const one of of.discounts) if (one.label === label) one.on = to === 'on'
		},
	})),
	{
		name: 'charge0',
		get: (of) => of.charges?.[0]?.typed ?? '',
		set: (of, to) => {
			if (of.charges?.[0]) of.charges[0].typed = to
		},
	},
	{ name: 'dueDay', get: (of) => of.document.due_day, set: (of, to) => Object.assign(of.document, { due_day: to }) },
	{ name: 'email', get: (of) => of.document.email, set: (of, to) => Object.assign(of.document, { email: to }) },
]

/** Which fields are set to what: a value of three for each, so that both often do the same. */
const edits = fc.uniqueArray(fc.tuple(fc.nat(places.length - 1), fc.constantFrom('1', '2', '')), {
	selector: ([at]) => at,
	maxLength: 6,
})
const valueFor = (name: string, value: string) => (name.startsWith('taken') ? (value === '' ? '' : 'on') : value)

/** What the form holds: the draft as it was opened, with what was typed over it. */
const held = (opened: FormView, typed: (readonly [number, string])[]): Map<string, string> => {
	const form = new Map(places.map(({ name, get }) => [name, get(opened)]))
	for (const [at, value] of typed) {
		const { name = '' } = places[at] ?? {}
		form.set(name, valueFor(name, value))
	}
	return form
}

test('of two changes of one draft, what was typed stays, what was left alone follows, and all that differs is named', () => {
	fc.assert(
		fc.property(edits, edits, fc.boolean(), (typed, theirs, otherOrder) => {
			const [opened, now] = [draft(), draft()]
			for (const [at, value] of theirs) {
				const place = places[at]
				place?.set(now, valueFor(place.name, value))
			}
			// Discounts that are on may come first: their places say nothing.
			if (otherOrder) now.discounts.reverse()
			const form = held(opened, typed)
			const { follow, apart } = meet(opened, now, (name) => form.get(name) ?? '')
			let differing = 0
			for (const { name, get } of places) {
				const [was, mine, is] = [get(opened), form.get(name) ?? '', get(now)]
				expect(follow.get(name) ?? mine, name).toBe(mine === was ? is : mine)
				if (mine === was && is === was) continue
				differing++
				expect(apart).toContainEqual(expect.objectContaining({ opened: was, typed: mine, now: is }))
			}
			expect(apart).toHaveLength(differing)
		}),
		{ numRuns: walks(100) },
	)
})

test('where the draft has other lines or freight now, or a number, nothing typed moves to another field', () => {
	const opened = draft()
	const [rope, tar] = opened.lines as [FormView['lines'][0], FormView['lines'][0]]
	const form = held(opened, [[1, '40']])
	for (const now of [
		draft({ lines: [tar, rope] }),
		draft({ lines: [rope] }),
		draft({ lines: [rope, { ...tar, item: 'ROPE' }] }),
		draft({ charges: [] }),
		draft({ document: { ...opened.document, number: 'T-0041', email: 'b@lunna.example' } }),
	]) {
		const { follow, apart } = meet(opened, now, (name) => form.get(name) ?? '')
		expect(follow.size).toBe(0)
		expect(apart).toContainEqual(expect.objectContaining({ field: 'quantity of line 1', opened: '2', typed: '40' }))
	}
})
