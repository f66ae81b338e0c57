import { no, type Outcome } from '@/core/outcome'
import type { OwnField, OwnType } from '@/core/ownFields'
import { readDay } from '@/core/readDay'
import type { ColumnSays } from '@/intake/evidence'
import { ownColumn } from '@/intake/kinds'
import { type Reading, readingSchema } from '@/intake/reading'
import { type DecimalMark, readFigure } from '@/intake/values/figure'
import { kindOf } from '@/kinds'
import { ownKeysOf } from '@/layout/fields'
import { looksOf } from '@/layout/looks'
import type { LinesPiece } from '@/layout/pieces/linesSchema'
import type { Layout, Piece } from '@/layout/schema'
import { fieldsOf } from '@/layout/values'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { readFile } from '@/store/files'
import { addLayout, addVersion, allChoices, allLayouts, choose, dropDraft, freeName, layoutRow } from '@/store/layouts'
import { addOwnField, allOwnFields } from '@/store/ownFields'
import { type PaperKindRow, readPaperKind } from '@/store/paperKinds'
import { changeReading } from '../bringIn/receive'

/** What a column of a sheet becomes: a field of the paper, one of each of its rows, or nothing. */
export type ColumnTaken = { place: number; of: 'sheet' | 'row' | 'none'; type: OwnType }

/** What a column is by its first values: days, numbers, or text. A code that begins with nought is text. */
export function typeOf(says: ColumnSays | undefined): OwnType {
	const values = says?.first.map(({ value }) => value) ?? []
	if (values.length === 0) return 'text'
	if (values.every((value) => readDay(value, 'day first') !== null)) return 'day'
	const isNumber = (value: string) =>
		!/^0\d|\d{13}/.test(value.trim()) &&
		['point', 'comma'].some((mark) => readFigure(value, mark as DecimalMark, 'amount').ok)
	return values.every(isNumber) ? 'number' : 'text'
}

/** How many decimals the values of a column have at most, of the first few; figures are written alike then. */
function decimalsOf(says: ColumnSays | undefined): number {
	const places = (says?.first ?? []).map(({ value }) => /[.,](\d{1,6})\s*$/.exec(value)?.[1]?.length ?? 0)
	return Math.max(0, ...places)
}

/**
 * Takes columns of a sheet as fields of the firm's own, with their types; a field of the same name and type that there is already is filled.
 * A kind whose layout is still as it ships gets one that shows them.
 */
export function takeColumns(books: Books, desk: Desk, fileId: number, given: ColumnTaken[]): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, fileId)
		if (!file?.look) return no('This file is no longer here.')
		const reading = readingSchema.parse(JSON.parse(file.reading))
		const kind = readPaperKind(books, reading.paperKind)
		if (kind?.records !== 'sheet') return no('Say first which kind of paper the rows are for.')
		const columns = { ...reading.columns }
		const evidence: ColumnSays[] = JSON.parse(file.look).evidence ?? []
		const decimals = new Map<string, number>()
		const wanted = given.filter(({ of, place }) => of !== 'none' && (reading.head[place] ?? '').trim() !== '')
		if (wanted.length === 0) return no('Choose at least one column to take.')
		const names = wanted.map(({ place }) => (reading.head[place] ?? '').trim().slice(0, 40).toLowerCase())
		const twice = names.find((name, at) => names.indexOf(name) !== at)
		if (twice !== undefined)
			return no(`Two columns are called “${twice}”. Name them apart in the sheet, or leave one of them out.`)
		for (const { place, of, type } of wanted) {
			const name = (reading.head[place] ?? '').trim().slice(0, 40)
			// Of papers for a row each, everything is said once.
			const whose = kind.each === 'row' ? 'sheet' : of === 'row' ? 'row' : 'sheet'
			const field = fieldFor(books, desk, { of: whose, name, type })
			if (!field)
				return no(
					`There is a field “${name}” of another type already. Name the column otherwise, or take that field away.`,
				)
			columns[ownColumn(field)] = place
			for (const key of ownKeysOf(field)) decimals.set(key, decimalsOf(evidence[place]))
		}
		const changed = changeReading(books, desk, fileId, { columns } as Partial<Reading>)
		if (!changed.ok) return changed
		layOut(books, desk, kind, { decimals, items: columns.item !== undefined })
		return { ok: true, words: `${wanted.length} columns are taken.` }
	})
}

function fieldFor(
	books: Books,
	desk: Desk,
	wanted: { of: 'sheet' | 'row'; name: string; type: OwnType },
): OwnField | null {
	const same = allOwnFields(books).find(
		({ of, name }) => of === wanted.of && name.toLowerCase() === wanted.name.toLowerCase(),
	)
	if (same) return same.type === wanted.type ? same : null
	return addOwnField(books, desk, wanted)
}

