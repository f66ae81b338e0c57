import { allTaxRates, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { masterRules } from './masters'

/** Rates by code and day. One of a code that has others, from another day, is new but for its name. */
export const taxCodesRules = masterRules({
	one: 'tax code',
	several: 'tax codes',
	schema: taxRateSchema,
	names: { from_day: { column: 'from', said: 'from' } },
	fresh: () => ({ name: '' }),
	known: ({ books }) => {
		const all = allTaxRates(books)
		const rates = new Map(all.map((rate) => [`${rate.code} ${rate.from_day}`, rate]))
		const names = new Map(all.map(({ code, name }) => [code, name]))
		return (key) => {
			const rate = rates.get(key)
			const name = names.get(key.slice(0, key.lastIndexOf(' ')))
			return { before: rate ?? (name === undefined ? undefined : { name }), isNew: rate === undefined }
		}
	},
	save: saveTaxRate,
})
