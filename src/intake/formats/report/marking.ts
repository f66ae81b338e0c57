import type { Field } from '../../kinds/field'
import { isPassedOver } from './documents'
import type { Printed } from './lines'
import { type ColumnMark, findSpot, type Marks, type Spot, type ValueMark } from './marks'
import { beginnings, type Marked, no, type Picked, rowsRead, withoutName } from './pointing'
import { labelBefore, spotOf } from './propose'

/** What the total of a whole report is called among its values. */
const wholeTotal = 'Total of all'
const isNumber = (text: string): boolean => /\d/.test(text) && text.replace(/[^\p{L}]/gu, '').length < 2

/** A document begins at a line that has what was picked. */
export function markBegin(marks: Marks, lines: readonly Printed[], { first, from, to }: Picked): Marked {
	const text = lines[first]?.text ?? ''
	if (text.slice(from, to).trim() === '') return no('Drag over words that stand wherever one begins.')
	return { ok: true, marks: { ...marks, begins: spotOf(text, from, to) } }
}

/** Lets the picked words end each document; refused where nothing was picked. */
export function markEnd(marks: Marks, lines: readonly Printed[], { first, from, to }: Picked): Marked {
	const text = lines[first]?.text ?? ''
	if (text.slice(from, to).trim() === '') return no('Drag over words that stand wherever one ends.')
	return { ok: true, marks: { ...marks, ends: spotOf(text, from, to) } }
}

/** Passes over the head of every page, where lines from the first on were picked, else every line that has what was picked. */
export function markPass(marks: Marks, lines: readonly Printed[], { first, last, from, to }: Picked): Marked {
	const [one, end] = [lines[first], lines[last]]
	if (!one || !end) return no('Drag over lines.')
	const above = lines.slice(0, first).filter(({ page, text }) => page === one.page && text !== '')
	if (above.length === 0 && one.page === end.page && (first < last || one.of === 1)) {
		const top = lines.filter(({ page, of }) => page === end.page && of <= end.of).map(({ text }) => text)
		return { ok: true, marks: { ...marks, top } }
	}
	const spots = lines.slice(first, last + 1).flatMap(({ text }) => {
		const piece = first === last ? text.slice(from, to) : text
		if (piece.trim() === '') return []
		return [first === last ? spotOf(text, from, to) : spotOf(text, 0, text.length)]
	})
	if (spots.length === 0) return no('Drag over words by which such lines are known.')
	return { ok: true, marks: { ...marks, pass: [...marks.pass, ...spots] } }
}

const isAllBlank = (texts: readonly string[], place: number): boolean =>
	place < 0 || texts.every((text) => (text[place] ?? ' ') === ' ')

/** Widens a piece over what stands there in all texts: to the left to a blank, to the right to as many blanks as part it from what follows. */
function room(
	texts: readonly string[],
	from: number,
	to: number,
	least: number,
	blanks: number,
): { from: number; to: number | null } {
	const width = Math.max(0, ...texts.map((text) => text.length))
	let [start, end] = [from, to]
	while (start > least && !isAllBlank(texts, start - 1)) start--
	const parted = (place: number) => [...Array(blanks).keys()].every((more) => isAllBlank(texts, place + more))
	while (end < width && !parted(end)) end++
	return { from: start, to: end >= width ? null : end }
}

/** The line that is so many kept lines under another. */
function lineUnder(marks: Marks, lines: readonly Printed[], from: number, down: number): string {
	let left = down
	for (let place = from; place < lines.length; place++) {
		const line = lines[place]
		if (!line || isPassedOver(line, marks)) continue
		if (left === 0) return line.text
		left--
	}
	return ''
}

/**
 * Marks a value that stands once in a document, or a column of its rows where one was picked. By the words before it where there are any,
 * else by its place under the beginning; as wide as what stands there in any document of those in view.
 * @param field of the kind; null for the total of the whole report
 */