/** Makes and chooses a layout that shows the fields of sheets, where the firm has none of its own for the kind yet. */
function layOut(books: Books, desk: Desk, kind: PaperKindRow, shown: Shown): void {
	const chosen = allChoices(books).find(
		({ kind: of, customer_id, language }) => of === kind.key && customer_id === null && language === '',
	)
	const own = allLayouts(books).filter((row) => row.kind === kind.key && row.shipped === '')
	if (own.length > 0 || (chosen && layoutRow(books, chosen.layout_id)?.shipped === '')) return
	const layout = layoutOfColumns(kind, allOwnFields(books), shown)
	const name = freeName(books, kind.key, 'By its columns')
	const body = JSON.stringify({ ...layout, name })
	const id = addLayout(books, desk, { kind: kind.key, name, body, words: 'from the columns of a sheet', from: 0 })
	addVersion(books, desk, id, body, 'from the columns of a sheet')
	dropDraft(books, id)
	choose(books, { kind: kind.key, customer: null, layout: id })
	record(books, desk, {
		subject: 'layout',
		id,
		act: 'chose a layout',
		detail: `${kindOf(kind.base).words.nouns}: ${name}`,
	})
}

/** How fields of sheets are shown: decimals of numbers by their key, and whether rows name items of the books. */
type Shown = { decimals: ReadonlyMap<string, number>; items: boolean }

/** Without the fact that names what a paper is for: of a row each, that is whom it goes to. */
const withoutReference = (piece: Piece): Piece =>
	piece.type === 'beside'
		? { ...piece, columns: piece.columns.map((column) => ({ ...column, pieces: column.pieces.map(withoutReference) })) }
		: piece.type === 'facts'
			? {
					...piece,
					rows: piece.rows.filter(({ value }) => !value.some((one) => 'field' in one && one.field === 'orders')),
				}
			: piece

/** The look Plain with the fields of sheets in place of what orders have: those of the paper as facts, those of its rows as a table with its sums. */
function layoutOfColumns(
	kind: Pick<PaperKindRow, 'each'>,
	ownFields: readonly OwnField[],
	{ decimals, items }: Shown,
): Layout {
	const [plain] = looksOf('unpriced')
	if (!plain) throw new Error('There is no look to begin with.')
	const known = fieldsOf({ reckoned: [] }, ownFields)
	const keyed = (of: 'sheet' | 'row') =>
		ownFields.flatMap((field) => {
			if (field.of !== of) return []
			const [key] = ownKeysOf(field)
			return key && known.get(key) ? [{ key, field }] : []
		})
	const said = (key: string, of = key) => {
		const places = decimals.get(of) ?? 0
		return { field: key, ...(places > 0 ? { format: { decimals: places } } : {}) }
	}
	const facts: Piece = {
		type: 'facts',
		id: 'of-the-paper',
		above: 14,
		rows: keyed('sheet').map(({ key, field }) => ({ label: field.name, value: [said(key)] })),
	}
	// A table has so many columns at most.
	const rows = keyed('row').slice(0, 17)
	const [picture] = ownFields.filter(({ of, type }) => of === 'item' && type === 'picture').flatMap(ownKeysOf)
	const sums = rows.filter(({ field }) => field.type === 'number')
	const table: LinesPiece = {
		type: 'lines',
		id: 'lines',
		of: 'lines',
		above: 14,
		ruleColor: 'hair',
		keep: true,
		head: { color: 'grey' },
		columns: [
			...(items && picture
				? [{ id: 'picture', head: '', cell: [], width: 44, picture: { field: picture, width: 40 } }]
				: []),
			...(rows.some(({ field }) => field.type === 'text') && !items
				? []
				: [{ id: 'text', head: 'Description', cell: [[{ field: 'line.description' }]], width: 'rest' as const }]),
			...rows.map(({ key, field }, place) => ({
				id: `column-${place + 1}`,
				head: field.name,
				cell: [[said(key)]],
				...(field.type === 'text' && !items && rows.findIndex((one) => one.field.type === 'text') === place
					? { width: 'rest' as const }
					: { width: { most: 110 } }),
				...(field.type === 'number' ? { align: 'right' as const } : {}),
			})),
		],
	}
	const reckoned: Layout['reckoned'] = sums.map(({ key, field }) => ({
		key: `sum-${field.key}`.slice(0, 40).replace(/-+$/, ''),
		name: `Sum of ${field.name}`,
		how: { is: 'sum', of: key },
	}))
	const under: Piece = {
		type: 'facts',
		id: 'sums',
		above: 8,
		rows: reckoned.map(({ key, name }, place) => ({
			label: name,
			value: [said(`reckoned.${key}`, sums[place]?.key ?? '')],
		})),
	}
	const showsRows = kind.each !== 'row' && rows.length > 0
	const body = plain.body.flatMap((piece): Piece[] =>
		piece.id !== 'lines'
			? [kind.each === 'row' ? withoutReference(piece) : piece]
			: [
					...(facts.rows.length > 0 ? [facts] : []),
					...(showsRows ? [table, ...(under.rows.length > 0 ? [under] : [])] : []),
				],
	)
	return { ...plain, body, reckoned: showsRows ? reckoned : [] }
}
