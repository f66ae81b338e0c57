import { blankCustomer, customerSchema, saveCustomer } from '@/store/customers'
import { masterRules } from './masters'

export const customersRules = masterRules({
	one: 'customer',
	several: 'customers',
	schema: customerSchema,
	fresh: ({ known }) => blankCustomer('', known.home),
	known:
		({ known }) =>
		(key) => {
			const before = known.customers.get(key)
			return { before, isNew: before === undefined }
		},
	save: saveCustomer,
})
