import type { Source } from '@/archive/source'
import { refuse } from '@/core/refusal'
import { decoded, encodingAsKept, findEncoding } from '../delimited/encoding'
import type { Format } from '../format'
import { documentReader, type ReportRow } from './documents'
import { NoReport, type Printed, printedLines } from './lines'
import { isMarked, type Marks, marksSchema, namesOf } from './marks'
import { hasControl, linesOfPage, looksPrinted } from './propose'
import { tableMarks } from './rowMarking'

const sampleSize = 200_000

/** The column of lines that nothing is marked in yet. */
const unmarkedColumn = 'Line'

const withLetters = (source: Source, marks: Marks): Marks => ({
	...marks,
	encoding: encodingAsKept(source, marks.encoding),
})

/** Text as a program prints it, page by page: what is what on it, a person marks. */
export const report: Format<Marks> = {
	name: 'report',
	words: 'a text report',
	lines: true,
	recognise: (source) => {
		const start = source.read(0, sampleSize)
		// A page's worth of noughts is UTF-16 or no text at all.
		return !start.includes(0) && looksPrinted(start.toString('latin1'))
	},
	settings: marksSchema,
	propose: async (source) => {
		const encoding = findEncoding(source)
		const lines = startOf(source, encoding).split(/\r?\n/)
		const control = hasControl(lines)
		const fed = control || lines.some((line) => line.includes('\f'))
		const marks = marksSchema.parse({ encoding, control, pageLines: fed ? 0 : linesOfPage(lines) })
		const printed: Printed[] = []
		readPrinted(source, marks, (line) => printed.push(line), sampleSize)
		return tableMarks(marks, printed) ?? marks
	},
	choices: async () => [],
	read: async (source, marks, out) => {
		if (!isMarked(marks)) {
			readPrinted(source, marks, ({ line, text }) => {
				if (text !== '') out.row({ row: line, cells: [text] })
			})
			return out.columns([{ name: unmarkedColumn, of: 'row' }])
		}
		const put = asCells(marks)
		const documents = documentReader(marks, {
			row: (row) => out.row(put.row(row)),
			total: (figure, { line }) => put.total(figure, line),
		})
		readPrinted(source, marks, documents.line)
		documents.end()
		const total = put.atEnd()
		if (total) out.row(total)
		out.columns(namesOf(marks).map((name) => ({ name, of: 'row' })))
	},
	unmarked: (marks) => !isMarked(marks),
	fitted: async (source, marks) => withLetters(source, marks),
	knows: async (source, kept) => {
		if (!report.recognise(source)) return null
		const known = kept.map(({ settings }) => {
			const marks = marksSchema.safeParse(settings)
			if (!marks.success || !saysWhere(marks.data)) return null
			const own = withLetters(source, marks.data)
			return { settings: own, fit: fitOf(source, own) }
		})
		const best = Math.max(0, ...known.map((one) => one?.fit ?? 0))
		const place = known.findIndex((one) => one?.fit === best)
		const found = known[place]
		return found && best > 0.5 ? { place, settings: found.settings } : null
	},
}

/** Whether marks know their report by what stands in it; others would take any. */
const saysWhere = (marks: Marks): boolean => isMarked(marks) && (marks.begins !== null || marks.rows?.under != null)

/** Rows as cells by the names' places; each has a line of its own, also where a file has several pages in one. */
function asCells(marks: Marks) {
	const places = new Map(namesOf(marks).map((name, place) => [name, place]))
	let last = 0
	let total: { figure: string; line: number } | null = null
	const next = (line: number) => {
		last = Math.max(last + 1, line)
		return last
	}
	return {
		row: ({ line, cells, trouble }: ReportRow) => {
			const list = new Array<string>(places.size).fill('')
			for (const [name, value] of Object.entries(cells)) list[places.get(name) ?? 0] = value
			return { row: next(line), cells: list, ...(trouble === '' ? {} : { trouble }) }
		},
		total: (figure: string, line: number) => {
			total = { figure, line }
		},
		atEnd: () => {
			if (!total) return null
			const list = new Array<string>(places.size).fill('')
			list[0] = 'Total'
			list[places.get('Line total') ?? places.size - 1] = total.figure
			return { row: next(total.line), cells: list }
		},
	}
}

/** Goes through a report's lines as they stand on paper. Refused: what is no report. */
export function readPrinted(source: Source, marks: Marks, put: (line: Printed) => void, most = Infinity): void {
	const returns = !startOf(source, marks.encoding).includes('\n')
	const lines = printedLines(marks, put)
	let read = 0
	try {
		for (const text of decoded(source, marks.encoding, 'printed')) {
			lines.write(returns ? text.replace(/\r/g, '\n') : text)
			read += text.length
			if (read >= most) break
		}
		lines.end()
	} catch (error) {
		if (error instanceof NoReport) refuse('file', `This is no printed report. ${error.message} Choose another format.`)
		throw error
	}
}

function startOf(source: Source, encoding: Marks['encoding']): string {
	let text = ''
	for (const piece of decoded(source, encoding, 'printed')) {
		text += piece
		if (text.length >= sampleSize) break
	}
	return text.slice(0, sampleSize)
}

/** How much of a report's start is read by marks without trouble, from 0 to 1. */
function fitOf(source: Source, marks: Marks): number {
	let [rows, bad] = [0, 0]
	const documents = documentReader(marks, {
		row: ({ trouble }) => {
			rows++
			if (trouble !== '') bad++
		},
		total: () => {},
	})
	try {
		readPrinted(source, marks, documents.line, sampleSize)
		documents.end()
	} catch {
		return 0
	}
	return rows === 0 ? 0 : (rows - bad) / rows
}

/** The start of a report as text, up to so many characters and the end of a line, for being marked; whether that is all of it. */
export function printedSample(
	source: Source,
	encoding: Marks['encoding'],
	most: number,
): { text: string; whole: boolean } {
	let text = ''
	for (const piece of decoded(source, encoding, 'printed')) {
		text += piece
		if (text.length > most) break
	}
	if (!text.includes('\n')) text = text.replace(/\r/g, '\n')
	if (text.length <= most) return { text, whole: true }
	return { text: text.slice(0, text.lastIndexOf('\n', most) + 1), whole: false }
}
