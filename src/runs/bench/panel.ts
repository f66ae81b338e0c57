import { dayText } from '@/core/calendar'
import type { Finding } from '@/core/checks'
import { amountText } from '@/core/currency'
import type { BillContent, DocumentCharge, LayoutRef } from '@/core/document'
import { formatAmount, formatMinor } from '@/core/format'
import { chargeName } from '@/core/freight'
import { fillLetter } from '@/core/letter'
import { billInput } from '@/core/priceBill'
import { type StatementContent, state } from '@/core/statement'
import { working } from '@/core/working'
import { type AnyContent, billsOrders, fieldValues, isBill, letterOf } from '@/kinds'
import { discountChoices } from '@/runs/drafts/change'
import { discountWords } from '@/runs/drafts/difference'
import { outdatedWords } from '@/runs/drafts/handMessage'
import { layoutsToGive } from '@/runs/layouts/layouts'
import { letterFor } from '@/runs/send/letterFor'
import { lateInvoices, senderOf } from '@/runs/send/send'
import { choiceOf } from '@/runs/statements/choice'
import { type Books, inOneReading } from '@/store/books'
import { allTaxRates } from '@/store/catalogue'
import { type ChangeRow, changesOf, originsOf } from '@/store/changes'
import { oneCustomer, readCustomer } from '@/store/customers'
import { type DocumentRow, findingsOf, readAnyDocument } from '@/store/documents'
import { otherDrafts } from '@/store/drafts'
import { eventsOf, eventsOfDocument, latestEventId } from '@/store/events'
import { extractOf } from '@/store/extracts'
import { entriesById, itemCount } from '@/store/ledger'
import { entriesBetween } from '@/store/ledgerThen'
import { companionsOf } from '@/store/made'
import { attemptsOfDocument, copiesOf, messageOfDocument, ownMessage } from '@/store/messages'
import { lookedUpOf } from '@/store/orderIntake'
import { readOrder } from '@/store/orders'
import { kindIn } from '@/store/paperKinds'
import { documentsOfCustomer } from '@/store/places'
import { readSettings } from '@/store/settings'

/** A figure with how it was reached; `of` names the line or part it belongs to. */
/** `file` is the file that its order came in with. */
type WorkingRow = {
	of: string
	figure: string
	amount: string
	text: string
	source: string
	file: number | null
	/** The row of the file. */
	row: number | null
}
/** An item of an account beside its statement, and what the extract says of it. Amounts as they are shown. */
type WhyRow = {
	id: number
	number: string
	kind: string
	day: string
	due: string
	open: string
	on: boolean
	words: string
	/** Open in the extract; empty where it does not have the item. */
	extract: string
	/** What is different, in words; empty for nothing. */
	difference: string
}
export type PanelView = {
	/** The record's latest event as it was read: a form that is opened on this says so. */
	seen: number
	/** What it is drawn by, and the layouts that a draft could be given instead. */
	layout: LayoutRef & { others: { id: number; name: string }[] }
	document: DocumentRow
	/** Of a statement: the late charge that it brings. */
	charge: { amount: string; working: string[] } | null
	/** Of a statement: every item of the account, on it or not, and why. */
	why: { rows: WhyRow[]; on: number; open: number; different: number; settled: number } | null
	findings: Finding[]
	working: WorkingRow[]
	message: {
		sender: string
		recipient: string
		cc: string
		bcc: string
		replyTo: string
		/** Numbers of the documents whose files go along. */
		copies: string[]
		subject: string
		body: string
		/** Why no past-due letter goes although something is past due. */
		spared: string
		file: string
		/** Whether the PDF that is sent is locked. */
		locked: boolean
		/** Formats that go along beside it. */
		formats: string[]
		state: string
		answer: string
		/** What it names that its paper says otherwise by now; empty for nothing. */
		outdated: string
	} | null
	attempts: { id: number; at: string; outcome: string; answer: string }[]
	/** Files that were made beside its PDF. */
	files: { format: string; name: string }[]
	account: {
		id: number
		number: string
		name: string
		earlier: { id: number; number: string; day: string; total: number; currency: string }[]
	}
	history: { at: string; clerk: string; act: string; detail: string }[]
	/** What of it may be changed while it is a draft. */
	lines: {
		order: string
		item: string
		quantity: string
		unitPrice: string | null
		discountPercent: string
		description: string
		taxCode: string
	}[]
	changes: ChangeRow[]
	/** The discounts that it has, and those that could be put on. */
	discounts: { label: string; words: string; on: boolean }[]
	/** The tax codes that there are, to choose from. */
	taxCodes: { code: string; name: string }[]
	/** Its freight, as it is typed; null where it cannot be changed. */
	charges: { label: string; typed: string }[] | null
	/** Whether it bills orders, so that its lines may be divided and put together. */
	bills: boolean
	/** Whether it credits another document, whose prices then stand. */
	credits: boolean
	/** What its kind is called. */
	words: { name: string; noun: string }
	/** Other drafts of the run that it could be put together with. */
	beside: { id: number; order_numbers: string; total: number }[]
}

