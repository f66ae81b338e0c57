import { compileLayout, drawPaper } from '@/layout/draw'
import { drawEarlier } from '@/layout/earlier'
import type { Piece } from '@/layout/schema'
import { encode } from '@/pdf/codes'
import { metrics } from '@/pdf/fontKit'
import { readLogo } from '@/pdf/logo'
import { makeDocument } from '@/pdf/makeDocument'
import { artOf, look, lookNames } from '../looks'
import { invoice } from '../papers'

// Layouts, one thread, one run of this machine: what each look costs beside the drawing of before, a heavy one, and long papers.

const lines = (count: number, from = 0) =>
	Array.from({ length: count }, (_, place) => ({
		quantity: `${((from + place) % 9) + 1}`,
		unitPrice: `${((from + place) % 97) + 1}.25`,
		description: `Galvanised bow shackle number ${from + place}, with a pin`,
	}))
const papers = Array.from({ length: 400 }, (_, place) =>
	invoice(lines(5, place * 5), {
		number: `B-${place}`,
		customer: { ...invoice(lines(1)).customer, name: `Customer ${place} of the Northern Harbours` },
	}),
)
const earlier = papers.map((paper) => ({ ...paper, layout: { name: 'plain', version: 2, id: 0, own: false } }))
const row = (name: string, value: string) => console.log(`${name.padEnd(62)} ${value}`)

/** Milliseconds a paper takes, the best of some rounds, since other work on the machine only ever slows one down. */
async function best(work: (place: number) => unknown, count: number, rounds = 5): Promise<number> {
	let least = Number.POSITIVE_INFINITY
	// The first round makes the code and the caches warm.
	for (let round = 0; round < rounds; round++) {
		const from = performance.now()
		for (let place = 0; place < count; place++) await work(place)
		least = Math.min(least, (performance.now() - from) / count)
	}
	return least
}
const paperAt = (place: number) => papers[place % papers.length] ?? papers[0]

const before = await best(
	(place) => makeDocument(earlier[place % earlier.length] as never, { layout: null, pictures: new Map() }),
	papers.length,
)
row('the plain invoice, drawn and written as before layouts', `${before.toFixed(2)} ms a PDF`)
for (const name of lookNames) {
	const ms = await best((place) => makeDocument(paperAt(place) as never, artOf('invoice', name)), papers.length)
	row(`${name}`, `${ms.toFixed(2)} ms a PDF, ${(ms / before).toFixed(2)} of before`)
}

const { layout } = look('invoice')
const code: Piece = {
	type: 'code',
	id: 'qr',
	symbol: 'qr',
	value: [{ field: 'number' }, { text: ' ' }, { field: 'amount-due' }],
	width: 70,
}
const told: Piece = {
	...{ type: 'words', id: 'told', says: { en: [{ runs: [{ text: 'Reverse charge' }] }] } },
	when: {
		any: [
			{ field: 'customer.tax', is: 'is', value: 'reverse-charge' },
			{ field: 'total', is: 'above', value: '100' },
		],
	},
}
const heavy = compileLayout({ ...layout, body: [...layout.body, code, told, { ...told, id: 'told-2' }] })
const heavyMs = await best(
	(place) => makeDocument(paperAt(place) as never, { layout: heavy, pictures: new Map() }),
	papers.length,
)
row(
	'Plain with a QR code and conditions',
	`${heavyMs.toFixed(2)} ms a PDF, ${(1000 / heavyMs).toFixed(0)} a second on one core`,
)

// Photographs: a column of them, a different one for each item.
const photographs = await Promise.all(
	['3f6f9f', 'e0701f', '8d979f', '2f5d50', '39424a'].map(async (color, place) => {
		const svg = `<svg viewBox="0 0 40 30"><rect width="40" height="30" fill="#eef1f3"/><circle cx="20" cy="15" r="11" fill="#${color}"/></svg>`
		const read = await readLogo('image/svg+xml', Buffer.from(svg), String(place).repeat(64))
		if (!read.ok) throw new Error(read.refusal.message)
		return read.value
	}),
)
const pictured = papers.map((paper) => ({
	...paper,
	lines: paper.lines.map((line, place) => ({ ...line, itemOwn: { photograph: photographs[place % 5]?.sha256 ?? '' } })),
}))
const withColumn = compileLayout({
	...layout,
	body: [
		...layout.body.map((piece) =>
			piece.type === 'lines' && piece.of === 'lines'
				? {
						...piece,
						columns: [
							...piece.columns,
							{
								id: 'p',
								head: '',
								cell: [],
								width: 44,
								picture: { field: 'line.item.own.picture.photograph', width: 40 },
							},
						],
					}
				: piece,
		),
		code,
		told,
	],
})
const pictures = new Map(photographs.map((one) => [one.sha256, one]))
const picturedMs = await best(
	(place) => makeDocument(pictured[place % pictured.length] as never, { layout: withColumn, pictures }),
	papers.length,
)
row(
	'and with a photograph for each line',
	`${picturedMs.toFixed(2)} ms a PDF, ${(1000 / picturedMs).toFixed(0)} a second on one core`,
)

const tools = { metrics, encode, picture: () => null }
const plain = look('invoice')
const long: [count: number, ms: number, pages: number][] = []
for (const count of [1000, 2000, 4000]) {
	const paper = invoice(lines(count))
	long.push([
		count,
		await best(() => drawPaper(plain, paper, tools, null), 1, 15),
		drawPaper(plain, paper, tools, null).pages.length,
	])
}
for (const [count, ms, pages] of long) row(`${count} lines laid out`, `${ms.toFixed(0)} ms, ${pages} pages`)
const [one, two, four] = long.map(([, ms]) => ms)
row(
	'twice the lines',
	`${((two ?? 0) / (one ?? 1)).toFixed(2)} and ${((four ?? 0) / (two ?? 1)).toFixed(2)} times the time`,
)
const oldMs = await best(
	() =>
		drawEarlier({ ...invoice(lines(2000)), layout: { name: 'plain', version: 2, id: 0, own: false } }, metrics, null),
	1,
)
row('2000 lines laid out as before layouts', `${oldMs.toFixed(0)} ms`)
