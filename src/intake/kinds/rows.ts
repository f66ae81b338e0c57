import { customerTexts } from '@/core/customerTexts'
import { customersFields } from './customers'
import { field } from './field'
import type { FileKindRules } from './fileKind'
import { ordersFields } from './orders'
import { customerNumberNames } from './shared'

const of = (list: typeof customersFields, keys: readonly string[]) =>
	keys.flatMap((key) => list.find((one) => one.key === key) ?? [])

/**
 * Rows of a sheet that are for papers, and no orders: whom a paper goes to, what of its columns the books know, and which of them belong
 * together. The other columns become fields of the firm's own.
 */
const rowsFields = [
	field('key', 'What a paper is for', 'text', ''),
	field('customer', 'Customer number', 'text', customerNumberNames),
	...of(customersFields, ['name', 'address1', 'address2', 'address3', 'address4', 'address5', 'address6']),
	...of(customersFields, ['country', 'email', ...customerTexts.map(({ key }) => key), 'locale']),
	...of(ordersFields, ['item', 'description', 'quantity', 'unit']).map((one) => ({ ...one, needed: false })),
]

export const rowsKind: FileKindRules = {
	fields: rowsFields,
	owns: ['sheet', 'row'],
	record: 'row',
	told: false,
	master: null,
}