/** All that stands beside the list for one document, of one moment. */
export const panelOf = (books: Books, documentId: number): PanelView | null =>
	inOneReading(books, () => viewOf(books, documentId))

function viewOf(books: Books, documentId: number): PanelView | null {
	const seen = latestEventId(books)
	const found = readAnyDocument(books, documentId)
	if (!found) return null
	const { content, ...document } = found
	const message = messageOfDocument(books, documentId)
	const letter = letterFor(books, letterOf(content))
	const written = ownMessage(books, documentId)
	const { mail } = readSettings(books)
	const along =
		message?.copies ?? JSON.stringify(choiceOf(books, document.run_id)?.copies ? lateInvoices(books, content) : [])
	const values = fieldValues(content)
	const draft = { ...values, number: values.number || 'its number' }
	return {
		seen,
		document,
		findings: findingsOf(books, documentId),
		working: isBill(content) && content.kind !== 'unpriced' ? workingRows(content, sourcesOf(books, content)) : [],
		charge: isBill(content) ? null : content.charge,
		why: isBill(content) ? null : whyRows(books, document, content),
		message: {
			sender: message?.sender ?? senderOf(books),
			recipient: message?.recipient ?? document.email,
			cc: message?.cc ?? readCustomer(books, document.customer_id)?.cc ?? '',
			bcc: message?.bcc ?? mail.bcc,
			replyTo: message?.reply_to ?? mail.replyTo,
			copies: copiesOf(books, { copies: along }).map(({ number }) => number),
			subject: message?.subject ?? written?.subject ?? fillLetter(letter.subject, draft),
			body: message?.body ?? written?.body ?? fillLetter(letter.body, draft),
			spared: isBill(content) ? '' : content.spared,
			file: document.file_name?.split('/').at(-1) ?? 'its PDF, once it is made',
			locked: message ? message.locked !== '' : (readCustomer(books, document.customer_id)?.lock ?? '') !== '',
			formats: message?.beside.split(',').filter(Boolean) ?? [],
			state: message?.state ?? 'not written yet',
			answer: message?.last_answer ?? '',
			outdated: !message && written ? outdatedWords(written, content) : '',
		},
		files: companionsOf(books, documentId)
			.filter(({ format }) => format !== 'locked')
			.map(({ format, file_name }) => ({ format, name: file_name.split('/').at(-1) ?? '' })),
		attempts: attemptsOfDocument(books, documentId).map(({ id, at, outcome, answer }) => ({ id, at, outcome, answer })),
		account: {
			id: document.customer_id,
			number: content.customer.number,
			name: content.customer.name,
			earlier: documentsOfCustomer(books, document.customer_id)
				.filter(({ id }) => id !== documentId)
				.slice(0, 12)
				.map(({ id, number, day, total, currency }) => ({ id, number: number ?? '', day, total, currency })),
		},
		history: historyOf(books, document, content),
		lines: linesOf(content),
		changes: changesOf(books, documentId),
		discounts: isBill(content) && document.credits_id === null ? discountsOf(books, content) : [],
		taxCodes: [...new Map(allTaxRates(books).map(({ code, name }) => [code, { code, name }])).values()],
		charges:
			isBill(content) && document.credits_id === null
				? content.charges.map((charge, place) => chargeView(content, charge, place))
				: null,
		beside: billsOrders(content) && document.credits_id === null ? otherDrafts(books, documentId) : [],
		credits: document.credits_id !== null,
		bills: billsOrders(content),
		words: kindIn(books, document.kind).words,
		layout: {
			...content.layout,
			others: document.number === null ? layoutsToGive(books, document.kind).map(({ id, name }) => ({ id, name })) : [],
		},
	}
}

