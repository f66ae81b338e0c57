import { blankCustomer, customerSchema, saveCustomer } from '@/store/customers'
import { masterRules } from './masters'

export const customersRules = masterRules({
	one: 'customer',
	several: 'customers',
	schema: customerSchema,
	names: {
		tax_number: { column: 'taxNumber', said: 'tax number' },
		credit_limit: { column: 'creditLimit', said: 'credit limit (smallest units)' },
		wants_order: { column: 'wantsOrder', said: 'wants purchase order' },
		statement_email: { column: 'statementEmail', said: 'email for statements' },
		cc: { said: 'copy to' },
		own: { said: 'own fields' },
	},
	fresh: ({ known }) => blankCustomer('', known.home),
	known:
		({ known }) =>
		(key) => {
			const before = known.customers.get(key)
			return { before, isNew: before === undefined }
		},
	save: saveCustomer,
})
