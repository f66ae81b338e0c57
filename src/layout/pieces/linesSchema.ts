import { z } from 'zod'
import {
	align,
	base,
	color,
	conditionSchema,
	field,
	inlines,
	lettering,
	lineSources,
	points,
	saidSchema,
	style,
} from '../schemaParts'

const columnSchema = z.strictObject({
	id: z.string().min(1).max(40),
	head: saidSchema,
	/** A line below the other; one that is all empty fields is left out. */
	cell: z.array(inlines).max(8),
	/** Points, as wide as it needs up to a most, or what the others leave. */
	width: z.union([z.literal('rest'), z.strictObject({ most: points(10, 500) }), points(8, 600)]),
	align,
	when: conditionSchema.optional(),
	/** A picture from a field of the line, this wide, above the cell's text. */
	picture: z.strictObject({ field, width: points(8, 300) }).optional(),
	...style,
})
export type LinesColumn = z.infer<typeof columnSchema>
export const linesSchema = z.strictObject({
	...base,
	type: z.literal('lines'),
	of: z.enum(lineSources),
	title: saidSchema.optional(),
	columns: z.array(columnSchema).min(1).max(20),
	sort: z
		.array(z.strictObject({ field, down: z.boolean().optional() }))
		.max(6)
		.optional(),
	only: conditionSchema.optional(),
	group: z
		.strictObject({
			by: field,
			head: inlines,
			subtotal: z.strictObject({ label: saidSchema, of: field }).optional(),
		})
		.optional(),
	/** Every second line on this colour. */
	tint: color.optional(),
	/** Rules below each line, below the head alone, or none. */
	rules: z.enum(['lines', 'head', 'none']).optional(),
	ruleColor: color.optional(),
	head: z
		.strictObject({
			fill: color.optional(),
			color: color.optional(),
			bold: z.boolean().optional(),
			size: points(4, 40).optional(),
		})
		.optional(),
	/** Space above and below the text of a line. */
	pad: points(0, 20).optional(),
	none: saidSchema.optional(),
	/** Its last line stays on one page with what follows. */
	keep: z.boolean().optional(),
	...lettering,
})
export type LinesPiece = z.infer<typeof linesSchema>