const chargeView = (content: BillContent, charge: DocumentCharge, place: number) => ({
	label: chargeName(content, place),
	typed: 'percent' in charge ? `${charge.percent}%` : charge.amount,
})

const linesOf = (content: AnyContent): PanelView['lines'] =>
	!isBill(content)
		? []
		: content.lines.map(({ order, item, quantity, unitPrice, discountPercent, description, taxCode }) => ({
				order: content.orders[order]?.number ?? '',
				item,
				quantity,
				unitPrice,
				discountPercent,
				description,
				taxCode,
			}))

const discountsOf = (books: Books, content: BillContent): PanelView['discounts'] =>
	discountChoices(books, content).map((discount) => ({
		label: discount.label,
		words: discountWords(discount),
		on: content.discounts.some(({ label }) => label === discount.label),
	}))

/** What was open of the account as of the statement's day, the oldest due first, with what the latest extract has of it; what was settled by then is counted alone. */
function whyRows(books: Books, { customer_id }: DocumentRow, content: StatementContent): NonNullable<PanelView['why']> {
	const { currency, day } = content
	const extract = extractOf(books, customer_id, day)
	const ids = new Set([
		...(entriesBetween(books, day, day, oneCustomer(customer_id)).get(customer_id) ?? []).map(({ id }) => id),
		...(extract?.rows.map(({ item_id }) => item_id) ?? []),
	])
	const entries = entriesById(books, [...ids]).filter((entry) => entry.currency === currency && entry.away === 0)
	const found = state(entries, currency, { ...content, asOf: day })
	if (!found) return { rows: [], on: 0, open: 0, different: 0, settled: 0 }
	const inExtract = new Map(extract?.rows.map((row) => [row.item_id, row.open]) ?? [])
	const money = (minor: number) => formatMinor(minor, currency)
	const all = entries.flatMap((entry, place) => {
		const why = found.why[place]
		if (!why) return []
		const there = inExtract.get(entry.id)
		const here = Math.abs(why.open)
		return [{ entry, why, there, here, different: extract !== null && (there ?? 0) !== here }]
	})
	const differs = extract ? dayText(extract.as_of) : ''
	const rowOf = ({ entry, why, there, here, different }: (typeof all)[number]): WhyRow => ({
		...{ id: entry.id, number: entry.number, kind: entry.called || entry.kind, day: entry.day, due: entry.due_day },
		...{ on: why.on, words: why.words },
		open: why.open === 0 ? '' : money(why.open),
		extract: there === undefined ? '' : money(entry.side === 'debit' ? there : -there),
		difference: !different
			? ''
			: there === undefined
				? `not in the extract of ${differs}`
				: here === 0
					? `open in the extract of ${differs}`
					: `the extract of ${differs} has another amount open`,
	})
	const open = all.filter(({ here, different }) => here !== 0 || different)
	// What is different comes first, since there may be thousands; then the oldest due.
	const order = (one: (typeof all)[number]) => `${one.different ? 0 : 1} ${one.here === 0 ? 1 : 0} ${one.entry.due_day}`
	return {
		rows: open
			.map((one) => ({ one, key: order(one) }))
			.sort((a, b) => (a.key < b.key ? -1 : 1))
			.slice(0, mostWhys)
			.map(({ one }) => rowOf(one)),
		on: all.filter(({ why }) => why.on).length,
		open: open.length,
		different: open.filter(({ different }) => different).length,
		settled: itemCount(books, customer_id, currency) - open.length,
	}
}
/** Items of an account that are shown beside a statement. */
const mostWhys = 100

