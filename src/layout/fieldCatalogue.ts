import { customerTexts } from '@/core/customerTexts'
import type { BillContent } from '@/core/document'
import { isZero } from '@/core/document'
import { formatAmount } from '@/core/format'
import type { StatementContent } from '@/core/statement'
import { entryNameOn, movementOn, termsOn } from './entryWords'
import type { At, Content, Field, FieldType, PaperKind, Raw } from './fieldTypes'
import { type Said, sayIn } from './languages'
import { word } from './words'

const issuedBills: readonly PaperKind[] = ['invoice', 'credit-note']
const bills: readonly PaperKind[] = [...issuedBills, 'priced']
/** Papers of lines: with figures, or without. */
export const linesKinds: readonly PaperKind[] = [...bills, 'unpriced']
const ownKinds: readonly PaperKind[] = ['priced', 'unpriced']
export const sheetKinds: readonly PaperKind[] = ['unpriced']
const say = (at: At, said: Said) => sayIn(said, at.languages)
const titles = { invoice: 'Invoice', 'credit-note': 'Credit note', statement: 'Statement' }
/** What a paper is called in its language: a kind of the firm's by the name that it has there, else by its own. */
function titleOf(content: Content, at: At): string {
	if (content.kind !== 'priced' && content.kind !== 'unpriced') return say(at, word(titles[content.kind]))
	const [own = ''] = at.languages
	return content.paper?.names[own] ?? content.paper?.name ?? ''
}

const any = (
	key: string,
	name: string,
	group: string,
	type: FieldType,
	read: (content: Content, at: At) => Raw,
	more: Partial<Field> = {},
): Field => ({ key, name, group, of: 'paper', type, read: (at) => read(at.content, at), ...more })
const bill = (
	key: string,
	name: string,
	group: string,
	type: FieldType,
	read: (content: BillContent, at: At) => Raw,
	more: Partial<Field> = {},
): Field =>
	any(key, name, group, type, (content, at) => (content.kind === 'statement' ? '' : read(content, at)), {
		kinds: bills,
		...more,
	})
const statement = (
	key: string,
	name: string,
	group: string,
	type: FieldType,
	read: (content: StatementContent, at: At) => Raw,
	more: Partial<Field> = {},
): Field =>
	any(key, name, group, type, (content, at) => (content.kind === 'statement' ? read(content, at) : ''), {
		kinds: ['statement'],
		...more,
	})

type Line = BillContent['lines'][number]
const line = (
	key: string,
	name: string,
	type: FieldType,
	read: (line: Line, content: BillContent, at: At) => Raw,
	more: Partial<Field> = {},
): Field =>
	bill(
		`line.${key}`,
		name,
		'Line',
		type,
		(content, at) => {
			const own = content.lines[at.place]
			return own ? read(own, content, at) : ''
		},
		{ of: 'line', kinds: linesKinds, ...more },
	)
/** Of a line, on papers with figures. */
const withFigures: Partial<Field> = { kinds: bills }
const figure = (key: 'gross' | 'discount' | 'net' | 'documentDiscount', name: string): Field =>
	line(key, name, 'money', (_, content, at) => content.priced.lines[at.place]?.[key] ?? '', withFigures)
type Order = BillContent['orders'][number]
/** A field of an order, of each order itself and of each line, by the order that it stands on. */
const order = (key: 'number' | 'day' | 'purchaseOrder', name: string, type: FieldType): Field[] => {
	const value = (own: Order | undefined) => String(own?.[key] ?? '')
	return [
		bill(`order.${key}`, name, 'Order', type, (content, at) => value(content.orders[at.place]), {
			of: 'order',
			kinds: linesKinds,
		}),
		line(`order.${key}`, `${name} of its order`, type, (own, content) => value(content.orders[own.order]), {
			group: 'Order of the line',
		}),
	]
}
const tax = (
	key: string,
	name: string,
	type: FieldType,
	read: (content: BillContent, place: number) => string,
): Field => bill(`tax.${key}`, name, 'Tax', type, (content, { place }) => read(content, place), { of: 'tax' })
type Item = StatementContent['items'][number]
const item = (
	key: string,
	name: string,
	type: FieldType,
	read: (item: Item, at: At) => string,
	more: Partial<Field> = {},
) =>
	statement(
		`item.${key}`,
		name,
		'Open item',
		type,
		(content, at) => {
			const own = content.items[at.place]
			return own ? read(own, at) : ''
		},
		{ of: 'item', ...more },
	)
