import { z } from 'zod'
import { base, points } from '../schemaParts'
import { everywhere, leaf, nothing } from './leaf'

const schema = z.strictObject({ ...base, type: z.literal('space'), height: points(0, 700) })

/** Room between what stands above and below. */
export const space = leaf<typeof schema>({
	schema,
	name: 'Space',
	fits: everywhere,
	lettered: false,
	fresh: (id) => ({ type: 'space', id, height: 12 }),
	names: nothing,
	draw: ({ height }) => {
		return () => [{ is: 'gap', height }]
	},
	blocks: () => [],
})