/** What happened to a document and the drafts that its lines come from, to its orders in runs before, and to its run; the latest first. */
function historyOf(books: Books, document: DocumentRow, content: AnyContent): PanelView['history'] {
	const orders = isBill(content) && document.credits_id === null ? content.orders.map(({ id }) => id) : []
	const own = eventsOfDocument(books, originsOf(books, document.id), orders)
	const run = eventsOf(books, 'run', document.run_id)
	// What concerned two drafts is on the record of both; here it is said once.
	const said = new Set<string>()
	return [...own, ...run]
		.sort((a, b) => b.id - a.id)
		.map(({ at, clerk, act, detail }) => ({ at, clerk, act, detail }))
		.filter(({ at, clerk, act, detail }) => {
			const key = `${at.slice(0, 16)} ${clerk} ${act} ${detail}`
			return !said.has(key) && said.add(key)
		})
}

const figureNames: Record<string, string> = {
	gross: 'Gross',
	net: 'Net',
	documentDiscount: 'Part of the document discount',
	subtotal: 'Lines together',
	total: 'Total',
	amountDue: 'Amount due',
	tax: 'Tax',
}

/** Where lines came from: the file of their order, and what was looked up in the books for them. */
function sourcesOf(books: Books, content: BillContent) {
	const files = new Map(content.orders.map(({ id }) => [id, readOrder(books, id)?.source_file_id ?? null]))
	return {
		files,
		lookedUp: lookedUpOf(
			books,
			content.lines.map(({ line }) => line),
		),
	}
}

const lookedWords: Record<string, string> = { price: 'price', text: 'text', unit: 'unit', tax: 'tax code' }
const fromItem = (names: string | undefined, item: string): string => {
	const words = (names ?? '').split(',').flatMap((name) => lookedWords[name] ?? [])
	return words.length === 0 ? '' : `; its ${words.join(', ')} looked up from item ${item}`
}

function workingRows(content: BillContent, origins: ReturnType<typeof sourcesOf>): WorkingRow[] {
	const steps = working(billInput(content))
	if (!steps.ok)
		return [
			{
				of: 'The document',
				figure: steps.refusal.path,
				amount: '',
				text: steps.refusal.message,
				source: '',
				file: null,
				row: null,
			},
		]
	const rows = steps.value.map(({ path, amount, text }): WorkingRow => {
		const [part = '', index = '', name = ''] = path.split('.')
		const line = part === 'lines' ? content.lines[Number(index)] : undefined
		const order = line && content.orders[line.order]
		const place = line ? content.lines.filter((other) => other.order === line.order).indexOf(line) + 1 : 0
		return {
			of: line ? `Order ${order?.number}, line ${place}: ${line.description}` : 'The whole document',
			figure:
				name === 'discounts'
					? 'Line discount'
					: part === 'discounts'
						? content.discounts[Number(index)]?.label || 'Document discount'
						: part === 'charges'
							? chargeName(content, Number(index))
							: part === 'taxes'
								? `Tax ${content.priced.taxes[Number(index)]?.code ?? ''}`.trim()
								: (figureNames[name || part] ?? part),
			amount: formatAmount(amountText(amount, content.currency)),
			text,
			source: line
				? `${order?.sourceFile}, row ${line.sourceRow}${fromItem(origins.lookedUp.get(line.line), line.item)}`
				: '',
			file: order ? (origins.files.get(order.id) ?? null) : null,
			row: line?.sourceRow ?? null,
		}
	})
	return content.home ? [...rows, homeRow(content, content.home)] : rows
}

/** How the tax in the home currency was reached. */
const homeRow = (
	{ priced, currency, rest, refersTo }: BillContent,
	home: NonNullable<BillContent['home']>,
): WorkingRow => ({
	of: 'The whole document',
	figure: `Tax in ${home.currency}`,
	amount: formatAmount(home.tax),
	text: rest?.last
		? `What is left of that of ${refersTo?.number}`
		: `${priced.taxTotal} ${currency} × ${home.rate}, what 1 ${currency} is worth as of ${dayText(home.day)}`,
	source: '',
	file: null,
	row: null,
})
