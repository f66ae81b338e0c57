import { ownText, readOwn } from '@/core/ownFields'
import { itemSchema, saveItem } from '@/store/catalogue'
import { masterRules } from './masters'

export const itemsRules = masterRules({
	one: 'item',
	several: 'items',
	schema: itemSchema,
	names: {
		unit_price: { column: 'unitPrice', said: 'price', missing: 'A new item needs its price. Give it here.' },
		price_per: { column: 'pricePer', said: 'price per' },
		tax_code: { column: 'taxCode', said: 'tax code' },
		own: { said: 'own fields' },
	},
	fresh: ({ known }) => ({
		description: '',
		unit: '',
		unit_price: '',
		price_per: '1',
		currency: known.home,
		tax_code: '',
	}),
	known:
		({ known }) =>
		(key) => {
			const before = known.items.get(key)
			return { before, isNew: before === undefined }
		},
	refused: ({ tax_code }, { known }) =>
		known.taxCodes.has(String(tax_code))
			? null
			: [
					'taxCode',
					tax_code === ''
						? 'A new item needs its tax code. Give it here, or one for all under “where nothing stands”.'
						: 'No tax code has this code. Make it here, or bring in the tax codes first.',
				],
	save: (books, desk, item) => saveItem(books, desk, { ...item, own: ownText(readOwn(item.own)) }),
})
