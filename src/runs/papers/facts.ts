import { readRecordLink } from '@/runs/records/record'
import { acceptedOf } from '@/store/acceptedLines'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { paperKindOf } from '@/store/paperKinds'
import { papersOf, readRecord, recordOfPaper, whyGone } from '@/store/paperRecords'
import { benchRows } from '@/store/places'
import { readRun } from '@/store/runs'
import { acceptView } from './accept'

/** What is to be known of a paper of the firm's own kind beside what it says: its record, its versions, what of it was accepted. */
export function paperFacts(books: Books, documentId: number) {
	const document = readAnyDocument(books, documentId)
	const of = recordOfPaper(books, documentId)
	const record = of && readRecord(books, of.record_id)
	const kind = document && paperKindOf(books, document.kind)
	if (!document || !of || !record || !kind) return null
	const open =
		document.number === null && document.dropped_at === null && readRun(books, document.run_id)?.state === 'open'
	const own = papersOf(books, record.id)
	const place = own.find(({ document_id }) => document_id === documentId)?.place ?? 'dropped'
	return {
		version: of.version,
		record: { id: record.id, ...readRecordLink(record) },
		kind: { id: kind.id, name: kind.name, away: kind.away_at !== null },
		/** Whether it is an open draft, and alone in its run, so that it can be issued from here. */
		open,
		alone: open && benchRows(books, document.run_id, 2).length === 1,
		place,
		gone: whyGone(books, record),
		others: own.filter(({ document_id, stands }) => document_id !== documentId && stands === 1),
		accept: document.number === null ? null : acceptView(books, documentId),
		accepted: acceptedOf(books, record.id),
	}
}
export type PaperFacts = NonNullable<ReturnType<typeof paperFacts>>
