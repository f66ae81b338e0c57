import type { Day } from '@/core/calendar'
import { ownText } from '@/core/ownFields'
import type { SheetLine, SheetPaper } from '@/intake/sheetRows'
import type { Books } from '@/store/books'
import { readItem } from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { type Customer, customerByNumber, readCustomer } from '@/store/customers'
import { dropDraft } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { readFile } from '@/store/files'
import { isGoing, latestJob } from '@/store/jobs'
import type { OrderLine, OrderRow } from '@/store/orders'
import { addSheetRecord, leaveRun, papersOf, type RecordBody, recordOfRow, withdrawRecord } from '@/store/paperRecords'
import { runGroups } from '@/store/places'
import { endRun } from '@/store/runs'

/** Rows of a sheet that become one paper, as they wait to be accepted. */
export type StagedPaper = SheetPaper & {
	/** Records of the same key from earlier sheets that nothing was issued of. */
	earlier: number[]
}

/** What the one paper of a whole sheet is for: the sheet's name without its ending. */
export const sheetTitle = (books: Books, fileId: number): string =>
	(readFile(books, fileId)?.name ?? 'sheet').replace(/\.[a-z0-9]{1,5}$/i, '')

/** Customer 0 stands for all who are none. */
const noCustomer = 0

/** Puts rows of a sheet into the books as the record of a paper. One that the same row brought before is withdrawn. */
export function keepSheetRecord(
	books: Books,
	desk: Desk,
	{ id: fileId, name }: { id: number; name: string },
	kindId: number,
	staged: StagedPaper,
	day: Day,
): number {
	const { key, rows, own, lines, recipient } = staged
	const firstRow = rows[0] ?? 0
	const before = recordOfRow(books, fileId, firstRow)
	if (before) withdrawRecord(books, desk, before.id, 'its rows were corrected and accepted anew')
	const customer = staged.customer === '' ? null : customerByNumber(books, staged.customer)
	const body: RecordBody = {
		order: orderOf(books, { key, day, customer, fileId, name, own: ownText(own) }),
		lines: lines.map((line, place) => lineOf(withItem(books, line), place)),
		recipient,
	}
	const customerId = customer?.id ?? noCustomer
	return addSheetRecord(books, desk, { kindId, customerId, fileId, firstRow, number: key, day, body })
}

type OrderParts = { key: string; day: Day; customer: Customer | null; fileId: number; name: string; own: string }
function orderOf(books: Books, { key, day, customer, fileId, name, own }: OrderParts): OrderRow {
	return {
		...{ id: 0, number: key, customer_id: customer?.id ?? noCustomer, day },
		currency: customer?.currency ?? homeCurrency(books),
		...{ purchase_order: '', note: '', discount_percent: '0', discount_amount: '', discount_label: '' },
		...{ freight: '0', freight_percent: '', freight_tax_code: '', delivery: '', own, apart: '', looked_up: '' },
		...{ acceptance_id: 0, held_reason: null, held_by: null, away_how: null, away_reason: null, part_of: null },
		...{ shared: null, content_sha256: '', same_as: '', line_count: 0, source_file_id: fileId },
		...{ source_file: name, run_id: null, document_id: null, billed: 0 },
		...{ customer: customer?.name ?? '', customer_number: customer?.number ?? '' },
	}
}

/** What a row does not say of its item is the item's own. */
function withItem(books: Books, line: SheetLine): SheetLine {
	const item = line.item === '' ? null : readItem(books, line.item)
	return item ? { ...line, description: line.description || item.description, unit: line.unit || item.unit } : line
}

const lineOf = (
	{ row, item, description, quantity, unit, own }: StagedPaper['lines'][number],
	place: number,
): OrderLine => ({
	...{ id: 0, position: place + 1, source_row: row, item_code: item, description, quantity, unit },
	...{ unit_price: null, price_per: '1', discount_percent: '0', discount_amount: '', tax_code: '' },
	...{ own: ownText(own), looked_up: '', agreed: null },
})

/**
 * Withdraws records of earlier sheets that a newer one has again and nothing was issued of; their open drafts are put away. One whose run is
 * going stays, and is told.
 * @returns how many, and those that stay
 */
export function replaceEarlier(
	books: Books,
	desk: Desk,
	ids: number[],
	by: string,
): { replaced: number; kept: number } {
	let [replaced, kept] = [0, 0]
	for (const id of ids) {
		const open = papersOf(books, id).filter(({ stands }) => stands === 1)
		if (open.some(({ number, run_id }) => number !== null || isGoing(latestJob(books, run_id)))) {
			kept++
			continue
		}
		for (const { document_id, run_id } of open) {
			dropDraft(books, desk, document_id, `the newer sheet ${by} took its place`)
			leaveRun(books, desk, run_id, id)
			record(books, desk, { subject: 'document', id: document_id, act: 'put the draft away', detail: `for ${by}` })
			if (runGroups(books, run_id).length === 0) endRun(books, desk, run_id, 'given-back')
		}
		if (withdrawRecord(books, desk, id, `replaced by ${by}`)) replaced++
	}
	return { replaced, kept }
}

/** Whom a paper goes to: the record's own words where its sheet gives them, else the customer's. */
export function recipientOfRecord(books: Books, customerId: number, body: RecordBody | null): Customer | null {
	const customer = readCustomer(books, customerId)
	const given = body?.recipient
	if (!customer || !given) return customer
	const own = Object.fromEntries(Object.entries(given).filter(([, text]) => text !== ''))
	const known = customerId === noCustomer ? { ...customer, name: '' } : customer
	return { ...known, ...own }
}
