import { z } from 'zod'
import { conditionSchema, field, inlines, lineSources } from './schemaParts'

/** Put together from a list: over lines (sum, count, least, most), of two fields or a figure, or text joined from parts. */
export const reckonedSchema = z.strictObject({
	key: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
	name: z.string().min(1).max(80),
	how: z.discriminatedUnion('is', [
		z.strictObject({ is: z.enum(['sum', 'least', 'most']), of: field, only: conditionSchema.optional() }),
		z.strictObject({ is: z.literal('count'), of: z.enum(lineSources), only: conditionSchema.optional() }),
		z.strictObject({
			is: z.enum(['times', 'plus', 'minus', 'share']),
			of: field,
			by: z.union([
				z.strictObject({ field }),
				z.strictObject({ figure: z.string().regex(/^-?\d{1,12}(\.\d{1,6})?$/) }),
			]),
			decimals: z.number().int().min(0).max(6),
		}),
		z.strictObject({ is: z.literal('joined'), parts: inlines }),
	]),
})
export type Reckoned = z.infer<typeof reckonedSchema>
