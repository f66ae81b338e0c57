import { documentReader, type ReportRow } from '@/intake/formats/report/documents'
import { type Printed, printedLines } from '@/intake/formats/report/lines'
import { markBegin, markEnd, markPass, markValue, withNeeds } from '@/intake/formats/report/marking'
import type { Marks } from '@/intake/formats/report/marks'
import type { Marked, Picked } from '@/intake/formats/report/pointing'
import { columnsNamed, markRows } from '@/intake/formats/report/rowMarking'
import { fieldsFor } from '@/intake/kinds'

const fields = fieldsFor('orders', [])
const own = (made: Marked): Marks => {
	if (!made.ok) throw new Error(made.message)
	return made.marks
}
/** The lines of a printed text as the reading has them. */
export const linesOf = (text: string, control = false, pageLines = 0): Printed[] => {
	const lines: Printed[] = []
	const printed = printedLines({ control, pageLines }, (line) => lines.push(line))
	printed.write(text)
	printed.end()
	return lines
}

/** Points at things on a page as a person would: by the words that stand there. */
export function marker(lines: Printed[], first: Marks) {
	let marks = first
	const at = (words: string, line = words, down = 0): Picked => {
		const place = lines.findIndex(({ text }) => text.includes(line) && text.includes(words))
		const from = lines[place]?.text.indexOf(words) ?? -1
		if (from < 0) throw new Error(`“${words}” stands nowhere.`)
		return { first: place, last: place + down, from, to: from + words.length }
	}
	const pen = {
		at,
		now: () => withNeeds(marks, fields),
		set: (next: Marks) => {
			marks = next
		},
		pass: (from: number, to: number) =>
			pen.set(own(markPass(marks, lines, { first: from, last: to, from: 0, to: 200 }))),
		begins: (words: string, line?: string) => pen.set(own(markBegin(marks, lines, at(words, line)))),
		ends: (words: string) => pen.set(own(markEnd(marks, lines, at(words)))),
		value: (label: string, words: string, line?: string, down = 0) => {
			const field = fields.find((one) => one.label === label) ?? null
			pen.set(own(markValue(withNeeds(marks, fields), lines, at(words, line, down), field, fields)))
		},
		rows: (line: string, down = 0) =>
			pen.set(own(markRows(marks, lines, at(line, line, down), fields, ['description'], 'quantity'))),
		name: (from: string, to: string) => pen.set(columnsNamed(marks, from, to)),
	}
	return pen
}
/** All that marks read of a report. */
export const readAll = (lines: Printed[], marks: Marks) => {
	const rows: ReportRow[] = []
	const totals: string[] = []
	const documents = documentReader(marks, { row: (row) => rows.push(row), total: (figure) => totals.push(figure) })
	for (const line of lines) documents.line(line)
	documents.end()
	return { rows, totals, troubles: rows.flatMap(({ trouble }) => trouble || []) }
}
