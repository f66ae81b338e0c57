import { deliveryOf } from '../fieldCatalogue'
import type { Content } from '../fieldTypes'
import type { Node, Slab } from '../flow'
import { type Leaf, windows } from '../schema'
import { type Doc, type Draw, type Kit, plainLines, say, textSlabs, together } from './kit'

type Address = Extract<Leaf, { type: 'address' }>

/** Name and lines of an address; null where there is none. The country stands in it only where it is abroad, unless it is wanted always or never. */
export function addressLines(piece: Address, content: Content): { name: string; lines: readonly string[] } | null {
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
export function compileAddress(piece: Address, kit: Kit): Draw {
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
