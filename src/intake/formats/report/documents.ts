import type { Printed } from './lines'
import { findSpot, type Marks, type ValueMark } from './marks'
import { figure, type LinesOut, looksLikeRow, type OwnRow, type Place, placeOf, rowReader, where } from './rows'
import { around, cutOut, squeezed, without } from './spans'

/** A row of a report, the document's values among its cells, by name. `trouble` says why it cannot be taken as it stands. */
export type ReportRow = { line: number; page: number; cells: Record<string, string>; trouble: string }
type DocumentsOut = LinesOut & {
	row: (row: ReportRow) => void
	/** A document, with its rows and its first troubles. */
	document?: (document: { place: Place; values: Record<string, string>; rows: number; trouble: string }) => void
	/** Text that no mark takes, and that is not passed over. */
	unused?: (place: Place, text: string) => void
	/** The report's own total. */
	total: (figure: string, place: Place) => void
}

/** More lines than a document has: its beginning is marked wrongly where it has more. */
const longestDocument = 50_000

const rule = /^[\s\-=_*.·─═]+$/

/**
 * Whether a line is passed over: at the head of its page and like the one that was marked there, known by a spot, or of nothing but rules.
 * A head that is otherwise on some page hides nothing.
 */
export const isPassedOver = (line: Printed, { top, pass }: Pick<Marks, 'top' | 'pass'>): boolean =>
	isLike(line.text, top[line.of - 1]) || pass.some((spot) => findSpot(line.text, spot) >= 0) || rule.test(line.text)

/** Whether most of what stands in either of two lines stands in both at the same columns, any digit for any. */
function isLike(text: string, sample: string | undefined): boolean {
	if (sample === undefined) return false
	let [filled, same] = [0, 0]
	for (let place = 0; place < Math.max(text.length, sample.length); place++) {
		const [one, other] = [text[place] ?? ' ', sample[place] ?? ' ']
		if (one === ' ' && other === ' ') continue
		filled++
		if (one === other || (figure.test(one) && figure.test(other))) same++
	}
	return filled === 0 || same / filled >= 0.6
}

type Found = { values: Record<string, string>; troubles: string[] }
/** Lines from one beginning to the next. */
type Block = { lines: Printed[] }
type Document = { first: Printed; values: Record<string, string>; rows: OwnRow[]; troubles: string[] }

/**
 * Reads the lines of a report by its marks: a document at a time, each with its rows. What cannot be read as it is marked is told with the
 * row, never left out: a word that a mark cuts, a line among the rows that is none, a value that stands twice and differs.
 * @throws Error where a document has no line, which is a fault of the program
 */
