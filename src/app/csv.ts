// A cell that begins with one of these could be taken for a formula by the program that opens the file.
const harmless = (text: string): string => (/^[=+@\t]/.test(text) ? `'${text}` : text)
const quoted = (cell: string | number): string => `"${harmless(String(cell)).replaceAll('"', '""')}"`

/** Rows as a CSV file to save (RFC 4180, UTF-8 with its mark). */
export function csvFile(name: string, rows: (string | number)[][]): Response {
	const text = rows.map((row) => row.map(quoted).join(',')).join('\r\n')
	return new Response(`\ufeff${text}\r\n`, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
		},
	})
}
