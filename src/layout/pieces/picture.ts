import { z } from 'zod'
import { inlinesOf } from '../blockKit'
import type { Node } from '../flow'
import { align, base, field, inlines, points } from '../schemaParts'
import { breakLines } from '../text'
import { compileInlines } from '../values'
import { type Draw, type Kit, spansOf, textSlabs, withLooks } from './kit'
import { everywhere, leaf } from './leaf'

const schema = z.strictObject({
	...base,
	type: z.literal('picture'),
	/** The firm's logo, a picture of the layout's own by its SHA-256, or one from a field. */
	of: z.union([
		z.literal('logo'),
		z.strictObject({ image: z.string().regex(/^[0-9a-f]{64}$/) }),
		z.strictObject({ field }),
	]),
	width: points(4, 800),
	height: points(4, 800),
	align,
	/** What stands there when there is no picture. */
	none: inlines.optional(),
})
type Picture = z.infer<typeof schema>

function compilePicture(piece: Picture, kit: Kit): Draw {
	const field = typeof piece.of === 'object' && 'field' in piece.of ? kit.fields.get(piece.of.field) : undefined
	const none = compileInlines(piece.none ?? [], kit.fields)
	const noneRuns = withLooks(none, kit, {})
	return (doc, frame): Node[] => {
		const raw =
			piece.of === 'logo'
				? (doc.at.content.issuer.logo ?? '')
				: 'image' in piece.of
					? piece.of.image
					: (field?.read(doc.at) ?? '')
		const sha256 = typeof raw === 'string' ? raw : ''
		const picture = sha256 === '' ? null : doc.tools.picture(sha256)
		if (!picture) {
			if (sha256 !== '') doc.notes.push({ piece: piece.id, what: 'its picture is missing' })
			const spans = none.length === 0 ? null : spansOf(noneRuns, doc.at)
			if (!spans) return []
			return textSlabs(breakLines(spans, frame.width, doc.tools.metrics), frame, piece.id, {
				align: piece.align,
			})
		}
		// As large as it may be, in its own proportions.
		const width = Math.min(piece.width, frame.width, piece.height * picture.ratio)
		const height = width / picture.ratio
		const x =
			piece.align === 'right'
				? frame.x + frame.width - width
				: piece.align === 'center'
					? frame.x + (frame.width - width) / 2
					: frame.x
		return [{ is: 'slab', height, items: [{ type: 'image', x, y: 0, width, height, sha256 }], piece: piece.id }]
	}
}

export const picture = leaf<typeof schema>({
	schema,
	name: 'Picture',
	fits: everywhere,
	lettered: true,
	fresh: (id) => ({ type: 'picture', id, of: 'logo', width: 150, height: 50 }),
	names: ({ of, none }, named) => {
		named.inlines(none ?? [])
		if (typeof of === 'object' && 'field' in of) named.field(of.field, undefined, none === undefined)
	},
	called: ({ of }, fieldName) =>
		`Picture: ${of === 'logo' ? 'the logo' : 'image' in of ? 'a fixed one' : fieldName(of.field)}`,
	draw: compilePicture,
	blocks: (piece, saying) => {
		const { kit, at, tools } = saying
		const field = typeof piece.of === 'object' && 'field' in piece.of ? kit.fields.get(piece.of.field) : undefined
		const raw =
			piece.of === 'logo'
				? (at.content.issuer.logo ?? '')
				: 'image' in piece.of
					? piece.of.image
					: (field?.read(at) ?? '')
		const sha256 = typeof raw === 'string' ? raw : ''
		const picture = sha256 === '' ? null : tools.picture(sha256)
		if (picture) {
			const width = Math.min(piece.width, piece.height * picture.ratio)
			return [{ is: 'picture', sha256, width, height: width / picture.ratio, align: piece.align ?? 'left' }]
		}
		const runs = piece.none === undefined ? null : inlinesOf(piece.none, {}, saying)
		return runs ? [{ is: 'text', runs, align: piece.align ?? 'left', list: null, heading: false }] : []
	},
})
