import type { Source } from '@/archive/source'
import type { OwnField } from '@/core/ownFields'
import { attempt, type Result, refuse } from '@/core/refusal'
import { type Column, isBlank, type SheetRow, textOf } from './cell'
import { type ColumnSays, gatherEvidence } from './evidence'
import { formatNamed, recognise } from './formats'
import { findHead } from './head'
import type { FileKind } from './kinds'
import { bestKind, type Head, matchedFor, type Reading } from './reading'

/** Where rows are put as they are read; then they are looked at from there, as often as need be. */
type RowKeeper = { add: (row: SheetRow) => void }

/** A source's rows in one place, its head, and what its columns say. */
export type Look = { format: string; settings: Record<string, unknown>; head: Head; evidence: ColumnSays[] }

const headWithin = 60

/** Reads a source by its format and settings, or those that fit it, into `keeper`. Refused with the place and the remedy. */
export async function readSource(
	source: Source,
	keeper: RowKeeper,
	given?: { format: string; settings?: Record<string, unknown>; headRow?: number | null },
): Promise<Result<Look>> {
	const recognised = given ? null : recognise(source)
	if (recognised && !recognised.ok) return recognised
	const format = given ? formatNamed(given.format) : recognised?.value
	if (!format) return { ok: false, refusal: { path: 'file', message: 'Its format is not known here.' } }
	return whenRefused(async () => {
		const settings = format.settings.parse(given?.settings ?? (await format.propose(source)))
		const says = gatherEvidence()
		let columns: Column[] | null = null
		// The head is found among the first rows; what stands above it says nothing of the columns.
		let first: SheetRow[] | null = []
		let head: Head = { row: null, names: [], lineFrom: 0 }
		const settle = () => {
			head = headIn(first ?? [], given?.headRow)
			for (const row of first ?? []) if (head.row === null || row.row > head.row) says.hear(row)
			first = null
		}
		let count = 0
		await format.read(source, settings, {
			row: (row) => {
				count++
				if (row.cells.length > mostColumns)
					refuse(
						`row ${row.row}`,
						`Row ${row.row} has ${row.cells.length} cells; at most ${mostColumns} can be read. Leave out the columns that are not needed.`,
					)
				keeper.add(row)
				if (!first) return says.hear(row)
				first.push(row)
				if (first.length >= headWithin) settle()
			},
			columns: (named) => {
				columns = named
			},
		})
		if (count === 0) refuse('file', 'Nothing stands in it. Export it again and choose the new file.')
		if (first) settle()
		const own: Column[] | null = columns
		if (own) head = namedBy(own)
		return {
			format: format.name,
			settings: settings as Record<string, unknown>,
			head,
			evidence: says.heard(head.lineFrom),
		}
	})
}

const mostColumns = 5_000

async function whenRefused<T>(work: () => Promise<T>): Promise<Result<T>> {
	let failure: unknown
	const value = await work().catch((error: unknown) => {
		failure = error
		return undefined
	})
	if (failure === undefined && value !== undefined) return { ok: true, value }
	return attempt(() => {
		throw failure
	})
}

/** The head among the first rows: found, or in the row that a person named (null for none). */
function headIn(rows: readonly SheetRow[], said?: number | null): Head {
	const place = said === undefined ? findHead(rows) : said === null ? null : rows.findIndex(({ row }) => row === said)
	const row = place === null || place < 0 ? undefined : rows[place]
	if (row) return { row: row.row, names: row.cells.map(textOf), lineFrom: row.cells.length }
	const width = Math.max(0, ...rows.filter((one) => !isBlank(one)).map(({ cells }) => cells.length))
	return { row: null, names: Array.from({ length: width }, (_, index) => `Column ${index + 1}`), lineFrom: width }
}

function namedBy(columns: Column[]): Head {
	const [own, lines] = [columns.filter(({ of }) => of === 'row'), columns.filter(({ of }) => of === 'line')]
	return { row: null, names: [...own, ...lines].map(({ name }) => name), lineFrom: own.length }
}

/** The reading of a source that was looked at for the first time, and whether its kind could be told. */
export function proposeReading(
	look: Look,
	ownFields: readonly OwnField[],
	kind?: FileKind,
): { reading: Reading; kindIsOpen: boolean } {
	const best = kind ?? bestKind(look.head, ownFields)
	const chosen = best ?? 'orders'
	return {
		kindIsOpen: best === null,
		reading: {
			format: look.format,
			settings: look.settings,
			headRow: look.head.row,
			headSaid: false,
			head: look.head.names,
			lineFrom: look.head.lineFrom,
			kind: chosen,
			...matchedFor(look.head, chosen, ownFields),
			days: null,
			decimal: null,
			discount: null,
			orderDiscount: null,
			defaults: {},
			asOf: '',
			paperKind: 0,
			ours: 'kept open',
			signs: null,
			to: 'named then oldest',
		},
	}
}
