import type { Day } from '@/core/calendar'
import { lastDay, type PaperPart } from '@/core/paperKind'
import type { CheckInputsOf } from '@/runs/drafts/checkInputs'
import { checkDraft, type Draft, makeDraft } from '@/runs/drafts/draft'
import type { Rates } from '@/runs/drafts/rates'
import { recipientOfRecord } from '@/runs/records/sheetRecords'
import type { Books } from '@/store/books'
import { type Company, readCompany } from '@/store/company'
import type { Customer } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { hasReadyLayout } from '@/store/layouts'
import { linesOf, readOrder } from '@/store/orders'
import type { PaperKindRow } from '@/store/paperKinds'
import { addPaper, nextVersion, noteDrafted, type PaperRecord } from '@/store/paperRecords'
import { registerFor } from '@/store/registers'

// A paper of a kind that the firm made, drafted from its record by the arithmetic of invoices.

/** What a kind's papers carry of it. */
export const partOf = (kind: PaperKindRow, day: Day, version: number): PaperPart => ({
	id: kind.id,
	name: kind.name,
	names: kind.names,
	until: lastDay(day, kind.stands),
	version,
	numbered: kind.numbered,
	mark: '',
})

/** What hinders making papers of a kind at all; empty for nothing. */
export function whyNone(books: Books, kind: PaperKindRow | null): string {
	if (!kind || kind.away_at) return 'This kind of paper was taken away. Take it back under Kinds of paper first.'
	if (!readCompany(books)) return 'Give the firm its name under Company first; it stands at the head of every paper.'
	if (kind.numbered && !registerFor(books, kind.key))
		return `There is no number register for ${kind.several}. Open one under Number registers, or let the kind have none.`
	if (!hasReadyLayout(books, kind.key)) return `No layout for ${kind.several} is released. Release one under Layouts.`
	return ''
}

export type Making = { kind: PaperKindRow; day: Day; company: Company; rates: Rates; factsOf: CheckInputsOf }

/** A record's draft as it would be made on a day. */
function draftRecord(
	books: Books,
	{ kind, day, company, rates }: Making,
	record: PaperRecord,
	version: number,
): { draft: Draft; customer: Customer } {
	const customer = recipientOfRecord(books, record.customer_id, record.body)
	const order = record.body?.order ?? (record.order_id === null ? null : readOrder(books, record.order_id))
	if (!customer || !order) throw new Error(`What ${kind.name} ${record.number} is to be made from is gone.`)
	const lines = record.body?.lines ?? linesOf(books, order.id)
	const draft = makeDraft({
		...{ day, company, customer, rates },
		orders: [{ ...order, number: record.number }],
		lines: new Map([[order.id, lines]]),
		as: { kind: kind.base, paper: partOf(kind, day, version) },
	})
	return { draft, customer }
}

/** Makes a record's draft in a run. @returns its id */
export function addDraft(books: Books, making: Making, record: PaperRecord, runId: number, position: number): number {
	const version = nextVersion(books, record.id)
	const { draft, customer } = draftRecord(books, making, record, version)
	const facts = making.factsOf(customer, draft.content, 0n, customer.email, { id: 0, credits_id: null })
	const findings = checkDraft(draft, facts)
	const id = addDocument(books, {
		run_id: runId,
		position,
		customer_id: customer.id,
		customer_name: customer.name,
		email: customer.email,
		order_numbers: record.number,
		net: draft.net,
		tax: draft.tax,
		total: draft.total,
		level: findings[0]?.level ?? 'clear',
		content: draft.content,
	})
	addFindings(books, id, findings)
	addPaper(books, id, record.id, version)
	noteDrafted(books, runId, record.id, draft.content.currency, draft.net)
	return id
}
