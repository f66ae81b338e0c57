import { fileAnswer } from './fileAnswer'

const figure = /^[+-]?\d[\d.,' \u00a0]*%?$/
/** A cell that begins like a formula is written so that the program that opens the file shows it, and works nothing out. */
const inert = (text: string): string => (/^[=+\-@\t\r\n]/.test(text) && !figure.test(text) ? `'${text}` : text)
const quoted = (cell: string | number): string => `"${inert(String(cell)).replaceAll('"', '""')}"`

/** Rows as a CSV file to save (RFC 4180, UTF-8 with its mark). */
export function csvFile(name: string, rows: (string | number)[][]): Response {
	const text = rows.map((row) => row.map(quoted).join(',')).join('\r\n')
	return fileAnswer(Buffer.from(`\ufeff${text}\r\n`), { type: 'text/csv; charset=utf-8', name })
}
