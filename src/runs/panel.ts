import type { Finding } from '@/core/checks'
import { amountText } from '@/core/currency'
import { priceInputOf } from '@/core/document'
import { formatAmount } from '@/core/format'
import { fieldValues, fillLetter } from '@/core/letter'
import { working } from '@/core/price'
import type { Books } from '@/store/books'
import { type ChangeRow, changesOf } from '@/store/changes'
import { type DocumentRow, documentsOfCustomer, findingsOf, readDocument } from '@/store/documents'
import { eventsOf } from '@/store/events'
import { attemptsOfDocument, messageOfDocument } from '@/store/messages'
import { letterFor, senderOf } from './send'

/** A figure with how it was reached; `of` names the line or part it belongs to. */
export type WorkingRow = { of: string; figure: string; amount: string; text: string; source: string }
export type PanelView = {
	document: Omit<DocumentRow, 'email'> & { email: string }
	findings: Finding[]
	working: WorkingRow[]
	message: {
		sender: string
		recipient: string
		subject: string
		body: string
		file: string
		state: string
		answer: string
	} | null
	attempts: { id: number; at: string; outcome: string; answer: string }[]
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
}

/** All that stands beside the list for one document. */
export function panelOf(books: Books, documentId: number): PanelView | null {
	const found = readDocument(books, documentId)
	if (!found) return null
	const { content, ...document } = found
	const message = messageOfDocument(books, documentId)
	const letter = letterFor(books, content.kind)
	const values = fieldValues(content)
	const draft = { ...values, number: values.number || 'its number' }
	return {
		document,
		findings: findingsOf(books, documentId),
		working: workingRows(content),
		message: {
			sender: message?.sender ?? senderOf(books),
			recipient: message?.recipient ?? document.email,
			subject: message?.subject ?? fillLetter(letter.subject, draft),
			body: message?.body ?? fillLetter(letter.body, draft),
			file: document.file_name?.split('/').at(-1) ?? 'its PDF, once it is made',
			state: message?.state ?? 'not written yet',
			answer: message?.last_answer ?? '',
		},
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
		history: historyOf(books, document),
		lines: content.lines.map(({ order, item, quantity, unitPrice, discountPercent, description, taxCode }) => ({
			order: content.orders[order]?.number ?? '',
			item,
			quantity,
			unitPrice,
			discountPercent,
			description,
			taxCode,
		})),
		changes: changesOf(books, documentId),
	}
}

function historyOf(books: Books, document: DocumentRow): PanelView['history'] {
	const own = eventsOf(books, 'document', document.id)
	const run = eventsOf(books, 'run', document.run_id)
	return [...own, ...run].sort((a, b) => b.id - a.id).map(({ at, clerk, act, detail }) => ({ at, clerk, act, detail }))
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

function workingRows(content: NonNullable<ReturnType<typeof readDocument>>['content']): WorkingRow[] {
	const steps = working(priceInputOf(content))
	if (!steps.ok)
		return [{ of: 'The document', figure: steps.refusal.path, amount: '', text: steps.refusal.message, source: '' }]
	return steps.value.map(({ path, amount, text }) => {
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
						? 'Document discount'
						: part === 'charges'
							? (content.charges[Number(index)]?.label ?? 'Charge')
							: (figureNames[name || part] ?? part),
			amount: formatAmount(amountText(amount, content.currency)),
			text,
			source: line ? `${order?.sourceFile}, row ${line.sourceRow}` : '',
		}
	})
}
