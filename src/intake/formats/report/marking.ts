import { matchColumns } from '../../columns'
import { fieldsFor, knownNames } from '../../kinds'
import { type Field, plainName } from '../../kinds/field'
import { cutOut, documentReader, isPassedOver } from './documents'
import type { Printed } from './lines'
import { type ColumnMark, findSpot, type Marks, type Spot, type ValueMark } from './marks'
import { columnsOf, isFigures, labelBefore, segments, spotOf, widened } from './propose'

/** What a person dragged over: lines by their places among all that are in view, columns from the first to after the last. */
export type Picked = { first: number; last: number; from: number; to: number }
export type Marked = { ok: true; marks: Marks } | { ok: false; message: string }

const no = (message: string): Marked => ({ ok: false, message })
const isNumber = (text: string): boolean => /\d/.test(text) && text.replace(/[^\p{L}]/gu, '').length < 2

/** A document begins at a line that has what was picked. */
export function markBegin(marks: Marks, lines: readonly Printed[], { first, from, to }: Picked): Marked {
	const text = lines[first]?.text ?? ''
	if (text.slice(from, to).trim() === '') return no('Drag over words that stand wherever one begins.')
	return { ok: true, marks: { ...marks, begins: spotOf(text, from, to) } }
}

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

/** The places among the lines of those that begin a document; the first of all where none is marked. */
const beginnings = (marks: Marks, lines: readonly Printed[]): number[] => {
	const { begins } = marks
	if (!begins) return [0]
	return lines.flatMap((line, place) => (!isPassedOver(line, marks) && findSpot(line.text, begins) >= 0 ? [place] : []))
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
 * @param names as many as it has lines, or one
 */
export function markValue(
	marks: Marks,
	lines: readonly Printed[],
	picked: Picked,
	names: string[],
	whole = false,
): Marked {
	const { first, last, from, to } = picked
	const line = lines[first]
	const [name] = names
	if (!line || name === undefined || to <= from) return no('Drag over the value first.')
	const depth = whole ? null : depthInRow(marks, lines, first)
	const figures = isNumber(line.text.slice(from, to))
	if (depth !== null) return markColumn(marks, lines, name, depth, { from, to }, figures)
	const label = labelFor(marks, lines, first, from)
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

/** Marks without some names. @param valuesOnly leave the columns of rows */
export function withoutName(marks: Marks, names: readonly string[], valuesOnly = false): Marks {
	const values = marks.values.filter((one) => !one.names.some((name) => names.includes(name)))
	if (!marks.rows || valuesOnly) return { ...marks, values }
	const columns = marks.rows.columns.filter(({ name }) => !names.includes(name))
	return { ...marks, values, rows: columns.length === 0 ? null : { ...marks.rows, columns } }
}

/**
 * Marks the rows that repeat, by samples of them: their columns parted where nothing stands, named by the line above them where that names
 * columns. Then they are looked at in all documents in view, and their edges set where no row is cut.
 */
export function markRows(
	marks: Marks,
	lines: readonly Printed[],
	{ first, last }: Picked,
	fields: readonly Field[],
	wrapKeys: readonly string[],
	keyKey: string,
): Marked {
	const picked = lines.slice(first, last + 1).filter((line) => line.text !== '' && !isPassedOver(line, marks))
	if (picked.length === 0) return no('Drag over one or more of the rows.')
	const samples = picked.map(({ text }) => text)
	const above = headAbove(marks, lines, first)
	const head = above?.text ?? ''
	const start =
		beginnings(marks, lines)
			.filter((place) => place <= first)
			.at(-1) ?? 0
	const after = lines.slice(start, first).filter((one) => !isPassedOver(one, marks)).length
	const madeOf = (texts: readonly string[]): Marks => {
		const rows = rowsBy(texts, head, fields, wrapKeys, keyKey)
		const names = rows.columns.map(({ name }) => name)
		return {
			...withoutName({ ...marks, rows: null }, names, true),
			rows: {
				under: above ? underOf(head) : null,
				after: marks.begins ? Math.max(1, after) : after,
				height: 1,
				...rows,
			},
		}
	}
	const columnsIn = ({ rows }: Marks) => rows?.columns ?? []
	const namesIn = (made: Marks) =>
		columnsIn(made)
			.map(({ name }) => name)
			.join()
	let best = madeOf(samples)
	// Lines like the samples, strictly and then less so, set the edges where that cuts fewer of them.
	const { texts } = rowsRead(best, lines)
	const rowLike = [0, 1].map((spared) => texts.filter((text) => isAlike(text, samples, columnsIn(best), spared)))
	const cuts = (made: Marks) =>
		rowLike.flat().filter((text) => columnsIn(made).some((one) => cutOut(text, one.from, one.to).cut)).length
	for (const all of rowLike) {
		if (all.length <= samples.length) continue
		const next = madeOf(all)
		if (namesIn(next) === namesIn(best) && cuts(next) <= cuts(best)) best = next
	}
	return { ok: true, marks: best }
}

/** The words by which the line above rows is known: all of it, as wide as it is. */
const underOf = (head: string): Spot => {
	const [word] = segments(head)
	return { text: head.trim(), at: word?.from ?? 0, like: 'text' }
}

/** The nearest line above that could name columns: words, no figures, and no value of a document. */
function headAbove(marks: Marks, lines: readonly Printed[], first: number): Printed | null {
	for (let place = first - 1; place >= 0 && place > first - 4; place--) {
		const line = lines[place]
		if (!line || line.page !== lines[first]?.page) return null
		if (line.text === '' || isPassedOver(line, marks)) continue
		if (marks.begins && findSpot(line.text, marks.begins) >= 0) return null
		return !/\d/.test(line.text) && segments(line.text).length >= 2 ? line : null
	}
	return null
}

function rowsBy(
	samples: readonly string[],
	head: string,
	fields: readonly Field[],
	wrapKeys: readonly string[],
	keyKey: string,
) {
	const corridors = columnsOf(samples, head)
	const edges = widened(corridors, samples)
	const heads = corridors.map(({ name }) => name)
	const { columns } = matchColumns(heads, heads.length, fields)
	const byPlace = new Map(Object.entries(columns).map(([key, place]) => [place, key]))
	const used = new Set<string>()
	const unique = (name: string): string => {
		let own = name
		for (let again = 2; used.has(own); again++) own = `${name} ${again}`
		used.add(own)
		return own
	}
	const named = edges.map((edge, place) => {
		const key = byPlace.get(place)
		const field = fields.find((one) => one.key === key)
		const name = unique(field?.label ?? (heads[place] || `Column ${place + 1}`))
		return { name, line: 0, ...edge, wraps: key !== undefined && wrapKeys.includes(key) }
	})
	// What tells a row: the column that the kind says, else the first that has a figure in all of them.
	const label = fields.find((one) => one.key === keyKey)?.label
	const told =
		named.find(({ name }) => name === label) ??
		named.find(
			({ from, to }, place) =>
				place > 0 &&
				isFigures({ from, to: to ?? 5000 }, samples) &&
				samples.every((text) => text.slice(from, to ?? undefined).trim() !== ''),
		)
	return { columns: named, key: told ? [told.name] : [] }
}

/** Whether most columns have something in a line, and figures where samples have figures, but for some that are `spared`. */
function isAlike(text: string, samples: readonly string[], columns: readonly ColumnMark[], spared: number): boolean {
	const cell = (line: string, { from, to }: ColumnMark) => line.slice(from, to ?? line.length).trim()
	const isFigure = (value: string) => /^[\d.,\-+()%]*$/.test(value)
	const figures = columns.filter((column) => samples.every((line) => isFigure(cell(line, column))))
	const filled = columns.filter((column) => cell(text, column) !== '').length
	return (
		(spared > 0 ? filled + spared >= columns.length : filled * 2 > columns.length) &&
		figures.filter((column) => !isFigure(cell(text, column))).length <= spared
	)
}

/** What is read as rows by marks: where each begins, the texts of these lines, and which are without trouble. */
function rowsRead(marks: Marks, lines: readonly Printed[]) {
	const begun = new Map<string, boolean>()
	const documents = documentReader(marks, {
		row: () => {},
		total: () => {},
		taken: ({ page, of }, as) => {
			if (as === 'row' || as === 'trouble') begun.set(`${page}:${of}`, as === 'trouble')
		},
	})
	for (const line of lines) documents.line(line)
	documents.end()
	const places = lines.flatMap(({ page, of }, place) => (begun.has(`${page}:${of}`) ? [place] : []))
	return {
		places,
		texts: places.map((place) => lines[place]?.text ?? ''),
		isSound: (place: number) => begun.get(`${lines[place]?.page}:${lines[place]?.of}`) === false,
	}
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

/** Marks with a column of the rows by another name; what bore that name before gives way. */
export function columnsNamed(marks: Marks, name: string, next: string): Marks {
	const { rows } = marks
	if (!rows || name === next) return marks
	const other = withoutName(marks, [next], true)
	const swapped = (one: string) => (one === name ? next : one === next ? name : one)
	return {
		...other,
		rows: {
			...rows,
			key: rows.key.map(swapped),
			columns: rows.columns.map((column) => ({ ...column, name: swapped(column.name) })),
		},
	}
}

/** Kinds whose rows can stand in a plain table, and the columns of them whose text may run on. */
const inTables = ['orders', 'customers', 'items', 'tax codes', 'payments', 'open items'] as const
export const wrapKeys = ['description', 'note', 'name', 'reference']

/**
 * Marks for a report that is but a table under a line of names: they are made by themselves where these name all that a kind needs, and stay
 * undone where they do not, since then a document stands round the rows, or the names are strange.
 */
export function tableMarks(marks: Marks, lines: readonly Printed[]): Marks | null {
	const known = knownNames()
	for (const [place, { text }] of lines.slice(0, 200).entries()) {
		const words = segments(text).flatMap((one) => one.text.split(/\s{2,}/))
		if (words.filter((word) => known.has(plainName(word))).length < 2 || /\d/.test(text)) continue
		const under = lines.slice(place + 1, place + 40).filter((line) => line.text !== '' && !isPassedOver(line, marks))
		const [first] = under
		if (!first || under.length < 2) return null
		const from = lines.indexOf(first)
		for (const kind of inTables) {
			const fields = fieldsFor(kind, [])
			const keyKey = kind === 'orders' ? 'quantity' : (fields.find(({ needed }) => needed)?.key ?? '')
			const made = markRows(
				marks,
				lines,
				{ first: from, last: from + Math.min(under.length, 20) - 1, from: 0, to: 0 },
				fields,
				wrapKeys,
				keyKey,
			)
			if (!made.ok || !made.marks.rows?.under) continue
			const names = new Set(made.marks.rows.columns.map(({ name }) => name))
			if (fields.every(({ needed, label }) => !needed || names.has(label))) return made.marks
		}
		return null
	}
	return null
}
