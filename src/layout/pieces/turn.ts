import { z } from 'zod'
import { base } from '../schemaParts'
import { everywhere, leaf, nothing } from './leaf'

const schema = z.strictObject({ ...base, type: z.literal('turn') })

/** What follows begins a page. */
export const turn = leaf<typeof schema>({
	schema,
	name: 'New page',
	fits: everywhere,
	lettered: false,
	fresh: (id) => ({ type: 'turn', id }),
	names: nothing,
	draw: () => () => [{ is: 'turn' }],
	blocks: () => [],
})
