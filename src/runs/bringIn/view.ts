import { dayText } from '@/core/calendar'
import { type Cell, isBlank, type SheetRow, textOf } from '@/intake/cell'
import { correctedRows } from '@/intake/corrected'
import type { ColumnSays } from '@/intake/evidence'
import { formatNamed } from '@/intake/formats'
import { fieldsFor } from '@/intake/kinds'
import type { Field } from '@/intake/kinds/field'
import { type Decided, notUsed, type Reading, readingSchema } from '@/intake/reading'
import { cellReader, type Rows, shapeOf } from '@/intake/rows'
import { type Books, inOneReading } from '@/store/books'
import { type Correction, correctionsOf, type LeftOut, leftOutOf } from '@/store/corrections'
import { type Acceptance, acceptancesOf, readFile, type SourceFile } from '@/store/files'
import { isGoing } from '@/store/jobState'
import { type Job, latestFileJob } from '@/store/jobs'
import {
	type Alike,
	alikeRefusals,
	type KeptRefusal,
	recordsIn,
	refusedRows,
	type SheetRecord,
	type StagedBrief,
	stagedOrders,
} from '@/store/outcomes'
import { allOwnFields } from '@/store/ownFields'
import { type Reader, readReader } from '@/store/readers'
import { hasStaging, openStaging, rowsIn, type Staging } from '@/store/staging'
import { changeSince, type HeadChange } from './readers'
import { type Answers, type Open, openQuestions, type Review, readAnswers, reviewOf } from './review'

/** A value that is taken beside what stands there. */
export type Understood = { was: string; is: string; why: string }
export type FieldView = {
	key: string
	label: string
	needed: boolean
	place: number | null
	/** Where further lines of a row have it. */
	more: string[]
	guessed: boolean
	default: string
	samples: Understood[]
}
type RefusedRow = {
	row: number
	reasons: KeptRefusal[]
	cells: { place: number; name: string; value: string }[]
}

export type FileView = {
	file: SourceFile
	job: Job | null
	going: boolean
	reading: Reading | null
	review: Review | null
	answers: Answers
	open: Open[]
	/** What may be chosen of its format: the sheets of a workbook, say. */
	choices: { setting: string; words: string; options: string[]; value: string }[]
	fields: FieldView[]
	notUsed: { place: number; name: string; samples: string[] }[]
	refused: { rows: RefusedRow[]; page: number; pages: number }
	alike: Alike[]
	leftOut: LeftOut[]
	corrections: Correction[]
	acceptances: Acceptance[]
	reader: Reader | null
	/** Whether a person must first say what is what in it. */
	unmarked: boolean
	/** Whether its rows are not here, so that it is to be read again. */
	lost: boolean
	/** What of its head is otherwise than the reader knows it. */
	change: HeadChange | null
	/** Some of what would come in, by standing. */
	records: SheetRecord[]
	changed: StagedBrief[]
	ofAnother: StagedBrief[]
	/** The row that is asked for, as the file has it. */
	row: { row: number; cells: RefusedRow['cells'] } | null
}

const pageSize = 50

/** What the page of a file shows, all of one moment. @param page which of the pages of refused rows, from 1 @param row one that is asked for; 0 for none */
export const fileView = (books: Books, id: number, page: number, row = 0): FileView | null =>
	inOneReading(books, () => viewOf(books, id, page, row))

