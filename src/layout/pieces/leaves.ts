import { address } from './address'
import { aging } from './aging'
import { code } from './code'
import { facts } from './facts'
import { lines } from './lines'
import { picture } from './picture'
import { rule } from './rule'
import { slip } from './slip'
import { space } from './space'
import { totals } from './totals'
import { turn } from './turn'
import { words } from './words'

/** Every type of piece that has no others within it, in the order in which they are offered. A new one is its file, and a line here. */
export const leaves = { words, facts, address, lines, totals, aging, picture, code, slip, rule, space, turn }

type Schemas = (typeof leaves)[keyof typeof leaves]['schema']
/** Their schemas, one at least, as Zod wants them. */
export const leafSchemas = Object.values(leaves).map(({ schema }) => schema) as unknown as [Schemas, ...Schemas[]]
