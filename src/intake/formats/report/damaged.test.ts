import fc from 'fast-check'
import { expect, it } from 'vitest'
import { linesOf, marker, readAll } from '../../../../tests/printed'
import { walks } from '../../../../tests/walks'
import { tryMarks } from '../../tryMarks'
import { type Marks, marksSchema } from './marks'

/** Orders at random, printed at random; a model apart from the reading. */
const word = fc.stringMatching(/^[A-Z]{2,9}$/)
const line = fc.record({
	item: fc.stringMatching(/^[A-Z]{3}-[0-9]{2}$/),
	text: fc.array(word, { minLength: 1, maxLength: 7 }),
	quantity: fc.integer({ min: -99, max: 9999 }),
	cents: fc.integer({ min: 1, max: 999_999 }),
})
const orders = fc.uniqueArray(
	fc.record({
		number: fc.integer({ min: 10_000, max: 99_999 }),
		customer: fc.stringMatching(/^[A-Z]{4}0[1-9]$/),
		lines: fc.array(line, { minLength: 1, maxLength: 14 }),
	}),
	{ selector: ({ number }) => number, minLength: 1, maxLength: 12 },
)
const style = fc.record({
	length: fc.integer({ min: 12, max: 40 }),
	pages: fc.constantFrom('feed', 'control', 'lines'),
	/** Whether an order's beginning is printed again on the next page. */
	again: fc.boolean(),
	heads: fc.boolean(),
	returns: fc.boolean(),
})
const money = (cents: number) => (cents / 100).toFixed(2)

function print(
	list: typeof orders extends fc.Arbitrary<infer T> ? T : never,
	how: typeof style extends fc.Arbitrary<infer T> ? T : never,
) {
	const pages: string[][] = []
	const fresh = (order?: string[]) => {
		pages.push([
			`SKARVIK STORES                         LISTING                PAGE ${String(pages.length + 1).padStart(3)}`,
		])
		if (order && how.again) put(order)
	}
	const put = (lines: string[]) => pages.at(-1)?.push(...lines)
	const room = (need: number, order?: string[]) => {
		if ((pages.at(-1)?.length ?? 0) + need > how.length) fresh(order)
	}
	fresh()
	for (const { number, customer, lines } of list) {
		const head = [`ORDER ${number}          ACCOUNT ${customer}`]
		if (how.heads) head.push('CODE      WHAT IT IS                     QTY       PRICE')
		room(head.length + 3)
		put(head)
		for (const { item, text, quantity, cents } of lines) {
			const wrapped: string[] = ['']
			for (const one of text) {
				const last = wrapped.at(-1) ?? ''
				if (`${last} ${one}`.length > 26) wrapped.push(one)
				else wrapped[wrapped.length - 1] = `${last} ${one}`.trim()
			}
			const shown = quantity < 0 ? `${-quantity}-` : `${quantity} `
			room(wrapped.length, head)
			put([`${item}    ${(wrapped[0] ?? '').padEnd(28)} ${shown.padStart(6)} ${money(cents).padStart(11)}`])
			put(wrapped.slice(1).map((more) => `          ${more}`))
		}
		room(1, head)
		put(['------'])
	}
	const end = how.returns ? '\r\n' : '\n'
	if (how.pages === 'control')
		return pages.map((lines) => lines.map((text, place) => `${place === 0 ? '1' : ' '}${text}${end}`).join('')).join('')
	if (how.pages === 'lines')
		return pages
			.map((lines) => [...lines, ...Array(how.length + 4 - lines.length).fill('')].map((text) => text + end).join(''))
			.join('')
	return pages.map((lines) => lines.map((text) => text + end).join('')).join('\f')
}

it('orders printed in whatever way are read as they were, or it is told what does not fit', () => {
	const runs = walks(60)
	fc.assert(
		fc.property(orders, style, (list, how) => {
			const text = print(list, how)
			const lines = linesOf(text, how.pages === 'control', how.pages === 'lines' ? how.length + 4 : 0)
			const pen = marker(lines, marksSchema.parse({}))
			const [first] = list
			if (!first) return
			pen.pass(0, 0)
			pen.begins('ORDER')
			pen.value('Order number', String(first.number), `ORDER ${first.number}`)
			pen.value('Customer number', first.customer, `ORDER ${first.number}`)
			const marks: Marks = {
				...pen.now(),
				rows: {
					under: how.heads ? { text: 'CODE', at: 0, like: 'text' } : null,
					after: 1,
					height: 1,
					key: ['Quantity'],
					columns: [
						{ name: 'Item', line: 0, from: 0, to: 10, wraps: false },
						{ name: 'Description', line: 0, from: 10, to: 39, wraps: true },
						{ name: 'Quantity', line: 0, from: 39, to: 46, wraps: false },
						{ name: 'Unit price', line: 0, from: 46, to: null, wraps: false },
					],
				},
			}
			const { rows, troubles } = readAll(lines, marks)
			expect(troubles).toEqual([])
			expect(
				rows.map(({ cells }) => [
					cells['Order number'],
					cells['Customer number'],
					cells.Item,
					cells.Description,
					cells.Quantity,
					cells['Unit price'],
				]),
			).toEqual(
				list.flatMap(({ number, customer, lines: own }) =>
					own.map(({ item, text: words, quantity, cents }) => [
						String(number),
						customer,
						item,
						words.join(' '),
						quantity < 0 ? `${-quantity}-` : String(quantity),
						money(cents),
					]),
				),
			)
		}),
		{ numRuns: runs },
	)
})

