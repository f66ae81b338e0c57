import { minorDigits } from '@/core/currency'
import { withDecimals } from '@/core/decimal'
import { field } from './field'
import type { FileKindRules } from './fileKind'
import { atOdds, fieldsIn, type HomeBooks, type MasterRow } from './master'
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

function itemFields(row: MasterRow, books: HomeBooks) {
	const key = row.get('code').toUpperCase()
	const { fields, text } = fieldsIn(row)
	fields.code = key
	text('description', 'description')
	text('unit', 'unit')
	const price = row.value('unitPrice')
	if (row.get('pricePer') !== '') fields.price_per = row.get('pricePer')
	const currency = row.get('currency').toUpperCase()
	if (currency !== '' && price.currency !== '' && price.currency !== currency)
		row.refuse('unitPrice', atOdds(price.currency, currency))
	if (currency || price.currency) fields.currency = currency || price.currency
	if (price.text !== '')
		fields.unit_price = withDecimals(price.text, minorDigits(String(fields.currency ?? books.homeCurrency)))
	if (row.get('taxCode') !== '') fields.tax_code = row.get('taxCode').toUpperCase()
	return { key, fields }
}

export const itemsKind: FileKindRules = {
	fields: itemsFields,
	owns: ['item'],
	record: 'item',
	told: true,
	master: { key: 'code', made: itemFields },
}