/** Movements begin with the opening balance and end with the closing one. */
const movement = (
	key: string,
	name: string,
	type: FieldType,
	read: (content: StatementContent, at: At) => string,
	more: Partial<Field> = {},
): Field => statement(`movement.${key}`, name, 'What happened', type, read, { of: 'movement', ...more })
const sayingOf = (at: At) => ({ say: (said: Said) => say(at, said), locale: at.content.locale })
function whatHappened(content: StatementContent, at: At): string {
	const movement = moved(content, at)
	return movement ? movementOn(movement, sayingOf(at)) : ''
}
const moved = (content: StatementContent, { place }: At) => content.movements[place - 1]
const isOpening = (at: At) => at.place === 0
const isClosing = (content: StatementContent, at: At) => at.place === content.movements.length + 1

const treatments: Field['values'] = [
	['standard', 'standard'],
	['exempt', 'exempt'],
	['reverse-charge', 'reverse charge'],
]
const yes: Field['values'] = [
	['yes', 'yes'],
	['no', 'no'],
]
/** Where the goods of all its orders go: to the one address that they give, else to the customer's own; none where orders differ. */
export function deliveryOf(content: Content): readonly string[] {
	const usual = content.customer.delivery ?? []
	if (content.kind === 'statement') return usual
	const given = new Map(
		content.orders.map(({ delivery = usual }): [string, readonly string[]] => [delivery.join('\n'), delivery]),
	)
	const [only = []] = given.values()
	return given.size > 1 ? [] : only
}
const yesNo = (value: boolean) => (value ? 'yes' : 'no')
/** Whether an amount is nought, with whatever decimals. */
export const isNone = (amount: string): boolean => isZero(amount.replace('-', ''))
const taxOf = ({ taxCodes }: BillContent, code: string) => taxCodes.find((one) => one.code === code)

/** Why a row of tax is nought, else the name of its code, as the law wants it said. */
export function taxWords({ taxCodes, grounds }: BillContent, code: string): { name: string; grounds: string } {
	return {
		name: taxCodes.find((one) => one.code === code)?.name ?? code,
		grounds: grounds
			.filter((ground) => ground.code === code)
			.map(({ words }) => words)
			.join('; '),
	}
}

/** The name of a step of lateness in the paper's language; "31-60" needs none. */
export function bucketName(name: string, at: Pick<At, 'languages'>): string {
	if (name === 'not due') return sayIn(word('not due'), at.languages)
	return name.startsWith('over ') ? name.replace('over', sayIn(word('over'), at.languages)) : name
}

