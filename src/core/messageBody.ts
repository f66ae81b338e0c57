/** A part of a message: text, or a table whose first row is its head. */
type BodyPart = { text: string } | { rows: string[][] }

/** A table as it stands in a message: a line a row, a tab between cells. Empty without rows; a column empty in all rows is left out. */
export function tableText(head: string[], rows: readonly string[][]): string {
	if (rows.length === 0) return ''
	const used = head.flatMap((_, column) => (rows.some((row) => row[column]) ? [column] : []))
	const line = (row: readonly string[]) => used.map((column) => (row[column] ?? '').replace(/\s+/g, ' ')).join('\t')
	return [head, ...rows].map(line).join('\n')
}

/** The parts of a message. A table is a run of two lines or more with the same number of tabs in them. */
export function bodyParts(body: string): BodyPart[] {
	const parts: BodyPart[] = []
	for (const line of body.split(/\r?\n/)) {
		const cells = line.split('\t')
		const last = parts.at(-1)
		if (cells.length > 1) {
			if (last && 'rows' in last && last.rows[0]?.length === cells.length) last.rows.push(cells)
			else parts.push({ rows: [cells] })
		} else if (last && 'text' in last) last.text += `\n${line}`
		else parts.push({ text: line })
	}
	return parts.map((part) =>
		'rows' in part && part.rows.length === 1 ? { text: part.rows[0]?.join(' ') ?? '' } : part,
	)
}

/** Text as a paragraph: blank lines around it are the space beside a table. */
export const paragraph = (text: string): string => text.replace(/^\n+|\n+$/g, '')

/** Whether each column of a table holds figures alone, which stand right. */
export const figureColumns = ([head = [], ...rows]: string[][]): boolean[] =>
	head.map((_, column) => rows.every((row) => /^[-−\d.,’'\s]*$/.test(row[column] ?? '')))

/** The message for a mail program that shows text: columns filled up with spaces. */
export function plainBody(body: string): string {
	return bodyParts(body)
		.map((part) => {
			if ('text' in part) return part.text
			const right = figureColumns(part.rows)
			const widths = right.map((_, column) => Math.max(...part.rows.map((row) => [...(row[column] ?? '')].length)))
			const fill = (cell: string, column: number) =>
				right[column] ? cell.padStart(widths[column] ?? 0) : cell.padEnd(widths[column] ?? 0)
			return part.rows.map((row) => row.map(fill).join('   ').trimEnd()).join('\n')
		})
		.join('\n')
}

const escaped = (text: string): string =>
	text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

/** The message with its tables drawn as such (HTML); null when it has none and text says it all. */
export function htmlBody(body: string): string | null {
	const parts = bodyParts(body)
	if (parts.every((part) => 'text' in part)) return null
	const rule = 'border-bottom:1px solid #cccccc;padding:4px 14px 4px 0'
	const drawn = parts.map((part) => {
		if ('text' in part) return `<p style="white-space:pre-wrap;margin:0">${escaped(paragraph(part.text))}</p>`
		const right = figureColumns(part.rows)
		const row = (tag: string, cells: string[]) =>
			`<tr>${cells.map((cell, column) => `<${tag} style="${rule};text-align:${right[column] ? 'right' : 'left'}">${escaped(cell)}</${tag}>`).join('')}</tr>`
		const [head = [], ...rows] = part.rows
		return `<table style="border-collapse:collapse;font:inherit;margin:14px 0">${row('th', head)}${rows.map((cells) => row('td', cells)).join('')}</table>`
	})
	return `<!DOCTYPE html><html><body style="font-family:sans-serif;font-size:14px">${drawn.join('')}</body></html>`
}
