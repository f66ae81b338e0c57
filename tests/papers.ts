import { type BillContent, priceInputOf } from '@/core/document'
import { price, pricedText } from '@/core/price'
import { company } from './firm'

type Line = {
	quantity: string
	unitPrice: string | null
	taxCode?: string
	description?: string
	discountPercent?: string
}

/** A priced invoice with the given lines, as a run would make it. */
export function invoice(lines: Line[], more: Partial<BillContent> = {}): BillContent {
	const content: Omit<BillContent, 'priced'> = {
		kind: 'invoice',
		refersTo: null,
		reason: '',
		supply: null,
		home: null,
		grounds: [],
		rest: null,
		layout: { name: 'plain', version: 2, id: 0, own: false },
		number: 'T-0041',
		day: '2026-10-31',
		dueDay: '2026-11-30',
		terms: '30 days',
		currency: 'GBP',
		locale: 'en-GB',
		issuer: {
			name: company.name,
			address: ['1 Quay', 'Tarn TA1 1AA'],
			taxNumber: company.tax_number,
			email: company.email,
			phone: company.phone,
			bank: ['Bank of Tarn', 'Account 1'],
			closingWords: 'Thank you.',
			logo: null,
			country: 'United Kingdom',
		},
		customer: {
			number: 'A1',
			name: 'Mørkvik Łodge Æfty',
			address: ['2 Shore Road', 'Tarn TA2 2BB'],
			country: '',
			taxNumber: '',
			tax: 'standard',
		},
		orders: [{ id: 1, number: '8801', day: '2026-10-03', purchaseOrder: 'PO-7', sourceFile: 'orders.csv' }],
		lines: lines.map((line, index) => ({
			order: 0,
			line: 0,
			sourceRow: index + 2,
			item: `I-${index + 1}`,
			description: line.description ?? `Galvanised shackle number ${index + 1}`,
			quantity: line.quantity,
			unit: 'each',
			unitPrice: line.unitPrice,
			pricePer: '1',
			discountPercent: line.discountPercent ?? '0',
			taxCode: line.taxCode ?? 'STD',
			discountable: true,
			credits: null,
			creditsCharge: null,
		})),
		revision: 1,
		discounts: [],
		charges: [],
		taxCodes: [
			{ code: 'STD', name: 'VAT', rate: '20' },
			{ code: 'ZERO', name: 'VAT zero', rate: '0' },
		],
		...more,
	}
	const priced = price(priceInputOf(content))
	if (!priced.ok) throw new Error(priced.refusal.message)
	return { ...content, priced: pricedText(priced.value) }
}