/** Every field that a layout, a condition or a file name can use, in the order that lists have. */
export const catalogue: readonly Field[] = [
	any('title', 'What it is', 'Document', 'text', titleOf),
	any('number', 'Number', 'Document', 'text', ({ number }) => number),
	any('revision', 'Revision', 'Document', 'count', ({ revision }) => (revision > 1 ? String(revision) : '')),
	any('day', 'Date', 'Document', 'day', ({ day }) => day),
	any('due-day', 'Due date', 'Document', 'day', ({ dueDay }) => dueDay, {
		kinds: ['invoice', 'credit-note', 'statement'],
	}),
	bill('last-day', 'Last day that it stands', 'Document', 'day', ({ paper }) => paper?.until ?? '', {
		kinds: ownKinds,
	}),
	bill('numbered', 'Numbered', 'Document', 'text', ({ paper }) => yesNo(paper?.numbered ?? true), {
		kinds: ownKinds,
		values: yes,
	}),
	bill(
		'version',
		'Version, where not the first',
		'Document',
		'count',
		({ paper }) => ((paper?.version ?? 1) > 1 ? String(paper?.version) : ''),
		{ kinds: ownKinds },
	),
	any('currency', 'Currency', 'Document', 'text', ({ currency }) => currency),
	any('locale', 'Culture', 'Document', 'text', ({ locale }) => locale),
	bill('terms', 'Terms', 'Document', 'text', ({ terms, spoken }, at) =>
		spoken ? termsOn(terms, (said) => say(at, said)) : terms,
	),
	bill('reason', 'Reason of a credit', 'Document', 'text', ({ reason }) => reason, { kinds: issuedBills }),
	bill(
		'credits.number',
		'Number of the invoice it credits',
		'Document',
		'text',
		({ refersTo }) => refersTo?.number ?? '',
		{ kinds: issuedBills },
	),
	bill('credits.day', 'Date of the invoice it credits', 'Document', 'day', ({ refersTo }) => refersTo?.day ?? '', {
		kinds: issuedBills,
	}),
	bill('supply.from', 'First day of supply', 'Document', 'day', ({ supply }) => supply?.from ?? ''),
	bill('supply.to', 'Last day of supply, where it is another', 'Document', 'day', ({ supply }) =>
		supply && supply.to !== supply.from ? supply.to : '',
	),
	bill(
		'your-orders',
		'Their orders',
		'Document',
		'text',
		({ orders }) => [...new Set(orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))].join(', '),
		{ kinds: linesKinds },
	),
	bill('orders', 'Orders', 'Document', 'text', ({ orders }) => orders.map(({ number }) => number).join(', '), {
		kinds: linesKinds,
	}),
	bill('order-count', 'How many orders', 'Document', 'count', ({ orders }) => String(orders.length), {
		kinds: linesKinds,
	}),
	any('run', 'Run', 'Document', 'count', ({ issued }) => (issued ? String(issued.run) : '')),
	any('register.prefix', 'Prefix of its register', 'Document', 'text', ({ issued }) => issued?.prefix ?? ''),
	any('register.value', 'Place in its register', 'Document', 'count', ({ issued }) =>
		issued ? String(issued.value) : '',
	),
	bill('line-count', 'How many lines', 'Document', 'count', ({ lines }) => String(lines.length), { kinds: linesKinds }),

	any('customer.number', 'Customer number', 'Customer', 'text', ({ customer }) => customer.number),
	any('customer.name', 'Name', 'Customer', 'text', ({ customer }) => customer.name),
	any('customer.address', 'Address', 'Customer', 'lines', ({ customer }) => customer.address),
	any('customer.tax-number', 'Tax number', 'Customer', 'text', ({ customer }) => customer.taxNumber),
	any('customer.tax', 'Tax treatment', 'Customer', 'text', ({ customer }) => customer.tax, { values: treatments }),
	any('customer.country', 'Country', 'Customer', 'text', ({ customer }) => customer.country),
	...customerTexts.map(({ key, name }) =>
		any(`customer.${key}`, name, 'Customer', 'text', ({ customer }) => customer[key] ?? ''),
	),
	any('customer.email', 'Email', 'Customer', 'text', ({ customer }) => customer.email ?? ''),
	any('delivery.address', 'Delivery address, where it is another', 'Customer', 'lines', deliveryOf),

	any('issuer.name', 'Name', 'The firm', 'text', ({ issuer }) => issuer.name),
	any('issuer.address', 'Address', 'The firm', 'lines', ({ issuer }) => issuer.address),
	any('issuer.country', 'Country', 'The firm', 'text', ({ issuer }) => issuer.country),
	any('issuer.tax-number', 'Tax number', 'The firm', 'text', ({ issuer }) => issuer.taxNumber),
	any('issuer.email', 'Email', 'The firm', 'text', ({ issuer }) => issuer.email),
	any('issuer.phone', 'Telephone', 'The firm', 'text', ({ issuer }) => issuer.phone),
	any('issuer.bank', 'Bank', 'The firm', 'lines', ({ issuer }) => issuer.bank),
	any('issuer.closing-words', 'Closing words', 'The firm', 'text', ({ issuer }) => issuer.closingWords),
	any('issuer.logo', 'Logo', 'The firm', 'picture', ({ issuer }) => issuer.logo ?? ''),

	bill('subtotal', 'Goods and services', 'Figures', 'money', ({ priced }) => priced.subtotal),
	bill('discount-total', 'Discounts together', 'Figures', 'money', ({ priced }) => priced.discountTotal),
	bill('charge-total', 'Freight and charges together', 'Figures', 'money', ({ priced }) => priced.chargeTotal),
	bill('net', 'Net', 'Figures', 'money', ({ priced }) => priced.net),
	bill('tax-total', 'Tax', 'Figures', 'money', ({ priced }) => priced.taxTotal),
	bill('total', 'Total', 'Figures', 'money', ({ priced }) => priced.total),
	bill('prepaid', 'Paid before', 'Figures', 'money', ({ priced }) => priced.prepaid),
	bill('amount-due', 'Amount due', 'Figures', 'money', ({ priced }) => priced.amountDue),
	bill('home.currency', 'Currency of tax at home', 'Figures', 'text', ({ home }) => home?.currency ?? ''),
	bill('home.tax', 'Tax at home', 'Figures', 'number', ({ home }) => home?.tax ?? ''),
	bill('home.rate', 'Worth of its currency at home', 'Figures', 'number', ({ home }) => home?.rate ?? ''),
	bill('home.day', 'Day of that worth', 'Figures', 'day', ({ home }) => home?.day ?? ''),
	bill('grounds', 'Why there is no tax', 'Figures', 'text', ({ grounds }) =>
		[...new Set(grounds.map(({ words }) => words))].join('; '),
	),

	statement('form', 'Form', 'Document', 'text', ({ form }) => form, {
		values: [
			['open items', 'open items'],
			['balance forward', 'balance forward'],
		],
	}),
	statement('show', 'What it shows', 'Document', 'text', ({ show }) => show, {
		values: [
			['all', 'all'],
			['past-due', 'past due alone'],
		],
	}),
	statement('total', 'What it comes to', 'Figures', 'money', ({ total }) => total),
	statement('total-size', 'What it comes to, without its sign', 'Figures', 'money', ({ total }) =>
		total.replace('-', ''),
	),
	// What stands to their credit, or is promised, is not asked for: the figure is what is left of it. Papers of before have what they had.
	statement('past-due', 'Past due, to pay now', 'Figures', 'money', ({ asked, pastDue }) => asked || pastDue),
	statement('promised', 'Promised', 'Figures', 'money', ({ promised }) => promised || '0'),
	statement(
		'credits',
		'Credits',
		'Document',
		'text',
		({ credits, unapplied, asked, show }) =>
			asked !== '' && Number(unapplied) > 0 && (credits === 'left out' || show === 'past-due') ? 'left out' : 'listed',
		{
			values: [
				['listed', 'listed'],
				['left out', 'left out'],
			],
		},
	),
	statement('disputed', 'In dispute', 'Figures', 'money', ({ disputed }) => disputed),
	statement('unapplied', 'To their credit', 'Figures', 'money', ({ unapplied }) => unapplied),
	statement('balance', 'Balance', 'Figures', 'money', ({ balance }) => balance),
	statement('oldest', 'Days of the oldest', 'Figures', 'count', ({ oldest }) => (oldest > 0 ? String(oldest) : '')),

	line('number', 'Place on the document', 'count', (_own, _content, { place }) => String(place + 1)),
	line('row', 'Number in this table', 'count', (_own, _content, { row }) => String(row)),
	line('item', 'Item', 'text', ({ item: code }) => code),
	line('description', 'Text', 'text', ({ description }) => description),
	line('quantity', 'Quantity', 'number', ({ quantity }) => quantity),
	line('unit', 'Unit', 'text', ({ unit }) => unit),
	line('price', 'Unit price', 'price', ({ unitPrice }) => unitPrice ?? '', withFigures),
	line(
		'price-per',
		'How many the price is for, where not one',
		'number',
		({ pricePer }) => (pricePer === '1' ? '' : pricePer),
		withFigures,
	),
	line(
		'discount-percent',
		'Discount',
		'percent',
		({ discountPercent, discountAmount = '' }, { currency, locale }) => {
			// A discount in money is written with its currency, as it is: it is no percent.
			const amount = isZero(discountAmount) ? '' : `${currency}\u00a0${formatAmount(discountAmount, locale)}`
			const percent = isZero(discountPercent) ? '' : discountPercent
			return amount !== '' && percent !== '' ? `${percent}% + ${amount}` : percent || amount
		},
		withFigures,
	),
	line('tax-code', 'Tax code', 'text', ({ taxCode }) => taxCode, withFigures),
	line(
		'tax-name',
		'Name of its tax',
		'text',
		({ taxCode }, content) => taxOf(content, taxCode)?.name ?? '',
		withFigures,
	),
	line(
		'tax-rate',
		'Rate of its tax',
		'percent',
		({ taxCode }, content) => (content.customer.tax === 'standard' ? (taxOf(content, taxCode)?.rate ?? '') : '0'),
		withFigures,
	),
	figure('gross', 'Gross, before its discount'),
	figure('discount', 'Discount in money'),
	figure('net', 'Net'),
	figure('documentDiscount', 'Share of the document’s discounts'),
	...order('number', 'Number', 'text'),
	...order('day', 'Date', 'day'),
	...order('purchaseOrder', 'Their order', 'text'),
	bill('order.delivery', 'Delivered to', 'Order', 'lines', ({ orders }, { place }) => orders[place]?.delivery ?? [], {
		of: 'order',
		kinds: linesKinds,
	}),
	line(
		'order.delivery',
		'Where its order was delivered',
		'lines',
		({ order: own }, { orders }) => orders[own]?.delivery ?? [],
		{ group: 'Order of the line' },
	),

	tax('code', 'Code', 'text', ({ priced }, place) => priced.taxes[place]?.code ?? ''),
	tax('name', 'Name', 'text', (content, place) => taxWords(content, content.priced.taxes[place]?.code ?? '').name),
	tax(
		'grounds',
		'Why it is nought',
		'text',
		(content, place) => taxWords(content, content.priced.taxes[place]?.code ?? '').grounds,
	),
	tax('rate', 'Rate', 'percent', ({ priced }, place) => priced.taxes[place]?.rate ?? ''),
	tax('base', 'Base', 'money', ({ priced }, place) => priced.taxes[place]?.base ?? ''),
	tax('amount', 'Tax', 'money', ({ priced }, place) => priced.taxes[place]?.tax ?? ''),

	item('number', 'Number', 'text', ({ number, kind }, at) =>
		!at.content.spoken || kind === 'invoice' || kind === 'credit' ? number : entryNameOn(number, sayingOf(at)),
	),
	item('kind', 'What it is, where no invoice', 'text', ({ kind }, at) =>
		kind === 'invoice' || kind === 'credit' ? '' : say(at, word(kind)),
	),
	item('day', 'Date', 'day', ({ day }) => day),
	item('due-day', 'Due date', 'day', ({ due, open }) => (open.startsWith('-') ? '' : due)),
	item('their-order', 'Their order', 'text', ({ theirOrder }) => theirOrder),
	item('amount', 'Amount', 'money', ({ amount }) => amount),
	item('open', 'Open', 'money', ({ open }) => open),
	item('days-late', 'Days late', 'text', ({ disputed, pastDue, daysPastDue }, at) =>
		disputed ? say(at, word('disputed')) : pastDue ? String(daysPastDue) : '',
	),
	item('past-due', 'Past due', 'text', ({ pastDue }) => yesNo(pastDue), { values: yes }),
	item('disputed', 'In dispute', 'text', ({ disputed }) => yesNo(disputed), { values: yes }),
	item('credit', 'A credit', 'text', ({ open }) => yesNo(open.startsWith('-')), { values: yes }),

	movement('day', 'Date', 'day', (content, at) =>
		isOpening(at) ? content.since : isClosing(content, at) ? content.day : (moved(content, at)?.day ?? ''),
	),
	movement('words', 'What happened', 'text', (content, at) =>
		isOpening(at)
			? say(at, word('Opening balance'))
			: isClosing(content, at)
				? say(at, word('Closing balance'))
				: whatHappened(content, at),
	),
	movement('amount', 'Amount', 'money', (content, at) => moved(content, at)?.change ?? ''),
	movement('balance', 'Balance after it', 'money', (content, at) =>
		isOpening(at) ? content.opening : isClosing(content, at) ? content.balance : (moved(content, at)?.balance ?? ''),
	),
	movement('edge', 'Opening or closing', 'text', (content, at) => yesNo(isOpening(at) || isClosing(content, at)), {
		values: yes,
	}),

	any('page', 'Page', 'Page', 'count', (_content, { page }) => String(page)),
	any('pages', 'Pages in all', 'Page', 'count', (_content, { pages }) => String(pages)),
]
