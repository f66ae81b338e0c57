import { field } from './field'
import type { FileKindRules } from './fileKind'
import { currencyNames, itemNames, perNames, priceNames, taxNames, textNames, unitNames } from './shared'

const itemsFields = [
	field('code', 'Item', 'text', itemNames, { needed: true, weak: 'code,number,no' }),
	field('description', 'Description', 'text', textNames, { weak: 'name,navn,naam,nom,nombre,namn' }),
	field('unit', 'Unit', 'text', unitNames),
	field('unitPrice', 'Unit price', 'amount', priceNames),
	field('pricePer', 'Price per', 'number', perNames),
	field('currency', 'Currency', 'text', currencyNames),
	field('taxCode', 'Tax code', 'text', taxNames),
]

export const itemsKind: FileKindRules = {
	fields: itemsFields,
	owns: ['item'],
	record: 'item',
	told: true,
	key: 'code',
}