export function markValue(
	marks: Marks,
	lines: readonly Printed[],
	picked: Picked,
	field: Field | null,
	fields: readonly Field[],
): Marked {
	const { first, last, from, to } = picked
	const line = lines[first]
	const names = field ? namesFor(field, last - first + 1, fields) : [wholeTotal]
	const [name] = names
	if (!line || name === undefined || to <= from) return no('Drag over the value first.')
	const whole = field === null
	const label = labelFor(marks, lines, first, from)
	// What is of a document and has words before it is no column, though its line may look like a row ("DISC   5.00-").
	const isColumn = field !== null && !(marks.begins && label && field.of === 'row')
	const depth = isColumn ? depthInRow(marks, lines, first) : null
	const figures = isNumber(line.text.slice(from, to))
	if (depth !== null) return markColumn(marks, lines, name, depth, { from, to }, figures)
	const count = last - first + 1
	const add = (mark: ValueMark): Marked => ({
		ok: true,
		marks: { ...withoutName(marks, names), values: [...withoutName(marks, names).values, mark] },
	})
	const base = { names, lines: names.length > 1 ? names.length : count, whole }
	if (label) {
		const at = label.at ?? 0
		const hits = lines.flatMap(({ text }, place) => (findSpot(text, label) >= 0 ? [place] : []))
		const texts = hits.flatMap((place) => lines.slice(place, place + count).map(({ text }) => text))
		const wide = room(texts, from, to, at + label.text.length, figures ? 1 : 2)
		// What stands right behind its label may begin anywhere behind it.
		const begin = count === 1 ? label.text.length : wide.from - at
		return add({ ...base, label, line: 0, from: begin, to: wide.to === null ? null : wide.to - at })
	}
	if (whole)
		return no('The total of the whole report is known by the words before it. Drag over a figure that has some.')
	if (!marks.begins)
		return no('No words stand before it. Say first where one begins (B); then its place counts from there.')
	const starts = beginnings(marks, lines)
	const start = starts.filter((place) => place <= first).at(-1)
	if (start === undefined) return no('It stands above where the first one begins.')
	const down = lines.slice(start, first).filter((one) => !isPassedOver(one, marks)).length
	const texts = starts.flatMap((place) =>
		Array.from({ length: count }, (_, more) => lineUnder(marks, lines, place, down + more)),
	)
	const wide = room(texts, from, to, 0, figures ? 1 : 2)
	return add({ ...base, label: null, line: down, from: wide.from, to: wide.to })
}

/** The words before a value that name it: not what is marked as a value itself, and no code or number unless a colon ends it. */
function labelFor(marks: Marks, lines: readonly Printed[], first: number, from: number): Spot | null {
	const text = lines[first]?.text ?? ''
	const label = labelBefore(text, from)
	if (!label) return null
	if (/\d/.test(label.text) && !label.text.endsWith(':')) return null
	const [start, end] = [label.at ?? 0, (label.at ?? 0) + label.text.length]
	const begin =
		beginnings(marks, lines)
			.filter((place) => place <= first)
			.at(-1) ?? 0
	const down = lines.slice(begin, first).filter((one) => !isPassedOver(one, marks)).length
	const covers = marks.values.some((mark) => {
		if (mark.label === null)
			return mark.line <= down && down < mark.line + mark.lines && mark.from < end && (mark.to ?? end) > start
		const at = findSpot(text, mark.label)
		return at >= 0 && at + mark.from < end && (mark.to === null ? end : at + mark.to) > start
	})
	return covers ? null : label
}

/** On which line of a row a line stands; null where it is of none. */
function depthInRow(marks: Marks, lines: readonly Printed[], place: number): number | null {
	if (!marks.rows) return null
	const read = rowsRead(marks, lines)
	for (let depth = 0; depth < marks.rows.height; depth++) if (read.isSound(place - depth)) return depth
	return null
}

/** Sets a column of the rows; what it takes the place of gives way. */
function markColumn(
	marks: Marks,
	lines: readonly Printed[],
	name: string,
	line: number,
	picked: { from: number; to: number },
	figures: boolean,
): Marked {
	const { rows } = marks
	if (!rows) return no('Say first which rows repeat (R).')
	// On a line of rows that has no column yet, it is as wide as what stands there in any row.
	const under = (down: number) => rowsRead(marks, lines).places.map((place) => lines[place + down]?.text ?? '')
	const alone = rows.columns.every((column) => column.line !== line || column.name === name)
	const wide = alone ? room(under(line), picked.from, picked.to, 0, figures ? 1 : 2) : picked
	const [from, to] = [wide.from, wide.to ?? 5000]
	const kept: ColumnMark[] = []
	for (const column of rows.columns) {
		if (column.name === name) continue
		const end = column.to ?? 5000
		if (column.line !== line || end <= from || column.from >= to) kept.push(column)
		else {
			if (column.from < from) kept.push({ ...column, to: from })
			else if (end > to) kept.push({ ...column, from: to })
		}
	}
	const columns = [...kept, { name, line, from, to: wide.to, wraps: false }].sort(
		(a, b) => a.line - b.line || a.from - b.from,
	)
	return { ok: true, marks: { ...withoutName(marks, [name], true), rows: { ...rows, columns } } }
}

/** The names of a field's value: one for each of its lines where the fields that follow it bear the next numbers, else its own. */
export function namesFor(field: Field, lines: number, fields: readonly Field[]): string[] {
	const numbered = /^(.*\D)(\d)$/.exec(field.key)
	if (!numbered || lines < 2) return [field.label]
	const names: string[] = []
	for (let more = 0; more < lines; more++) {
		const next = fields.find(({ key }) => key === `${numbered[1]}${Number(numbered[2]) + more}`)
		if (next) names.push(next.label)
	}
	return names.length > 1 ? names : [field.label]
}

/** Marks with what a kind needs of each document, and what tells one from another: the first needed field that is a value. */
export function withNeeds(marks: Marks, fields: readonly Field[]): Marks {
	const values = new Set(marks.values.filter(({ whole }) => !whole).flatMap(({ names }) => names))
	const need = fields.filter(({ needed, label }) => needed && values.has(label)).map(({ label }) => label)
	return { ...marks, need, number: need[0] ?? '' }
}
