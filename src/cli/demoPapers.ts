import { ownKind, type PaperBase, type PaperKindBody, type PaperSource, paperKindSchema } from '@/core/paperKind'
import { blankLine, type FormLine } from '@/intake/orderForm'
import { readingSchema } from '@/intake/reading'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { answer } from '@/runs/bringIn/receive'
import { takeColumns } from '@/runs/papers/columns'
import { issueOne } from '@/runs/papers/issue'
import { makeKind } from '@/runs/papers/kinds'
import { makeOfOrder, makeOne } from '@/runs/papers/one'
import { writeRecord } from '@/runs/papers/write'
import type { Books } from '@/store/books'
import { allCustomers, blankCustomer, saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { readFile } from '@/store/files'
import { ordersOfCustomer } from '@/store/orders'
import { saveRegister } from '@/store/registers'

// The demo firm's papers of other kinds: a quote that waits for its answer, a delivery note, an order to a supplier.

const today = '2026-10-31'

type Kind = {
	base: PaperBase
	records: PaperSource
	/** Of its register; empty for none. */
	prefix: string
} & Pick<PaperKindBody, 'name' | 'several' | 'names' | 'stands' | 'becomesOrder'>

const kinds: Kind[] = [
	{
		...({ base: 'priced', records: 'form' } as const),
		...{ prefix: 'SKQ-{year}-', name: 'Quote', several: 'quotes' },
		...{
			stands: 30,
			becomesOrder: true,
			names: { de: 'Angebot', fr: 'Devis', es: 'Oferta', nb: 'Tilbud', nl: 'Offerte' },
		},
	},
	{
		...({ base: 'unpriced', records: 'orders' } as const),
		...{ prefix: '', name: 'Delivery note', several: 'delivery notes' },
		...{ stands: null, becomesOrder: false },
		names: { de: 'Lieferschein', fr: 'Bon de livraison', es: 'Albarán', nb: 'Følgeseddel', nl: 'Pakbon' },
	},
	{
		...({ base: 'priced', records: 'form' } as const),
		...{ prefix: 'SKP-{year}-', name: 'Purchase order', several: 'purchase orders' },
		...{ stands: null, becomesOrder: false },
		names: { de: 'Bestellung', fr: 'Bon de commande', es: 'Pedido', nb: 'Innkjøpsordre', nl: 'Inkooporder' },
	},
	{
		...{
			base: 'priced',
			records: 'orders',
			prefix: 'SKO-{year}-',
			name: 'Order confirmation',
			several: 'order confirmations',
		},
		...{ stands: null, becomesOrder: false },
		names: {
			de: 'Auftragsbestätigung',
			fr: 'Confirmation de commande',
			nb: 'Ordrebekreftelse',
			nl: 'Orderbevestiging',
		},
	},
	{
		...{ base: 'unpriced', records: 'sheet', prefix: '', name: 'Season letter', several: 'season letters' },
		...{ stands: null, becomesOrder: false, names: { nb: 'Sesongbrev' } },
	},
]

const line = (item: string, quantity: string, more: Partial<FormLine> = {}): FormLine => ({
	...{ ...blankLine, item, quantity },
	...more,
})
const form = (key: string, customer: string, lines: FormLine[], more: object = {}) => ({
	...{ key: `demo ${key}`, number: '', customer, day: '2026-10-29', purchaseOrder: '', currency: '' },
	...{
		discount: '',
		discountName: '',
		freight: '',
		note: '',
		delivery: '',
		own: {},
		lines: [...lines, { ...blankLine }],
	},
	...more,
})

/** The outcome's id, which must be a good one here. */
function idOf(outcome: { ok: true; id?: number } | { ok: false; message: string }): number {
	if (!outcome.ok) throw new Error(outcome.message)
	return outcome.id ?? 0
}

/** Makes the kinds and the papers; the runner's work on them is yet to be done. */
export async function layOutPapers(books: Books, desk: Desk, berths: Buffer): Promise<void> {
	const made = kinds.map(({ base, records, prefix, ...kind }) => {
		const body = paperKindSchema.parse({ ...kind, numbered: prefix !== '' })
		const id = idOf(makeKind(books, desk, base, records, body))
		if (prefix !== '')
			saveRegister(books, desk, {
				...{ kind: ownKind(base, id), prefix, digits: 3, next: 1, first: 1, yearly: 1, year: 2026 },
			})
		return id
	})
	const [quote = 0, note = 0, purchase = 0, , letter = 0] = made
	// A supplier is kept like a customer; nothing is owed by one.
	saveCustomer(books, desk, {
		...blankCustomer('LIND01', 'GBP'),
		name: 'Lindhaven Ropeworks',
		address: 'Spinners Yard\nLindhaven LH3 8RW',
		country: 'United Kingdom',
		email: 'orders@lindhaven.example',
		note: 'Supplier of rope and line',
	})
	const wanted = idOf(
		writeRecord(
			books,
			desk,
			quote,
			form(
				'quote',
				'DUNM01',
				[
					line('BUOY-L2', '2'),
					line('CHN-8', '60'),
					line('', '2', {
						description: 'Laying and inspection, a day on site',
						unit: 'day',
						unitPrice: '640.00',
						taxCode: 'STD',
					}),
				],
				{ discount: '5', freight: '85.00', purchaseOrder: 'Enquiry of 27 Oct' },
			),
			today,
		),
	)
	idOf(issueOne(books, desk, idOf(makeOne(books, desk, wanted, null, today)), 'file'))
	const supply = idOf(
		writeRecord(
			books,
			desk,
			purchase,
			form(
				'purchase',
				'LIND01',
				[line('ROPE-16', '2000', { unitPrice: '1.12' }), line('ROPE-24', '1000', { unitPrice: '2.05' })],
				{ note: 'Deliver by 20 November' },
			),
			today,
		),
	)
	idOf(issueOne(books, desk, idOf(makeOne(books, desk, supply, null, today)), 'file'))
	const customer = allCustomers(books).find(({ number }) => number === 'BRAC01')
	const [latest] = customer ? ordersOfCustomer(books, customer.id) : []
	if (latest) idOf(issueOne(books, desk, idOf(makeOfOrder(books, desk, note, latest.id, null, today)), 'file'))
	await bringBerths(books, desk, letter, berths)
}

/** A list of berth holders, of whom each gets a letter; the letters are yet to be drafted. */
async function bringBerths(books: Books, desk: Desk, kind: number, content: Buffer): Promise<void> {
	const id = await lookAt(books, desk, 'berth-holders.csv', content, { kind: 'rows', paperKind: kind })
	answer(books, desk, id, { kind: true })
	const { head } = readingSchema.parse(JSON.parse(readFile(books, id)?.reading ?? '{}'))
	const types = {
		Berth: 'text',
		Boat: 'text',
		'Length m': 'number',
		'Season fee': 'number',
		'Lift-out': 'day',
	} as const
	const columns = Object.entries(types).map(([name, type]) => ({
		place: head.indexOf(name),
		of: 'sheet' as const,
		type,
	}))
	idOf(takeColumns(books, desk, id, columns))
	await doFileJobs(books, desk)
	const accepted = await acceptNow(books, desk, id)
	if (!accepted.ok) throw new Error(accepted.message)
}
