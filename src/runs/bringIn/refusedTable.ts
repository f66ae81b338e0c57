import { textOf } from '@/intake/cell'
import { correctedRows } from '@/intake/corrected'
import { readingSchema } from '@/intake/reading'
import type { Books } from '@/store/books'
import { correctionsOf } from '@/store/corrections'
import { readFile } from '@/store/files'
import { refusedRows } from '@/store/outcomes'
import { hasStaging, openStaging, rowsIn } from '@/store/staging'

/**
 * The refused rows of a file as a table: its own head and a column of reasons, each row once, as it stands with its corrections. Lines of a
 * nested source stand a row each.
 */
export function refusedTable(books: Books, fileId: number): { name: string; rows: string[][] } | null {
	const file = readFile(books, fileId)
	if (!file?.look || !hasStaging(books.folder, fileId)) return null
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const staging = openStaging(books.folder, fileId)
	try {
		const rows = correctedRows(rowsIn(staging), correctionsOf(books, fileId), new Set(), reading.lineFrom)
		const table = refusedRows(staging, 0, 1_000_000).flatMap(({ row, reasons }) => {
			const found = rows.get(row)
			const why = reasons.map(({ column_name, remedy }) => `${column_name}: ${remedy}`).join(' ')
			const own = Array.from({ length: reading.lineFrom }, (_, place) => textOf(found?.cells[place]))
			const extra = (found?.cells ?? []).slice(reading.lineFrom).map(textOf)
			if (!found?.lines) return [[...own, why, ...extra]]
			const width = reading.head.length - reading.lineFrom
			return found.lines.map((line) => [
				...own,
				...Array.from({ length: width }, (_, index) => textOf(line[index])),
				why,
			])
		})
		return { name: file.name, rows: [[...reading.head, 'Why it was refused'], ...table] }
	} finally {
		staging.close()
	}
}
