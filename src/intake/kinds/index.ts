import type { OwnField, OwnOf } from '@/core/ownFields'
import { customersFields } from './customers'
import { type Field, field } from './field'
import { itemsFields } from './items'
import { openItemsFields } from './openItems'
import { ordersFields } from './orders'
import { paymentsFields } from './payments'
import { rowsFields } from './rows'
import { taxCodesFields } from './taxCodes'

/** What files can hold. */
export const fileKinds = ['orders', 'customers', 'items', 'tax codes', 'payments', 'open items', 'rows'] as const
export type FileKind = (typeof fileKinds)[number]

const fields: Record<FileKind, Field[]> = {
	orders: ordersFields,
	customers: customersFields,
	items: itemsFields,
	'tax codes': taxCodesFields,
	payments: paymentsFields,
	'open items': openItemsFields,
	rows: rowsFields,
}

/** Whose own fields a file of a kind can fill. */
const owners: Partial<Record<FileKind, readonly OwnOf[]>> = {
	orders: ['order', 'line'],
	customers: ['customer'],
	items: ['item'],
	rows: ['sheet', 'row'],
}
/** The key of an own field's column. */
export const ownColumn = ({ of, key }: Pick<OwnField, 'of' | 'key'>): string => `own ${of} ${key}`

const ownTypes = { text: 'text', number: 'number', day: 'day', picture: 'text' } as const

/** Every field of a kind, those of the firm's own among them; pictures come in by files of their own. */
export const fieldsFor = (kind: FileKind, own: readonly OwnField[]): Field[] => [
	...fields[kind],
	...own
		.filter(({ of, type }) => owners[kind]?.includes(of) && type !== 'picture')
		.map((one) => field(ownColumn(one), one.name, ownTypes[one.type], '', { of: one.of === 'line' ? 'line' : 'row' })),
]

let known: Set<string> | undefined
/** Every name that a column may bear, of whatever kind. */
export function knownNames(): ReadonlySet<string> {
	known ??= new Set(Object.values(fields).flatMap((list) => list.flatMap(({ names, weak }) => [...names, ...weak])))
	return known
}