export function documentReader(marks: Marks, out: DocumentsOut) {
	const { begins, ends, rows: rowMarks, values, number, need } = marks
	const whole = values.filter((one) => one.whole)
	const own = values.filter((one) => !one.whole)
	let block: Block | null = null
	let waiting: Document | null = null
	let between = false
	const readRows = rowReader(marks, out)

	const closeDocument = () => {
		if (waiting) give(waiting)
		waiting = null
	}
	const closeBlock = () => {
		if (!block) return
		const read = readBlock(block.lines)
		block = null
		const [key, before] = [read.values[number] ?? '', waiting?.values[number] ?? '']
		// A beginning that is printed again on the next page goes on with the document.
		if (waiting && number !== '' && key !== '' && key === before && begins) {
			out.taken?.(placeOf(read.first), 'goes on')
			for (const [name, value] of Object.entries(read.values))
				if ((waiting.values[name] ?? '') === '') waiting.values[name] = value
				else if (value !== '' && value !== waiting.values[name])
					waiting.troubles.push(
						`It goes on at ${where(read.first)} with another ${name}: “${value}”, not “${waiting.values[name]}”.`,
					)
			waiting.rows.push(...read.rows)
			waiting.troubles.push(...read.troubles)
			return
		}
		closeDocument()
		waiting = read
	}

	function give({ first, values: found, rows, troubles }: Document): void {
		const missing = need.filter((name) => (found[name] ?? '') === '')
		if (missing.length > 0)
			troubles.push(`Where it begins (${where(first)}), there is no ${missing.join(', no ')} as it was marked.`)
		const [trouble = ''] = troubles
		const rest = troubles.length > 1 ? ` (and ${troubles.length - 1} more)` : ''
		const told = trouble === '' ? '' : `${trouble}${rest}`
		const list = rows.length > 0 ? rows : [{ at: first, cells: {}, troubles: [] }]
		for (const [place, row] of list.entries()) {
			const [own = ''] = row.troubles
			// Without what tells the document, none of its rows can be said to be of it.
			const ofAll = place === 0 || missing.includes(number) ? told : ''
			out.row({
				line: row.at.line,
				page: row.at.page,
				cells: { ...found, ...row.cells },
				trouble: [ofAll, own].filter(Boolean).join(' '),
			})
		}
		out.document?.({
			place: placeOf(first),
			values: found,
			rows: rows.length,
			trouble: told || (rows.find((row) => row.troubles.length > 0)?.troubles[0] ?? ''),
		})
	}

	/** Reads the lines from one beginning to the next. */
	function readBlock(lines: Printed[]): Document {
		const [first] = lines
		if (!first) throw new Error('A document has no line.')
		const troubles: string[] = []
		const used = new Map<number, [from: number, to: number][]>()
		const use = (index: number, from: number, to: number) => used.set(index, [...(used.get(index) ?? []), [from, to]])
		const labelled = new Set<number>()
		const found: Record<string, string> = {}
		if (begins) {
			const at = findSpot(first.text, begins)
			if (at >= 0) use(0, at, at + begins.text.length)
		}
		for (const mark of own) {
			const hits = anchors(mark, lines)
			for (const { index, at } of hits)
				if (mark.label) {
					labelled.add(index)
					use(index, at, at + mark.label.text.length)
				}
			const reads = hits.map(({ index, at }) => readValue(mark, lines, index, at, use))
			const [one] = reads
			if (!one) continue
			Object.assign(found, one.values)
			troubles.push(...one.troubles)
			const other = reads.find(
				({ values: again }) => !same(again, one.values) && Object.values(again).some((text) => text !== ''),
			)
			if (other)
				troubles.push(
					`${mark.names[0]} stands twice and differs: “${Object.values(one.values).join(' ')}” and “${Object.values(other.values).join(' ')}”. Is a beginning missed?`,
				)
		}
		for (const mark of whole)
			for (const { index } of anchors(mark, lines)) {
				labelled.add(index)
				use(index, 0, lines[index]?.text.length ?? 0)
			}
		const end = lines.length - 1
		const ended = ends ? findSpot(lines[end]?.text ?? '', ends) : -1
		if (ends && ended >= 0) use(end, ended, ended + ends.text.length)
		const { rows, lost } = readRows(lines, labelled, use)
		troubles.push(...lost)
		const rowLines = new Set(rows.map(({ at }) => at))
		for (const [index, line] of lines.entries()) {
			if (line.text === '') continue
			const spans = used.get(index) ?? []
			if (index === 0 && begins) out.taken?.(placeOf(line), 'begins')
			else if (spans.length > 0 && !rowLines.has(line)) out.taken?.(placeOf(line), 'value')
			const left = without(line.text, spans)
			if (left !== '') out.unused?.(placeOf(line), left)
		}
		return { first, values: found, rows, troubles }
	}

	/** The lines and columns that a value's place is counted from. */
	function anchors(mark: ValueMark, lines: readonly Printed[]): { index: number; at: number }[] {
		const { label } = mark
		if (!label) return [{ index: 0, at: 0 }]
		return lines.flatMap(({ text }, index) => {
			const at = text === '' ? -1 : findSpot(text, label)
			return at < 0 ? [] : [{ index, at }]
		})
	}

	function readValue(
		mark: ValueMark,
		lines: readonly Printed[],
		index: number,
		at: number,
		use: (index: number, from: number, to: number) => void,
	): Found {
		const texts: string[] = []
		const troubles: string[] = []
		const [from, to] = [at + mark.from, mark.to === null ? null : at + mark.to]
		for (let place = 0; place < mark.lines; place++) {
			const line = lines[index + mark.line + place]
			const { value, cut } = cutOut(line?.text ?? '', from, to)
			if (cut && line)
				troubles.push(`At ${where(line)}, the mark of ${mark.names[0]} cuts “${around(line.text, from, to)}”.`)
			if (line) {
				use(index + mark.line + place, from, to ?? line.text.length)
				out.span?.(placeOf(line), from, to ?? line.text.length, 'value', mark.names[0] ?? '')
			}
			texts.push(value)
		}
		const values: Record<string, string> = {}
		if (mark.names.length === 1) values[mark.names[0] ?? ''] = texts.filter(Boolean).join(' ')
		else for (const [place, name] of mark.names.entries()) values[name] = texts[place] ?? ''
		return { values, troubles }
	}

	return {
		line: (line: Printed) => {
			if (isPassedOver(line, marks)) {
				if (line.text !== '') out.taken?.(placeOf(line), 'passed over')
				return
			}
			for (const mark of whole)
				if (mark.label) {
					const at = findSpot(line.text, mark.label)
					if (at < 0) continue
					const { value } = cutOut(line.text, at + mark.from, mark.to === null ? null : at + mark.to)
					if (value === '') continue
					out.total(value, placeOf(line))
					const to = mark.to === null ? line.text.length : at + mark.to
					out.span?.(placeOf(line), at + mark.from, to, 'total', mark.names[0] ?? '')
				}
			if (begins ? findSpot(line.text, begins) >= 0 : block === null) {
				closeBlock()
				block = { lines: [] }
				between = false
			}
			// Rows without documents are given some pages at a time.
			if (begins === null && block && isMuch(block.lines, line)) {
				closeBlock()
				closeDocument()
				block = { lines: [] }
			}
			if (block && !between) {
				if (block.lines.length >= longestDocument) {
					closeBlock()
					waiting?.troubles.push(`It has over ${longestDocument} lines. Is a beginning missed?`)
					closeDocument()
					between = true
					return
				}
				block.lines.push(line)
				if (ends && findSpot(line.text, ends) >= 0) between = true
			} else if (rowMarks && looksLikeRow(line.text, rowMarks)) {
				// Its document is not known: a beginning that is printed otherwise would take all its rows along.
				closeBlock()
				closeDocument()
				out.taken?.(placeOf(line), 'trouble')
				const trouble = `At ${where(line)} stands what looks like a row, outside any document: “${squeezed(line.text)}”. Is a beginning missed? Pass over such lines if they are none.`
				out.row({ line: line.line, page: line.page, cells: {}, trouble })
			} else if (line.text !== '') out.unused?.(placeOf(line), squeezed(line.text))
		},
		end: () => {
			closeBlock()
			closeDocument()
		},
	}
}

const isMuch = (lines: readonly Printed[], next: Printed): boolean =>
	lines.length >= longestDocument || (lines.length >= 5000 && lines.at(-1)?.page !== next.page)

const same = (one: Record<string, string>, other: Record<string, string>): boolean =>
	Object.entries(one).every(([name, value]) => other[name] === value || other[name] === '' || value === '')
