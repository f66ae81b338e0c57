import { matchColumns } from '../../columns'
import { fieldsFor, fileKindRules, fileKinds, knownNames } from '../../kinds'
import { type Field, plainName } from '../../kinds/field'
import { isPassedOver } from './documents'
import type { Printed } from './lines'
import { type ColumnMark, findSpot, type Marks, type Spot } from './marks'
import { beginnings, type Marked, no, type Picked, rowsRead, withoutName } from './pointing'
import { columnsOf, isFigures, segments, widened } from './propose'
import { cutOut } from './spans'

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

/** Columns whose text may run on. */
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
		for (const kind of fileKinds.filter((one) => fileKindRules[one].told)) {
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
