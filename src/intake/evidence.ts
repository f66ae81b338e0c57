import { orderOfDay } from '@/core/readDay'
import { type Cell, type SheetRow, textOf } from './cell'
import { markOf } from './values/figure'

/** A value that speaks, with its row. */
export type Example = { row: number; value: string }
/** What the values of a column say of how the file writes figures and days, with a few examples of each. */
export type ColumnSays = {
	filled: number
	/** Values that are figures other than nought, and how many of all bear a percent sign. */
	figures: number
	percents: number
	first: Example[]
	said: Partial<Record<Saying, { count: number; examples: Example[] }>>
	/** The last text that was heard, and what it said. */
	heard: { text: string; figure: number; sayings: Saying[] }
}
type Saying = 'point' | 'comma' | 'mark either' | 'day first' | 'month first' | 'day either'

const mostExamples = 4
const empty = (): ColumnSays => ({
	filled: 0,
	figures: 0,
	percents: 0,
	first: [],
	said: {},
	heard: { text: '', figure: 0, sayings: [] },
})

/** Gathers what columns say, row by row; each column keeps a few numbers and examples, however long the file. */
export function gatherEvidence() {
	const rowColumns: ColumnSays[] = []
	const lineColumns: ColumnSays[] = []
	const hear = (columns: ColumnSays[], row: number, cells: readonly Cell[]) => {
		for (let place = 0; place < cells.length; place++) {
			const cell = cells[place] ?? ''
			if (cell === '') continue
			while (columns.length <= place) columns.push(empty())
			const says = columns[place]
			if (says) hearCell(says, row, cell)
		}
	}
	return {
		hear: ({ row, cells, lines }: SheetRow) => {
			hear(rowColumns, row, cells)
			if (lines) for (const line of lines) hear(lineColumns, row, line)
		},
		/** By place: the row's columns up to `lineFrom`, then those of its lines. */
		heard: (lineFrom: number): ColumnSays[] => [
			...Array.from(
				{ length: lineColumns.length > 0 ? lineFrom : rowColumns.length },
				(_, place) => rowColumns[place] ?? empty(),
			),
			...lineColumns,
		],
	}
}

function hearCell(says: ColumnSays, row: number, cell: Cell): void {
	says.filled++
	const text = textOf(cell)
	if (says.first.length < mostExamples) says.first.push({ row, value: text.slice(0, 80) })
	if (typeof cell !== 'string') {
		if (cell.is === 'percent') says.percents++
		if ((cell.is === 'percent' || cell.is === 'number') && cell.text !== '0') says.figures++
		return
	}
	if (text.length > 40) return
	if (text.endsWith('%')) says.percents++
	// Values come in runs: what one said, the same says again.
	if (text === says.heard.text) {
		says.figures += says.heard.figure
		for (const saying of says.heard.sayings) note(says, saying, row, text)
		return
	}
	const heard: ColumnSays['heard'] = { text, figure: 0, sayings: [] }
	says.heard = heard
	const said = sayingsOf(text)
	if (said.figure) {
		says.figures++
		heard.figure = 1
	}
	heard.sayings = said.sayings
	for (const saying of heard.sayings) note(says, saying, row, text)
}

type Said = { figure: boolean; sayings: Saying[] }
const silent: Said = { figure: false, sayings: [] }
const wholeNumber: Said = { figure: true, sayings: [] }
const known = new Map<string, Said>()

/** What a text says by itself; the same few thousand come again and again. */
function sayingsOf(text: string): Said {
	if (!/\d/.test(text)) return silent
	if (/^[1-9]\d*$/.test(text)) return wholeNumber
	const before = known.get(text)
	if (before) return before
	const mark = markOf(text)
	const day = /[-/ ].*[-/ ]/.test(text) ? orderOfDay(text) : null
	const said: Said = {
		figure: /[1-9]/.test(text),
		sayings: [
			...(mark ? [mark === 'either' ? ('mark either' as const) : mark] : []),
			...(day ? [day === 'either' ? ('day either' as const) : day] : []),
		],
	}
	if (known.size > 20_000) known.clear()
	known.set(text, said)
	return said
}

function note(says: ColumnSays, saying: Saying, row: number, value: string): void {
	const own = says.said[saying]
	if (!own) says.said[saying] = { count: 1, examples: [{ row, value }] }
	else {
		own.count++
		if (own.examples.length < mostExamples && !own.examples.some((one) => one.value === value))
			own.examples.push({ row, value })
	}
}

/** What several columns say together. */
export function together(columns: readonly ColumnSays[], saying: Saying): { count: number; examples: Example[] } {
	const all = columns.flatMap(({ said }) => said[saying] ?? [])
	return {
		count: all.reduce((sum, { count }) => sum + count, 0),
		examples: all.flatMap(({ examples }) => examples).slice(0, mostExamples),
	}
}
