import type { OwnField } from '@/core/ownFields'
import { customersKind } from './customers'
import { type Field, field } from './field'
import type { FileKindRules } from './fileKind'
import { itemsKind } from './items'
import { openItemsKind } from './openItems'
import { ordersKind } from './orders'
import { paymentsKind } from './payments'
import { rowsKind } from './rows'
import { taxCodesKind } from './taxCodes'

/** Every kind, by the name under which files are kept, in the order in which they are offered. */
const kinds = {
	orders: ordersKind,
	customers: customersKind,
	items: itemsKind,
	'tax codes': taxCodesKind,
	payments: paymentsKind,
	'open items': openItemsKind,
	rows: rowsKind,
} satisfies Record<string, FileKindRules>

/** What files can hold. */
export type FileKind = keyof typeof kinds
export const fileKindRules: Readonly<Record<FileKind, FileKindRules>> = kinds
export const fileKinds = Object.keys(kinds).filter((name): name is FileKind => name in kinds)

/** The key of an own field's column. */
export const ownColumn = ({ of, key }: Pick<OwnField, 'of' | 'key'>): string => `own ${of} ${key}`

const ownTypes = { text: 'text', number: 'number', day: 'day', picture: 'text' } as const

/** Every field of a kind, those of the firm's own among them; pictures come in by files of their own. */
export const fieldsFor = (kind: FileKind, ownFields: readonly OwnField[]): Field[] => [
	...fileKindRules[kind].fields,
	...ownFields
		.filter(({ of, type }) => fileKindRules[kind].owns.includes(of) && type !== 'picture')
		.map((one) => field(ownColumn(one), one.name, ownTypes[one.type], '', { of: one.of === 'line' ? 'line' : 'row' })),
]

let known: Set<string> | undefined
/** Every name that a column may bear, of whatever kind. */
export function knownNames(): ReadonlySet<string> {
	known ??= new Set(
		Object.values(fileKindRules).flatMap(({ fields }) => fields.flatMap(({ names, weak }) => [...names, ...weak])),
	)
	return known
}
