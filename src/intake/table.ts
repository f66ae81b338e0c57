import { parse } from 'csv-parse/sync'
import { z } from 'zod'
import { attempt, type Result, refuse } from '@/core/refusal'

/** A file as a table: the names in its head, and its rows by their place in the file (the head is row 1). */
export type Table = {
	head: string[]
	rows: { row: number; cells: string[] }[]
	delimiter: string
	encoding: 'UTF-8' | 'Windows-1252'
}

// What the parser gives with `info`; its own types know only rows without.
const recordsSchema = z.array(z.object({ record: z.array(z.string()), info: z.object({ lines: z.number() }) }))

/**
 * Reads delimited text (comma, semicolon or tab; UTF-8 or Windows-1252; quoted fields). Refused: an empty file, bytes that
 * are not text, a head with fewer than two names, a quote that is never closed (the row is named).
 */
export function readTable(bytes: Buffer): Result<Table> {
	return attempt(() => {
		if (bytes.length === 0) return refuse('file', 'The file is empty. Export it again and choose the new file.')
		const { text, encoding } = decode(bytes)
		const delimiter = findDelimiter(text)
		const records = split(text, delimiter)
		const [head, ...rest] = records
		if (!head || head.record.length < 2) {
			return refuse(
				'row 1',
				'No columns were found. The first row must name them, parted by commas, semicolons or tabs.',
			)
		}
		const names = head.record.map((name) => name.trim())
		const rows = rest
			.map(({ record, info }) => ({ row: info.lines, cells: record.map((cell) => cell.trim()) }))
			.filter(({ cells }) => cells.some((cell) => cell !== ''))
		return { head: names, rows, delimiter, encoding }
	})
}

function decode(bytes: Buffer): { text: string; encoding: Table['encoding'] } {
	if (bytes.includes(0)) {
		return refuse(
			'file',
			'This is not a text file. Save the sheet as CSV (comma or semicolon separated) and choose that.',
		)
	}
	try {
		return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' }
	} catch {
		return { text: windows1252(bytes), encoding: 'Windows-1252' }
	}
}

/** The mark that parts the head into most names, outside quotes. */
function findDelimiter(text: string): string {
	const head = (text.split(/\r?\n/, 1)[0] ?? '').replace(/"[^"]*"/g, '')
	const count = (mark: string) => head.split(mark).length
	return [',', ';', '\t'].reduce((best, mark) => (count(mark) > count(best) ? mark : best))
}

function split(text: string, delimiter: string): { record: string[]; info: { lines: number } }[] {
	try {
		return recordsSchema.parse(
			parse(text, { delimiter, bom: true, relax_column_count: true, info: true, skip_empty_lines: true }),
		)
	} catch (error) {
		const line = error instanceof Error && 'lines' in error ? ` near row ${error.lines}` : ''
		return refuse(
			'file',
			`The file cannot be read as a table${line}: a quotation mark is out of place. Correct that row and choose the file again.`,
		)
	}
}

// The characters that Windows-1252 has where ISO 8859-1 has none (0x80 to 0x9F); Node's own decoder leaves them out.
const between0x80and0x9f = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'

function windows1252(bytes: Buffer): string {
	return bytes
		.toString('latin1')
		.replace(/[\u0080-\u009f]/g, (char) => between0x80and0x9f[char.charCodeAt(0) - 0x80] ?? char)
}
