import { z } from 'zod'
import { plain } from '../blockKit'
import { deliveryOf } from '../fieldCatalogue'
import type { Content } from '../fieldTypes'
import type { Node, Slab } from '../flow'
import { align, base, points, saidSchema, style } from '../schemaParts'
import { type Doc, type Draw, type Kit, plainLines, say, textSlabs, together } from './kit'
import { everywhere, leaf, nothing } from './leaf'

export const windows = {
	'din-5008-a': { name: 'DIN 5008 form A', x: 70.87, y: 76.54, width: 226.77, height: 127.56 },
	'din-5008-b': { name: 'DIN 5008 form B', x: 70.87, y: 127.56, width: 226.77, height: 127.56 },
	dl: { name: 'DL', x: 56.69, y: 141.73, width: 255.12, height: 99.21 },
	'us-10': { name: 'US No. 10', x: 63, y: 144, width: 288, height: 81 },
} as const
const windowNames = Object.keys(windows) as (keyof typeof windows)[]
const schema = z.strictObject({
	...base,
	type: z.literal('address'),
	of: z.enum(['customer', 'delivery', 'issuer']),
	as: z.enum(['block', 'line']).optional(),
	label: saidSchema.optional(),
	country: z.enum(['abroad', 'always', 'never']).optional(),
	/** Where it shows in the window of an envelope: on the first page, at the place that the standard says. */
	window: z.enum(windowNames).optional(),
	/** Size of the name; the rest has the piece's own. */
	nameSize: points(4, 40).optional(),
	/** In a window: the issuer's address in one small line above. */
	back: z.boolean().optional(),
	align,
	...style,
})
type Address = z.infer<typeof schema>

/** Name and lines of an address; null where there is none. The country stands in it only where it is abroad, unless it is wanted always or never. */
function addressLines(piece: Address, content: Content): { name: string; lines: readonly string[] } | null {
	const { customer, issuer } = content
	const wanted = piece.country ?? 'abroad'
	if (piece.of === 'delivery') {
		const [name, ...lines] = deliveryOf(content)
		return name === undefined ? null : { name, lines }
	}
	if (piece.of === 'issuer')
		return {
			name: issuer.name,
			lines: [...issuer.address, ...(wanted === 'never' || !issuer.country ? [] : [issuer.country])],
		}
	const { country } = customer
	// The address that is kept with a paper has the country as its last line where that is another than the firm's.
	const within = country !== '' && customer.address.at(-1) === country
	const lines = within ? customer.address.slice(0, -1) : customer.address
	const shown = wanted === 'always' ? country !== '' : wanted === 'abroad' && within
	return { name: customer.name, lines: shown ? [...lines, country] : lines }
}

/** An address as a block or one line; in the window of an envelope it stands where the standard has it, and is set smaller to fit. */
function compileAddress(piece: Address, kit: Kit): Draw {
	const look = kit.look(piece)
	const labelLook = { ...kit.look({ size: Math.max(7, look.size - 1.5), color: piece.color }) }
	const nameLook = kit.look({ ...piece, bold: true, size: piece.nameSize ?? piece.size })
	const block = (doc: Doc, width: number, x: number, scale: number): Slab[] => {
		const said = addressLines(piece, doc.at.content)
		if (!said) return []
		const { name, lines } = said
		const scaled = <Look extends { size: number }>(own: Look) => ({ ...own, size: own.size * scale })
		const frame = { x, width }
		const options = { align: piece.align }
		const { issuer } = doc.at.content
		return [
			...(piece.back
				? textSlabs(
						plainLines([issuer.name, ...issuer.address].join(' · '), { ...scaled(look), size: 7 }, width, doc),
						frame,
						piece.id,
						{ ...options, lead: 1.6 },
					)
				: []),
			...(piece.label === undefined
				? []
				: textSlabs(plainLines(say(doc, piece.label), scaled(labelLook), width, doc), frame, piece.id, {
						...options,
						lead: 1.5,
					})),
			...textSlabs(plainLines(name, scaled(nameLook), width, doc), frame, piece.id, options),
			...lines.flatMap((line) => textSlabs(plainLines(line, scaled(look), width, doc), frame, piece.id, options)),
		]
	}
	if (piece.window) {
		const window = windows[piece.window]
		return (doc): Node[] => {
			doc.frames.set(piece.id, window)
			let scale = 1
			if (!addressLines(piece, doc.at.content)) return []
			let slab = together(block(doc, window.width, window.x, scale), piece.id)
			while (slab.height > window.height && look.size * scale > 7) {
				scale -= 0.05
				slab = together(block(doc, window.width, window.x, scale), piece.id)
			}
			const overflows = slab.height > window.height
			return [
				{
					is: 'fixed',
					y: window.y,
					height: Math.max(window.height, slab.height),
					items: slab.items,
					piece: piece.id,
					overflows,
				},
			]
		}
	}
	if (piece.as === 'line')
		return (doc, frame) => {
			const said = addressLines(piece, doc.at.content)
			if (!said) return []
			const { name, lines } = said
			const label = piece.label === undefined ? '' : `${say(doc, piece.label)} `
			const text = `${label}${[name, ...lines].join(' · ')}`
			return textSlabs(plainLines(text, look, frame.width, doc), frame, piece.id, { align: piece.align })
		}
	return (doc, frame) => block(doc, frame.width, frame.x, 1)
}

export const address = leaf<typeof schema>({
	schema,
	name: 'Address',
	fits: everywhere,
	lettered: true,
	fresh: (id) => ({ type: 'address', id, of: 'customer' }),
	names: nothing,
	called: ({ of }) => `Address: ${of === 'issuer' ? 'the firm' : of === 'delivery' ? 'where goods go' : of}`,
	draw: compileAddress,
	blocks: (piece, saying) => {
		const { kit, at } = saying
		const said = addressLines(piece, at.content)
		if (!said) return []
		const look = kit.look(piece)
		const name = kit.look({ ...piece, bold: piece.as !== 'line', size: piece.nameSize ?? piece.size })
		const label = piece.label === undefined ? [] : [say(saying, piece.label)]
		if (piece.as === 'line')
			return [plain([...label, [said.name, ...said.lines].join(' · ')].join(' '), look, piece.align)]
		return [
			...label.map((text) =>
				plain(text, kit.look({ size: Math.max(7, look.size - 1.5), color: piece.color }), piece.align),
			),
			plain(said.name, name, piece.align),
			...said.lines.map((line) => plain(line, look, piece.align)),
		]
	},
})
