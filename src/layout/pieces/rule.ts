import { z } from 'zod'
import { base, color, points } from '../schemaParts'
import { everywhere, leaf, nothing } from './leaf'

const schema = z.strictObject({
	...base,
	type: z.literal('rule'),
	thickness: points(0.1, 20).optional(),
	color: color.optional(),
	/** Length; the whole width without it. */
	length: points(1, 900).optional(),
})

/** A line across. */
export const rule = leaf<typeof schema>({
	schema,
	name: 'Rule',
	fits: everywhere,
	lettered: false,
	fresh: (id) => ({ type: 'rule', id }),
	names: nothing,
	draw: (piece, kit) => {
		const thickness = piece.thickness ?? 0.6
		const color = kit.color(piece.color)
		return (_doc, { x, width }) => [
			{
				is: 'slab',
				height: thickness,
				items: [{ type: 'rule', x, y: 0, width: Math.min(piece.length ?? width, width), thickness, color }],
				piece: piece.id,
			},
		]
	},
	blocks: ({ color }, { kit }) => [{ is: 'rule', color: kit.color(color) }],
})
