import type { CompanyFields } from '@/store/company'
import { blankCustomer, type CustomerFields } from '@/store/customers'

/** The firm of the tests and its customers. */
export const company: CompanyFields = {
	name: 'Tarn Chandlers',
	address: '1 Quay\nTarn TA1 1AA',
	country: 'United Kingdom',
	tax_number: 'GB 000 1',
	email: 'post@tarn.example',
	phone: '01632 960 001',
	bank: 'Bank of Tarn\nAccount 1',
	currency: 'GBP',
	closing_words: 'Thank you.',
}
export const customer = (number: string, more: Partial<CustomerFields> = {}): CustomerFields => ({
	...blankCustomer(number, 'GBP'),
	name: `Customer ${number}`,
	address: '2 Shore Road\nTarn TA2 2BB',
	country: 'United Kingdom',
	email: `${number.toLowerCase()}@shore.example`,
	...more,
})