it('of a report in which one line is lost, doubled, moved or torn, no order is read otherwise in silence', () => {
	type Plain = { number: number; customer: string; lines: { item: string; quantity: number; cents: number }[] }
	const printPlain = (list: Plain[], per: number): string[] => {
		const pages: string[][] = []
		const put = (text: string) => {
			if ((pages.at(-1)?.length ?? per) >= per)
				pages.push([
					`${pages.length > 0 ? '\f' : ''}YARD LISTING      PAGE ${String(pages.length + 1).padStart(3)}`,
					'',
				])
			pages.at(-1)?.push(text)
		}
		for (const { number, customer, lines } of list) {
			put(`ORDER ${number}          ACCOUNT ${customer}`)
			put('CODE         QTY       PRICE')
			for (const { item, quantity, cents } of lines)
				put(`${item}    ${String(quantity).padStart(6)} ${money(cents).padStart(11)}`)
			put(`TOTAL     ${money(lines.reduce((sum, one) => sum + one.quantity * one.cents, 0)).padStart(12)}`)
		}
		return pages.flat()
	}
	const value = (name: string, label: string, at: number, from: number, to: number | null) => ({
		...{ names: [name], label: { text: label, at, like: 'text' as const } },
		...{ line: 0, lines: 1, from, to, whole: false },
	})
	const marks = marksSchema.parse({
		top: ['YARD LISTING      PAGE   1'],
		begins: { text: 'ORDER', at: 0, like: 'text' },
		number: 'Order number',
		need: ['Order number', 'Customer number'],
		values: [
			value('Order number', 'ORDER', 0, 5, 13),
			value('Customer number', 'ACCOUNT', 21, 7, null),
			value('Order total', 'TOTAL', 0, 5, null),
		],
		rows: {
			...{ under: { text: 'CODE', at: 0, like: 'text' }, after: 1, height: 1, key: ['Quantity'] },
			columns: [
				{ name: 'Item', line: 0, from: 0, to: 10, wraps: false },
				{ name: 'Quantity', line: 0, from: 10, to: 17, wraps: false },
				{ name: 'Unit price', line: 0, from: 17, to: null, wraps: false },
			],
		},
	})
	const plain = orders.map((list) =>
		list.map(({ number, customer, lines }) => ({
			number,
			customer,
			lines: lines.map(({ item, quantity, cents }) => ({ item, quantity: Math.abs(quantity) + 1, cents })),
		})),
	)
	const damage = fc.record({
		how: fc.constantFrom('lost', 'doubled', 'right', 'left', 'swapped', 'joined'),
		at: fc.nat(500),
	})
	fc.assert(
		fc.property(plain, fc.integer({ min: 8, max: 30 }), damage, (list, per, { how, at }) => {
			const lines = printPlain(list, per)
			const place = at % lines.length
			const [own = '', next = ''] = lines.slice(place, place + 2)
			if (how === 'lost') lines.splice(place, 1)
			if (how === 'doubled') lines.splice(place, 0, own.replace('\f', ''))
			if (how === 'right') lines[place] = ` ${own}`
			if (how === 'left') lines[place] = own.slice(1)
			if (how === 'swapped' && place + 1 < lines.length) lines.splice(place, 2, next, own)
			if (how === 'joined' && place + 1 < lines.length) lines.splice(place, 2, own + next)
			const printed = linesOf(lines.join('\n'))
			if (tryMarks(printed, marks, 'orders', [], 'GBP', 1).misfits.length > 0) return
			const said = (rows: { number: string; customer: string; item: string; quantity: string; price: string }[]) =>
				rows.map((row) => Object.values(row).join(' ')).sort()
			const wanted = list.flatMap(({ number, customer, lines: rows }) =>
				rows.map(({ item, quantity, cents }) => ({
					...{ number: String(number), customer, item },
					...{ quantity: String(quantity), price: money(cents) },
				})),
			)
			const got = readAll(printed, marks).rows.map(({ cells }) => ({
				...{ number: cells['Order number'] ?? '', customer: cells['Customer number'] ?? '', item: cells.Item ?? '' },
				...{ quantity: cells.Quantity ?? '', price: cells['Unit price'] ?? '' },
			}))
			expect([how, own, said(got)]).toEqual([how, own, said(wanted)])
		}),
		{ numRuns: walks(60) },
	)
})
