import { no, type Outcome } from '@/core/outcome'
import { numberDocuments } from '@/runs/issue/number'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { askFor, isGoing, latestJob } from '@/store/jobs'
import { setOnlyFiled } from '@/store/paperKeeping'
import { benchRows } from '@/store/places'
import { readRun } from '@/store/runs'

/**
 * Issues one paper that is by itself in its run: it gets its number, its PDF is made, and it is sent, or only filed. One among others is
 * issued with them, in their run.
 */
export function issueOne(books: Books, desk: Desk, documentId: number, how: 'send' | 'file'): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document || document.number !== null || document.dropped_at !== null)
			return no('Only an open draft is issued.')
		const { run_id } = document
		const rows = benchRows(books, run_id)
		if (rows.length !== 1)
			return no(
				`It stands in run ${run_id} with ${rows.length - 1} others. Go on there, so that all are issued in order.`,
			)
		const [row] = rows
		if (row?.place === 'held') return no(`It is held back: ${row.held_reason}. Release it first.`)
		if (row?.place === 'stopped') return no(`A check stops it: ${row.brief}. Mend that first.`)
		if (readRun(books, run_id)?.state !== 'open') return no('Its run is not open.')
		if (isGoing(latestJob(books, run_id))) return no('A step of its run is going. Wait until it is done.')
		const numbered = numberDocuments(books, desk, run_id, 1)
		if (!numbered.ok) return numbered
		if (how === 'file') setOnlyFiled(books, desk, documentId, true)
		askFor(books, desk, {
			kind: 'make',
			run: run_id,
			expected: 1,
			...(how === 'send' ? { follow: 'send' as const } : {}),
		})
		const number = readAnyDocument(books, documentId)?.number ?? ''
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: how === 'file' ? 'issued it, to be filed only' : 'issued it',
			detail: number,
		})
		return {
			ok: true,
			words:
				how === 'file'
					? `${number} is issued and filed; it is not sent.`
					: document.email === ''
						? `${number} is issued; without an email address it is listed to print.`
						: `${number} is issued and on its way.`,
		}
	})
}

/** Says of an issued paper, that has not left, that it is filed and not sent; or lets it be sent after all. */
export function fileOnly(books: Books, desk: Desk, documentId: number, only: boolean): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document || document.number === null || document.void_at) return no('Only what is issued is filed.')
		if (only === (document.only_filed_at !== null))
			return no(only ? 'It is filed already.' : 'It is to be sent already.')
		if (!setOnlyFiled(books, desk, documentId, only))
			return no('Its message is written already, or it was printed: it is sent or posted.')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: only ? 'filed it, not to be sent' : 'let it be sent after all',
			detail: document.number,
		})
		return { ok: true }
	})
}
