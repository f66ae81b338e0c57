import { no, type Outcome } from '@/core/outcome'
import { textOf } from '@/intake/cell'
import { correctedRows } from '@/intake/corrected'
import { readingSchema } from '@/intake/reading'
import { type Books, inOneStep } from '@/store/books'
import { addCorrection, correctionsOf, leaveOut, leftOutOf, takeInAgain } from '@/store/corrections'
import { type Desk, record } from '@/store/events'
import { readFile } from '@/store/files'
import { openStaging, rowsIn } from '@/store/staging'
import { workOutAnew } from './anew'

/** What stands at a place now, after every correction; null where there is no such row. */
function standsAt(
	books: Books,
	fileId: number,
	{ row, place, field, was }: { row: number; place: number; field: string; was: string },
): string | null {
	const file = readFile(books, fileId)
	if (!file) return null
	const { lineFrom } = readingSchema.parse(JSON.parse(file.reading))
	const staging = openStaging(books.folder, fileId)
	try {
		const found = correctedRows(rowsIn(staging), correctionsOf(books, fileId), new Set(), lineFrom).get(row)
		if (!found) return null
		if (field !== '') return found.given?.[field] ?? ''
		if (place < lineFrom || !found.lines) return textOf(found.cells[place])
		const line = found.lines.find((cells) => textOf(cells[place - lineFrom]) === was) ?? found.lines[0]
		return textOf(line?.[place - lineFrom])
	} finally {
		staging.close()
	}
}

/**
 * Corrects a value of a file in its row, or wherever it stands in the column (row 0). The file stays as it came; who corrected it and when is
 * kept. One that another corrected meanwhile is not overwritten.
 * @param was what the clerk saw there
 */
export function correctValue(
	books: Books,
	desk: Desk,
	fileId: number,
	{ row, place, field = '', was, now }: { row: number; place: number; field?: string; was: string; now: string },
): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, fileId)
		if (!file || file.state === 'dropped') return no('This file is no longer here.')
		const value = now.trim()
		if (value.length > 2000) return no('At most 2,000 characters are kept.')
		if (value === was) return no('That is what stands there.')
		if (row > 0) {
			const stands = standsAt(books, fileId, { row, place, field, was })
			if (stands === null) return no('There is no such row.')
			if (stands !== was)
				return no(`Row ${row} says “${stands}” by now: somebody corrected it before you. Look at it again.`)
		} else if (correctionsOf(books, fileId).some((one) => one.row === 0 && one.place === place && one.was === was))
			return no(`“${was}” was corrected everywhere by somebody before you. Look at it again.`)
		addCorrection(books, desk, fileId, { row, place, field, was, now: value })
		const detail =
			row > 0 ? `row ${row}: ${was || 'nothing'} → ${value || 'nothing'}` : `wherever it stands: ${was} → ${value}`
		record(books, desk, { subject: 'file', id: fileId, act: 'corrected the file', detail })
		workOutAnew(books, desk, fileId)
		return { ok: true }
	})
}

/** Leaves rows of a file out, with why; all rows of their orders go with them. */
export function leaveRowsOut(books: Books, desk: Desk, fileId: number, rows: number[], reason: string): Outcome {
	return inOneStep(books, (): Outcome => {
		if (!readFile(books, fileId)) return no('This file is no longer here.')
		if (reason.trim() === '') return no('Say why they are left out.')
		for (const row of rows) leaveOut(books, desk, fileId, row, reason.trim())
		const detail = `${rows.length === 1 ? `row ${rows[0]}` : `${rows.length} rows`}: ${reason.trim()}`
		record(books, desk, { subject: 'file', id: fileId, act: 'left rows of the file out', detail })
		workOutAnew(books, desk, fileId)
		return { ok: true }
	})
}

/** Looks at rows again that were left out. */
export function takeRowsIn(books: Books, desk: Desk, fileId: number, rows: number[]): Outcome {
	return inOneStep(books, (): Outcome => {
		const known = new Set(leftOutOf(books, fileId).map(({ row }) => row))
		const own = rows.filter((row) => known.has(row))
		if (own.length === 0) return no('They are not left out.')
		for (const row of own) takeInAgain(books, desk, fileId, row)
		record(books, desk, { subject: 'file', id: fileId, act: 'took rows of the file in again', detail: own.join(', ') })
		workOutAnew(books, desk, fileId)
		return { ok: true }
	})
}
