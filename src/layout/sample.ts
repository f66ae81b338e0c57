import { type BillContent, noLayout, priceInputOf } from '@/core/document'
import { paperPartSchema } from '@/core/paperKind'
import { price, pricedText } from '@/core/price'
import type { StatementContent } from '@/core/statement'
import type { Content, PaperKind } from './fieldTypes'

// Papers that were never issued, to see a layout with where the books have none of a kind.

const issuer: BillContent['issuer'] = {
	name: 'Your firm',
	address: ['1 Quay Street', 'Port Example PE1 1AA'],
	taxNumber: 'GB 000 0000 00',
	email: 'accounts@your-firm.example',
	phone: '01632 960 000',
	bank: ['Your bank, account 00000000', 'IBAN GB33BUKB20201555555555'],
	closingWords: 'Thank you for your order.',
	logo: null,
	country: 'United Kingdom',
}
const customer: BillContent['customer'] = {
	number: 'C-100',
	name: 'A customer with a name of some length',
	address: ['Harbour House', '12 Long Wharf', 'Example EX4 4MP'],
	country: 'United Kingdom',
	taxNumber: 'GB 123 4567 89',
	tax: 'standard',
}

/** A paper of a kind with a little of everything on it. @param own what is known of the firm already */
export function samplePaper(kind: PaperKind, own: Partial<BillContent['issuer']> = {}, currency = 'GBP'): Content {
	const firm = { ...issuer, ...own }
	return kind === 'statement' ? sampleStatement(firm, currency) : sampleBill(kind, firm, currency)
}

function sampleBill(kind: BillContent['kind'], firm: BillContent['issuer'], currency: string): BillContent {
	const credits = kind === 'credit-note'
	const own = kind === 'priced' || kind === 'unpriced'
	const sign = credits ? '-' : ''
	const line = (
		order: number,
		item: string,
		description: string,
		quantity: string,
		unit: string,
		unitPrice: string,
	) => ({
		...{
			order,
			line: 0,
			sourceRow: 0,
			item,
			description,
			quantity: `${sign}${quantity}`,
			unit,
			unitPrice,
			pricePer: '1',
		},
		...{
			discountPercent: item === 'B-2' ? '5' : '0',
			taxCode: 'STD',
			discountable: true,
			credits: null,
			creditsCharge: null,
		},
	})
	const content: Omit<BillContent, 'priced'> = {
		...{ kind, refersTo: !credits ? null : { number: 'EX-0999', day: '2026-09-30' }, layout: noLayout },
		...(own ? { paper: paperPartSchema.parse({ id: 0, name: 'A paper', until: '2026-11-30' }) } : {}),
		...{ reason: !credits ? '' : 'goods came back', home: null, grounds: [], number: 'EX-1000', revision: 1 },
		...{ supply: { from: '2026-10-06', to: '2026-10-23' }, day: '2026-10-31', dueDay: '2026-11-30', terms: '30 days' },
		...{ currency, locale: 'en-GB', issuer: firm, customer, rest: null },
		orders: [
			{ id: 0, number: '8817', day: '2026-10-06', purchaseOrder: 'PO-2069', sourceFile: '' },
			{ id: 0, number: '8905', day: '2026-10-23', purchaseOrder: '', sourceFile: '' },
		],
		lines: [
			line(0, 'A-1', 'A service, done and inspected', '3', 'each', '185.00'),
			line(0, 'B-2', 'Rope by the metre, with a text that needs a little more room than the others', '44', 'm', '4.65'),
			line(1, 'C-3', 'A buoy', '2', 'each', '112.50'),
		],
		discounts: [],
		charges: [],
		taxCodes: [{ code: 'STD', name: 'VAT', rate: '20' }],
	}
	const priced = price(priceInputOf(content))
	if (!priced.ok) throw new Error(priced.refusal.message)
	return { ...content, priced: pricedText(priced.value) }
}

function sampleStatement(firm: BillContent['issuer'], currency: string): StatementContent {
	const item = (id: number, number: string, due: string, open: string, days: number) => ({
		...{ id, kind: open.startsWith('-') ? ('payment' as const) : ('invoice' as const), number, day: '2026-08-31', due },
		...{ theirOrder: 'PO-2069', amount: open, open, daysPastDue: days, pastDue: days > 0, disputed: false },
	})
	return {
		...{ kind: 'statement', layout: noLayout, number: 'EXS-100', revision: 1, day: '2026-10-31', dueDay: '2026-10-31' },
		...{ currency, locale: 'en-GB', issuer: firm, customer, form: 'open items', show: 'all', credits: 'apart' },
		items: [
			item(1, 'EX-0981', '2026-09-30', '1250.00', 31),
			item(2, 'EX-0990', '2026-11-30', '480.50', 0),
			item(3, 'P-17', '2026-10-20', '-100.00', 0),
		],
		...{ since: '', opening: '0.00', movements: [] },
		buckets: ['not due', '1-30', '31-60', '61-90', 'over 90'].map((name, place) => ({
			name,
			amount: place === 0 ? '480.50' : place === 2 ? '1250.00' : '0.00',
		})),
		...{ pastDue: '1250.00', disputed: '0.00', unapplied: '100.00', balance: '1630.50', total: '1630.50', oldest: 31 },
		...{ asked: '1150.00', promised: '0.00' },
		...{ charge: null, letter: 'statement', stage: 0, spared: '', kept: '', chargeDropped: false },
	}
}