function viewOf(books: Books, id: number, page: number, row: number): FileView | null {
	const file = readFile(books, id)
	if (!file) return null
	const job = latestFileJob(books, id)
	const review = reviewOf(file)
	const answers = readAnswers(file.answers)
	const reading = file.look ? readingSchema.parse(JSON.parse(file.reading)) : null
	const base: FileView = {
		file,
		job,
		going: isGoing(job),
		reading,
		review,
		answers,
		open: openQuestions(review, answers),
		choices: [],
		fields: [],
		notUsed: [],
		refused: { rows: [], page: 1, pages: 1 },
		alike: [],
		leftOut: leftOutOf(books, id),
		corrections: correctionsOf(books, id),
		acceptances: acceptancesOf(books, id),
		reader: file.reader_id === null ? null : readReader(books, file.reader_id),
		unmarked: reading ? (formatNamed(reading.format)?.unmarked?.(reading.settings) ?? false) : false,
		lost: file.trouble === '' && file.state !== 'arriving' && (file.look === null || !hasStaging(books.folder, id)),
		change: null,
		records: [],
		changed: [],
		ofAnother: [],
		row: null,
	}
	if (!reading || !hasStaging(books.folder, id)) return base
	const staging = openStaging(books.folder, id)
	try {
		const kept = rowsIn(staging)
		const rows = correctedRows(kept, base.corrections, new Set(), reading.lineFrom)
		const ownFields = allOwnFields(books)
		const count = review?.rows.refused ?? 0
		const pages = Math.max(1, Math.ceil(count / pageSize))
		const at = Math.min(Math.max(1, page), pages)
		const evidence: ColumnSays[] = JSON.parse(file.look ?? '{}').evidence ?? []
		const look = JSON.parse(file.look ?? '{}')
		const settings = { format: reading.format, settings: reading.settings, head: look.head }
		return {
			...base,
			choices: choicesOf(look.choices, reading),
			change: base.reader && look.head ? changeSince(base.reader, settings, ownFields) : null,
			fields: fieldsView(rows, reading, review?.decided ?? null, fieldsFor(reading.kind, ownFields)),
			notUsed: notUsed(reading).map((one) => ({
				...one,
				samples: (evidence[one.place]?.first ?? []).slice(0, 3).map(({ value }) => value),
			})),
			row: asRead(row === 0 ? undefined : kept.get(row), reading),
			refused: {
				page: at,
				pages,
				rows: refusedRows(staging, (at - 1) * pageSize, pageSize).map(({ row, reasons }) => ({
					row,
					reasons,
					cells: cellsOf(rows.get(row), reading),
				})),
			},
			alike: alikeRefusals(staging, 20),
			records: reading.kind === 'open items' ? extractRecords(staging) : recordsIn(staging, null, 0, 500),
			changed: stagedOrders(staging, 'changed', 0, 200),
			ofAnother: stagedOrders(staging, 'of another', 0, 200),
		}
	} finally {
		staging.close()
	}
}

/** Of an extract, the first items of each standing, so that every figure of it opens to some. */
const extractRecords = (staging: Staging): SheetRecord[] =>
	['likely item', 'changed item', 'gone', 'not in it', 'left as it is', 'new item', 'same item'].flatMap((standing) =>
		recordsIn(staging, standing, 0, standing === 'same item' ? 50 : 300),
	)

function choicesOf(choices: FileView['choices'] | undefined, { settings }: Reading): FileView['choices'] {
	return (choices ?? []).map((one) => ({ ...one, value: String(settings[one.setting] ?? '') }))
}

const asRead = (row: SheetRow | undefined, reading: Reading): FileView['row'] =>
	row ? { row: row.row, cells: cellsOf(row, reading).filter(({ value }) => value !== '') } : null

function cellsOf(row: SheetRow | undefined, reading: Reading): RefusedRow['cells'] {
	if (!row) return []
	const plain = row.cells.map((cell, place) => ({
		place,
		name: reading.head[place] ?? `column ${place + 1}`,
		value: textOf(cell),
	}))
	const lines = (row.lines ?? []).flatMap((line) =>
		line.map((cell, index) => ({
			place: reading.lineFrom + index,
			name: reading.head[reading.lineFrom + index] ?? '',
			value: textOf(cell),
		})),
	)
	return [...plain, ...lines]
}

const most = 3

/** Each field with its column, and what its first values are taken as. */
function fieldsView(rows: Rows, reading: Reading, decided: Decided | null, fields: readonly Field[]): FieldView[] {
	const shape = shapeOf(reading, [])
	const read = cellReader(decided ?? { days: 'day first', decimal: 'point' })
	const first: SheetRow[] = []
	for (const row of rows.each()) {
		if ((reading.headRow !== null && row.row <= reading.headRow) || isBlank(row)) continue
		first.push(row)
		if (first.length >= 200) break
	}
	return fields.map((field) => {
		const place = reading.columns[field.key]
		const samples = new Map<string, Understood>()
		for (const row of first) {
			if (place === undefined || samples.size >= most) break
			const cell = shape.cell(row, 0, place)
			const was = textOf(cell)
			if (was !== '' && !samples.has(was)) samples.set(was, understood(cell, field, read))
		}
		return {
			key: field.key,
			label: field.label,
			needed: field.needed,
			place: place ?? null,
			more: reading.groups.flatMap((group) => {
				const at = group[field.key]
				return at === undefined || at === place ? [] : [reading.head[at] ?? '']
			}),
			guessed: reading.guessed.includes(field.key),
			default: reading.defaults[field.key] ?? '',
			samples: [...samples.values()],
		}
	})
}

function understood(cell: Cell, field: Field, read: ReturnType<typeof cellReader>): Understood {
	const { text, currency, unit, percent, why } = read(cell, field.type)
	const shown = field.type === 'day' && text !== '' ? dayText(text) : text
	const is = [currency, percent ? `${shown}%` : shown, unit].filter(Boolean).join(' ')
	return { was: textOf(cell).slice(0, 60), is: is.slice(0, 60), why }
}
