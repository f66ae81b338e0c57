import { amountText, isCurrency } from '@/core/currency'
import { withDecimals } from '@/core/decimal'
import { minorOf } from '@/core/lineNet'
import type { OwnField } from '@/core/ownFields'
import type { SheetRow } from './cell'
import { gatherEvidence } from './evidence'
import { documentReader, type ReportRow } from './formats/report/documents'
import type { Printed } from './formats/report/lines'
import { isMarked, type Marks, namesOf } from './formats/report/marks'
import type { LineTaken, Place } from './formats/report/rows'
import { type FileKind, fieldsFor } from './kinds'
import type { Field } from './kinds/field'
import { takeOrders } from './orders'
import { netOf, takenOff, tiesWith } from './orderTerms'
import { type Decided, type Reading, type RowRefusal, readingSchema } from './reading'
import { cellReader, rowsOf, type Value } from './rows'
import { settled } from './settled'

/** How one name is read over all pages. */
export type NameTried = {
	name: string
	/** The field that bears the name; null where it is of none, and so not used. */
	field: Field | null
	filled: number
	empty: number
	/** Values that cannot be read as the field's. */
	unread: number
	/** Of the page in view, or else of the first that has one: what stands there, and what it is taken as. */
	sample: { was: string; is: string }
}
type Misfit = { place: Place; words: string }
export type Span = { from: number; to: number; as: 'value' | 'cell' | 'total'; name: string }

/** What is read of a report's pages by marks, with all that did not fit. */
export type Tried = {
	names: NameTried[]
	documents: number
	rows: number
	/** By page and line, as `placeKey` gives it. */
	taken: Map<string, LineTaken>
	/** What pieces of the page in view were read as, by page and line. */
	spans: Map<string, Span[]>
	misfits: Misfit[]
	/** Text that no mark takes, the most frequent first. */
	unused: { text: string; times: number; place: Place }[]
	/** Orders whose own total ties with their lines, and those where it does not. */
	ties: { tie: number; out: number }
	total: { figure: string; sum: string; ties: boolean } | null
	decided: Decided
}
/** A place of a page as a key. */
export const placeKey = ({ page, of }: Pick<Place, 'page' | 'of'>): string => `${page}:${of}`

/** The reading that marks make: each name that a field bears is its column. */
export function readingOfMarks(marks: Marks, kind: FileKind, ownFields: readonly OwnField[]): Reading {
	const head = namesOf(marks)
	const byLabel = new Map(fieldsFor(kind, ownFields).map((field) => [field.label, field.key]))
	const columns: Record<string, number> = {}
	for (const [place, name] of head.entries()) {
		const key = byLabel.get(name)
		if (key !== undefined) columns[key] = place
	}
	return readingSchema.parse({
		format: 'report',
		settings: marks,
		headRow: null,
		head,
		lineFrom: head.length,
		kind,
		columns,
	})
}

/** More of what does not fit is not told. */
export const mostSaid = 400

