import fc from 'fast-check'

// How tables are written down by programs that nobody here knows.

export type Style = {
	language: number
	delimiter: ';' | ',' | '\t' | '|'
	encoding: 'utf8' | 'utf16le' | 'latin1' | 'bom' | 'dos'
	mark: '.' | ','
	thousands: '' | ' ' | "'" | 'other'
	days: 'iso' | 'compact' | 'dots' | 'named' | 'slashes'
	ends: '\n' | '\r\n' | '\r'
	carried: boolean
	title: boolean
	total: boolean
	shuffled: number
}
/** Languages of heads that are written; French is 2, Spanish 3. */
const languages = 6

export const styles: fc.Arbitrary<Style> = fc.record({
	language: fc.nat(languages - 1),
	delimiter: fc.constantFrom(';', ',', '\t', '|'),
	encoding: fc.constantFrom('utf8', 'utf16le', 'latin1', 'bom', 'dos'),
	mark: fc.constantFrom('.', ','),
	thousands: fc.constantFrom('', ' ', "'", 'other'),
	days: fc.constantFrom('iso', 'compact', 'dots', 'named', 'slashes'),
	ends: fc.constantFrom('\n', '\r\n', '\r'),
	carried: fc.boolean(),
	title: fc.boolean(),
	total: fc.boolean(),
	shuffled: fc.nat(6),
})

const months = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ')

/** A day as a style writes it. */
export function dayIn(day: string, style: Style['days']): string {
	const [year = '', month = '', date = ''] = day.split('-')
	if (style === 'compact') return `${year}${month}${date}`
	if (style === 'dots') return `${date}.${month}.${year}`
	if (style === 'named') return `${Number(date)} ${months[Number(month) - 1]} ${year}`
	if (style === 'slashes') return `${date}/${month}/${year}`
	return `${day}T08:30:00Z`
}

/** A plain decimal as a style writes it. */
export function figureIn(text: string, { mark, thousands }: Style): string {
	const [whole = '', decimals] = text.split('.')
	const between = thousands === 'other' ? (mark === '.' ? ',' : '.') : thousands
	const grouped = whole.replace(/\B(?=(\d{3})+$)/g, between)
	return decimals === undefined ? grouped : `${grouped}${mark}${decimals}`
}

const dos: Record<string, number> = {
	...{ ü: 0x81, ä: 0x84, Å: 0x8f, ö: 0x94, è: 0x8a, û: 0x96, ñ: 0xa4, É: 0x90, À: 0xb7 },
	å: 0x86,
	ø: 0x9b,
	é: 0x82,
	Ø: 0x9d,
	í: 0xa1,
	ó: 0xa2,
	ú: 0xa3,
	'°': 0xf8,
}
const quoted = (cell: string, delimiter: string): string =>
	/["\r\n]/.test(cell) || cell.includes(delimiter) ? `"${cell.replaceAll('"', '""')}"` : cell

/** The columns in another order, the same for every row. */
export const shuffled = <T>(row: T[], by: number): T[] => row.map((_, place) => row[(place * 3 + by) % row.length] as T)

/** Rows as the bytes of a file. */
export function bytesOf(rows: string[][], style: Style): Buffer {
	const text = rows
		.map((row) => row.map((cell) => quoted(cell, style.delimiter)).join(style.delimiter))
		.join(style.ends)
	if (style.encoding === 'latin1') return Buffer.from(text, 'latin1')
	// French and Spanish heads have such letters within their words, by which they are known.
	if (style.encoding === 'dos' && (style.language === 2 || style.language === 3))
		return Buffer.from(
			text.replace(/[\u0080-\uffff]/g, (letter) => String.fromCharCode(dos[letter] ?? 0x3f)),
			'latin1',
		)
	if (style.encoding === 'utf16le') return Buffer.from(`\ufeff${text}`, 'utf16le')
	return Buffer.from(style.encoding === 'bom' ? `\ufeff${text}` : text)
}
