import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import { sourceOf } from '@/archive/source'
import { bytesOf, dayIn, figureIn, type Style, shuffled, styles } from '../../tests/tables'
import { walks } from '../../tests/walks'
import type { SheetRow } from './cell'
import { recordReader } from './formats/delimited/records'
import { proposeReading, readSource } from './look'
import { takeOrders } from './orders'
import type { ReadOrder } from './readOrder'
import { rowsOf } from './rows'
import { settled } from './settled'

// Random tables written in random styles: what was written is what is read, or the file is asked about.

const heads = [
	['Order Number', 'Order Date', 'Customer Number', 'Item Code', 'Description', 'Qty', 'Unit Price'],
	['Auftragsnummer', 'Auftragsdatum', 'Kundennummer', 'Artikelnummer', 'Bezeichnung', 'Menge', 'Einzelpreis'],
	['N° de commande', 'Date de commande', 'N° client', 'Référence article', 'Désignation', 'Quantité', 'Prix unitaire'],
	[
		'Número de pedido',
		'Fecha de pedido',
		'Número de cliente',
		'Código de artículo',
		'Descripción',
		'Cantidad',
		'Precio unitario',
	],
	['Ordernummer', 'Orderdatum', 'Klantnummer', 'Artikelnummer', 'Omschrijving', 'Aantal', 'Stukprijs'],
	['Ordrenummer', 'Ordredato', 'Kundenummer', 'Varenummer', 'Beskrivelse', 'Antall', 'Enhetspris'],
]
type Line = { item: string; text: string; quantity: string; price: string }
type Order = { number: string; day: string; customer: string; lines: Line[] }

function written(orders: Order[], style: Style): Buffer {
	const rows: string[][] = []
	if (style.title) rows.push(['Skarvik Supply', '', ''], [''])
	rows.push(shuffled([...(heads[style.language] ?? [])], style.shuffled))
	for (const { number, day, customer, lines } of orders)
		for (const [place, { item, text, quantity, price }] of lines.entries()) {
			const own = style.carried && place > 0 ? ['', '', ''] : [number, dayIn(day, style.days), customer]
			rows.push(shuffled([...own, item, text, figureIn(quantity, style), figureIn(price, style)], style.shuffled))
		}
	// A total begins with its word: the figure stands after it.
	const total = shuffled(['', '', '', '', 'Total', '', figureIn('1234.50', style)], style.shuffled)
	if (style.total && total.find((cell) => cell !== '') === 'Total') rows.push(total)
	return bytesOf(rows, style)
}

const texts = fc.constantFrom(
	'Ring',
	'Rope, 12 mm',
	'Fender; blå',
	'Marker "north"',
	'12" hook',
	'Garn\nrød',
	"Bouée d'amarrage",
	'Ø 8 | verzinkt',
)
const figure = (most: number) =>
	fc
		.tuple(fc.integer({ min: 1, max: most }), fc.integer({ min: 0, max: 99 }))
		.map(([whole, hundredths]) =>
			hundredths % 10 === 0
				? hundredths === 0
					? `${whole}`
					: `${whole}.${hundredths / 10}`
				: `${whole}.${String(hundredths).padStart(2, '0')}`,
		)
const orders = fc.array(
	fc.record({
		day: fc.integer({ min: 1, max: 28 }).map((day) => `2026-10-${String(day).padStart(2, '0')}`),
		customer: fc.integer({ min: 30000, max: 30040 }).map(String),
		lines: fc.array(
			fc.record({
				item: fc.integer({ min: 1, max: 99 }).map((item) => `P${item}`),
				text: texts,
				quantity: figure(9000),
				price: figure(3_000_000),
			}),
			{ minLength: 1, maxLength: 4 },
		),
	}),
	{ minLength: 3, maxLength: 8 },
)
test('a table written in whatever style is read as it was written, or asked about', async () => {
	let read = 0
	await fc.assert(
		fc.asyncProperty(orders, styles, async (given, how) => {
			const table: Order[] = given.map((order, place) => ({ ...order, number: String(70_000 + place * 7) }))
			const kept: SheetRow[] = []
			const look = await readSource(sourceOf('x.csv', written(table, how)), { add: (row) => kept.push(row) })
			if (!look.ok) throw new Error(look.refusal.message)
			const rows = rowsOf(kept)
			const { reading } = proposeReading(look.value, [], 'orders')
			const decided = settled(rows, reading, look.value.evidence, [])
			if (decided.questions.length > 0) return
			read++
			const found: ReadOrder[] = []
			const refused: string[] = []
			takeOrders(rows, reading, decided, [], () => {
				found.length = 0
				return {
					order: (order) => found.push(order),
					refuse: ({ row, column, value, remedy }) => refused.push(`${row} ${column} ${value} ${remedy}`),
					left: () => {},
					refusedLines: () => {},
					sourceTotal: () => {},
				}
			})
			expect(refused).toEqual([])
			const plain = (text: string) => text.replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '')
			expect(
				found.map(({ number, day, customer, lines }) => ({
					number,
					day,
					customer,
					lines: lines.map(({ item, description, quantity, unitPrice }) => ({
						item,
						text: description,
						quantity,
						price: unitPrice,
					})),
				})),
			).toEqual(
				table.map((order) => ({
					number: order.number,
					day: order.day,
					customer: order.customer,
					lines: order.lines.map((line) => ({ ...line, quantity: plain(line.quantity), price: plain(line.price) })),
				})),
			)
		}),
		{ numRuns: walks(50) },
	)
	expect(read).toBeGreaterThan(walks(50) / 3)
})

test('records are parted as by a library made for it, wherever the text is cut', () => {
	const cell = fc.string({ unit: fc.constantFrom('a', 'ø', ' ', '"', ',', '\n', '\r\n', "'", '0'), maxLength: 6 })
	fc.assert(
		fc.property(
			fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 6 }),
			fc.nat(40),
			(table, cut) => {
				const text = table
					.map((row) => row.map((one) => (/[",\r\n]/.test(one) ? `"${one.replaceAll('"', '""')}"` : one)).join(','))
					.join('\n')
				const found: string[][] = []
				const reader = recordReader(',', (cells) => found.push(cells))
				reader.write(text.slice(0, cut))
				reader.write(text.slice(cut))
				reader.end()
				const wanted: string[][] = parse(text, {
					relax_column_count: true,
					relax_quotes: true,
					record_delimiter: ['\r\n', '\n', '\r'],
				})
				expect(found).toEqual(wanted)
			},
		),
	)
})