/** Reads printed lines by marks as the file would be, and says of every line what became of it. */
export function tryMarks(
	lines: readonly Printed[],
	marks: Marks,
	kind: FileKind,
	ownFields: readonly OwnField[],
	home: string,
	page: number,
): Tried {
	const reading = readingOfMarks(marks, kind, ownFields)
	const rows: (ReportRow & { at: number })[] = []
	const misfits: Misfit[] = []
	const unused = new Map<string, { text: string; times: number; place: Place }>()
	const taken = new Map<string, LineTaken>()
	const spans = new Map<string, Span[]>()
	const says = gatherEvidence()
	let documents = 0
	let total: string | null = null
	const ofLine = new Map(lines.map(({ line, of }) => [line, of]))
	const tell = (place: Place, words: string) => {
		if (misfits.length < mostSaid) misfits.push({ place, words })
	}
	if (isMarked(marks) || marks.top.length > 0 || marks.pass.length > 0 || marks.begins) {
		const reader = documentReader(marks, {
			row: (row) => {
				const at = Math.max(row.line, (rows.at(-1)?.at ?? 0) + 1)
				rows.push({ ...row, at })
				const of = ofLine.get(row.line) ?? 1
				if (row.trouble !== '') tell({ line: row.line, page: row.page, of }, row.trouble)
			},
			document: () => {
				documents++
			},
			unused: (place, text) => {
				const known = unused.get(text)
				if (known) known.times++
				else if (unused.size < 2000) unused.set(text, { text, times: 1, place })
			},
			taken: (place, as) => taken.set(placeKey(place), as),
			span: (place, from, to, as, name) => {
				if (place.page !== page || to <= from) return
				const key = placeKey(place)
				spans.set(key, [...(spans.get(key) ?? []), { from, to, as, name }])
			},
			total: (figure) => {
				total = figure
			},
		})
		for (const line of lines) reader.line(line)
		reader.end()
	}
	const sheet: SheetRow[] = rows.map(({ at, cells, trouble }) => ({
		row: at,
		cells: reading.head.map((name) => cells[name] ?? ''),
		...(trouble === '' ? {} : { trouble }),
	}))
	for (const row of sheet) says.hear(row)
	const evidence = says.heard(reading.lineFrom)
	const kept = rowsOf(sheet)
	const decided = settled(kept, reading, evidence, ownFields)
	const fields = fieldsFor(kind, ownFields)
	const names = namesTried(rows, reading, fields, decided, page)
	const byRow = new Map(rows.map((row) => [row.at, row]))
	const placeOf = (row: number): Place => {
		const found = byRow.get(row)
		return { line: row, page: found?.page ?? 1, of: ofLine.get(found?.line ?? 0) ?? 1 }
	}
	const ties = { tie: 0, out: 0 }
	let sum = 0n
	let currency = home
	const readable = (keys: string[]) => keys.every((key) => reading.columns[key] !== undefined)
	if (kind === 'orders' && readable(['order', 'quantity']) && decided.questions.length === 0) {
		const byOrder = new Map<string, RowRefusal>()
		takeOrders(kept, reading, decided, ownFields, () => ({
			left: () => {},
			sourceTotal: () => {},
			refuse: (refusal) => {
				const known = byRow.get(refusal.row)?.trouble !== ''
				if (!refusal.follows && !known && !byOrder.has(`${refusal.row} ${refusal.field}`)) {
					byOrder.set(`${refusal.row} ${refusal.field}`, refusal)
					tell(
						placeOf(refusal.row),
						`${refusal.column}${refusal.value ? ` “${refusal.value}”` : ''}: ${refusal.remedy}`,
					)
				}
			},
			refusedLines: (_, said, refused) => {
				if (isCurrency(said)) currency = said
				for (const line of refused) sum += line.net ?? 0n
			},
			order: (order) => {
				if (isCurrency(order.currency)) currency = order.currency
				const nets = order.lines.map(({ net }) => net)
				for (const net of nets) sum += net ?? 0n
				if (order.total === '' || nets.includes(null)) return
				// A discount that the order only names counts once it is looked up in the books; a price that its item has, too.
				if (order.discountName !== '' || order.lines.some(({ unitPrice }) => unitPrice === null)) return
				const terms = { ...order, currency, discountAmount: takenOff(order) }
				const own = netOf(terms, [])
				if (!own.ok) tell(placeOf(order.rows[0] ?? 0), `Order ${order.number}: ${own.refusal.message}`)
				else if (tiesWith(order.total, terms, [])) ties.tie++
				else {
					ties.out++
					tell(
						placeOf(order.rows[0] ?? 0),
						`Order ${order.number} says that it comes to ${order.total}; its rows come to ${amountText(own.value, currency)}.`,
					)
				}
			},
		}))
	}
	const figure = total === null ? null : cellReader(decided)(total, 'amount').text
	return {
		names,
		documents,
		rows: rows.length,
		taken,
		spans,
		misfits,
		unused: [...unused.values()].sort((a, b) => b.times - a.times).slice(0, 40),
		ties,
		total:
			figure === null
				? null
				: {
						figure: figure || (total ?? ''),
						sum: amountText(sum, currency),
						ties: figure !== '' && minorOf(figure, currency) === sum,
					},
		decided,
	}
}

/** A value as it is taken; an amount with at least two decimals. */
function shown({ text, currency, unit, percent }: Value, field: Field | null): string {
	const figure = field?.type === 'amount' && text !== '' ? withDecimals(text, 2) : percent ? `${text}%` : text
	return [currency, figure, unit].filter(Boolean).join(' ')
}

function namesTried(
	rows: readonly ReportRow[],
	reading: Reading,
	fields: readonly Field[],
	decided: Decided,
	page: number,
): NameTried[] {
	const read = cellReader(decided)
	return reading.head.map((name) => {
		const field = fields.find(({ label }) => label === name) ?? null
		let [filled, unread] = [0, 0]
		let sample: { was: string; here: boolean } | null = null
		for (const row of rows) {
			const was = row.cells[name] ?? ''
			if (was === '') continue
			filled++
			if (field && read(was, field.type).why !== '') unread++
			if (!sample || (!sample.here && row.page === page)) sample = { was, here: row.page === page }
		}
		const was = sample?.was ?? ''
		const value = field && was !== '' ? read(was, field.type) : null
		return {
			name,
			field,
			filled,
			empty: rows.length - filled,
			unread,
			sample: {
				was,
				is: value ? shown(value, field) : '',
			},
		}
	})
}
