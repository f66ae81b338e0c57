import { z } from 'zod'
import { plain } from '../blockKit'
import type { Content } from '../fieldTypes'
import type { Node } from '../flow'
import { align, base, color, inlines, points, saidSchema } from '../schemaParts'
import { symbolNames, symbologies } from '../symbologies'
import { compileInlines, joined } from '../values'
import { type Draw, type Kit, plainLines, say, textSlabs } from './kit'
import { everywhere, leaf } from './leaf'

/** What a code may be; a payment code is a QR code with words of its own. */
export const symbols = [...symbolNames, 'payment'] as const
const schema = z.strictObject({
	...base,
	type: z.literal('code'),
	symbol: z.enum(symbols),
	/** What it says; of a payment code nothing, since that is put together from bank, amount and number. */
	value: inlines,
	/** Width of the symbol. */
	width: points(15, 500),
	/** Height of one made of bars. */
	height: points(10, 200).optional(),
	label: saidSchema.optional(),
	align,
	color: color.optional(),
})
type Code = z.infer<typeof schema>

/**
 * What a payment code says (European Payments Council, EPC069-12, version 002): a credit transfer in euro to the firm's account, with the
 * document's number as its text. Null where nothing is to be paid, the currency is another, or the bank's lines have no IBAN.
 */
export function paymentText({ kind, currency, issuer, number, ...content }: Content): string | null {
	const amount =
		kind === 'statement'
			? 'pastDue' in content
				? content.total
				: ''
			: 'priced' in content
				? content.priced.amountDue
				: ''
	if (currency !== 'EUR' || kind === 'credit-note' || !/^\d{1,9}(\.\d{1,2})?$/.test(amount) || Number(amount) < 0.01)
		return null
	const bank = issuer.bank.join('\n')
	const iban = /\bIBAN[:\s]*([A-Z]{2}\d{2}(?: ?[A-Z0-9]){11,30})/i.exec(bank)?.[1]?.replace(/\s/g, '').toUpperCase()
	if (!iban || !isIban(iban)) return null
	const bic = /\b(?:BIC|SWIFT)[:\s]*([A-Z]{6}[A-Z0-9]{2}(?:[A-Z0-9]{3})?)\b/i.exec(bank)?.[1]?.toUpperCase() ?? ''
	return [
		'BCD',
		'002',
		'1',
		'SCT',
		bic,
		issuer.name.slice(0, 70),
		iban,
		`EUR${amount}`,
		'',
		'',
		number.slice(0, 140),
	].join('\n')
}

/** ISO 13616: the number with its first four signs behind it, letters as figures, leaves 1 when divided by 97. */
export function isIban(text: string): boolean {
	if (!/^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/.test(text)) return false
	const turned = text.slice(4) + text.slice(0, 4)
	let rest = 0
	for (const sign of turned.replace(/[A-Z]/g, (letter) => String(letter.charCodeAt(0) - 55)))
		rest = (rest * 10 + Number(sign)) % 97
	return rest === 1
}

/** A symbol that machines read, with the clear space that it needs round it. */
function compileCode(piece: Code, kit: Kit): Draw {
	const runs = compileInlines(piece.value, kit.fields)
	const color = kit.color(piece.color)
	const labelLook = kit.look({ size: 7.5 })
	const symbol = piece.symbol === 'payment' ? 'qr' : piece.symbol
	const { bars, quiet } = symbologies[symbol]
	return (doc, frame): Node[] => {
		const text = piece.symbol === 'payment' ? paymentText(doc.at.content) : joined(runs, doc.at)
		if (text === null || text === '') return []
		const encoded = doc.tools.encode(symbol, text)
		if (!encoded.ok) {
			doc.notes.push({ piece: piece.id, what: encoded.message })
			return []
		}
		const cells = encoded.cells
		const modules = Math.max(...cells.map(([left, , width]) => left + width), 1)
		const unit = piece.width / (modules + 2 * quiet)
		const clear = unit * quiet
		doc.codes.push({ piece: piece.id, symbol, text, cell: unit })
		const height = bars ? (piece.height ?? 36) : modules * unit
		const scale = bars ? height / encoded.height : unit
		const x =
			frame.x +
			(piece.align === 'right'
				? frame.width - piece.width
				: piece.align === 'center'
					? (frame.width - piece.width) / 2
					: 0)
		const drawn = cells.map(
			([left, top, width, tall]) => [left * unit, top * scale, width * unit, tall * scale] as const,
		)
		const margin = bars ? 2 : clear
		const label = piece.label === undefined ? [] : plainLines(say(doc, piece.label), labelLook, piece.width, doc)
		return [
			{
				is: 'slab',
				height: height + 2 * margin,
				items: [{ type: 'cells', x: x + clear, y: margin, color, cells: drawn }],
				keep: label.length > 0,
				piece: piece.id,
			},
			...textSlabs(label, { x, width: piece.width }, piece.id, { align: 'center' }),
		]
	}
}

export const code = leaf<typeof schema>({
	schema,
	name: 'Code',
	fits: everywhere,
	lettered: true,
	fresh: (id) => ({ type: 'code', id, symbol: 'qr', value: [{ field: 'number' }], width: 70 }),
	names: ({ value }, named) => named.inlines(value),
	called: ({ symbol }) => `Code: ${symbol === 'payment' ? symbol : symbologies[symbol].name}`,
	draw: compileCode,
	blocks: (piece, saying) => {
		const { kit, at, tools } = saying
		const text =
			piece.symbol === 'payment' ? paymentText(at.content) : joined(compileInlines(piece.value, kit.fields), at)
		const symbol = piece.symbol === 'payment' ? 'qr' : piece.symbol
		const encoded = text ? tools.encode(symbol, text) : null
		if (!text || !encoded?.ok) return []
		const { bars } = symbologies[symbol]
		const height = bars ? (piece.height ?? 36) : piece.width
		const align = piece.align ?? 'left'
		const label = piece.label === undefined ? [] : [plain(say(saying, piece.label), kit.look({ size: 7.5 }), align)]
		return [{ is: 'code', encoded, bars, text, width: piece.width, height, align }, ...label]
	},
})
