import type { JsonTypes } from '@streamparser/json'
import { TokenizerError, TokenParserError } from '@streamparser/json'
import { z } from 'zod'
import type { Source } from '@/archive/source'
import { plainNumber } from '@/core/decimal'
import { refuse } from '@/core/refusal'
import type { Cell, Column } from '../../cell'
import { knownNames } from '../../kinds'
import { plainName } from '../../kinds/field'
import { decoded, findEncoding } from '../delimited/encoding'
import type { Format } from '../format'
import { jsonRecords, numberOf, outline, type Shape } from './records'

const settings = z.object({ records: z.enum(['lines', 'array', 'list']), list: z.string() })
type Settings = z.infer<typeof settings>
type Json = JsonTypes.JsonPrimitive | JsonTypes.JsonStruct | undefined

const startSize = 200_000
const firstLetter = (source: Source) => /[^\s\ufeff]/.exec(source.read(0, 1000).toString('utf8'))?.[0] ?? ''

/** JSON: a list of objects, one object a line, or an object that holds a list; an order's lines stand in a list of its own. */
export const json: Format<Settings> = {
	name: 'json',
	words: 'JSON',
	lines: false,
	recognise: (source) => ['[', '{'].includes(firstLetter(source)),
	settings,
	propose: async (source) => {
		const { first, values, lists, plain } = outline(startOf(source))
		if (first === 'array') return { records: 'array', list: '' }
		const isRecord = plain.filter((name) => knownNames().has(plainName(name))).length >= 2
		const [list] = lists
		if (values > 1 || list === undefined || isRecord) return { records: 'lines', list: '' }
		if (lists.length > 1) return { records: 'list', list: mostKnown(lists) }
		return { records: 'list', list }
	},
	choices: async (source) => {
		const { first, lists } = outline(startOf(source))
		return first === 'object' && lists.length > 1
			? [{ setting: 'list', words: 'The list to read', options: lists }]
			: []
	},
	read: async (source, { records, list }, out) => {
		const table = columnsAsFound()
		let row = 0
		const shape: Shape = records === 'list' ? { records, list } : { records }
		const parser = jsonRecords(shape, (record) => {
			row++
			out.row({ row, ...table.cellsOf(record) })
		})
		try {
			const encoding = findEncoding(source)
			for (const text of decoded(source, encoding)) parser.write(text)
			parser.end()
		} catch (error) {
			if (error instanceof TokenizerError || error instanceof TokenParserError || isTorn(error))
				return refuse(
					`record ${row + 1}`,
					`It is not JSON as it should be, after ${row} records: ${error.message}. Export it again.`,
				)
			throw error
		}
		out.columns(table.columns())
	},
}

const isTorn = (error: unknown): error is Error => error instanceof Error && error.message === 'it ends in the middle'
const mostKnown = (lists: string[]) =>
	lists.find((name) => /order|invoice|item|line|record|row|data/i.test(name)) ?? lists[0] ?? ''
const startOf = (source: Source) => source.read(0, startSize)

/** Properties become columns as they are met: of the record itself by their path, of the objects in its lists by theirs. */
function columnsAsFound() {
	const rowColumns = new Map<string, number>()
	const lineColumns = new Map<string, number>()
	const placeOf = (columns: Map<string, number>, name: string) => {
		const known = columns.get(name)
		if (known !== undefined) return known
		if (columns.size >= 5000)
			return refuse('file', 'It has more than 5,000 different properties: it is no list of orders.')
		columns.set(name, columns.size)
		return columns.size - 1
	}
	const fill = (columns: Map<string, number>, cells: Cell[], path: string, value: Json, lists: Json[][]): void => {
		if (Array.isArray(value)) {
			if (value.some((one) => typeof one === 'object' && one !== null)) lists.push(value)
			else put(columns, cells, path, value.map((one) => numberOf(one) ?? String(one ?? '')).join(', '))
		} else if (typeof value === 'object' && value !== null)
			for (const [key, one] of Object.entries(value)) fill(columns, cells, path ? `${path}.${key}` : key, one, lists)
		else put(columns, cells, path, cellOf(value))
	}
	const put = (columns: Map<string, number>, cells: Cell[], path: string, cell: Cell) => {
		const place = placeOf(columns, path)
		while (cells.length < place) cells.push('')
		cells[place] = cell
	}
	return {
		cellsOf: (record: Json): { cells: Cell[]; lines?: Cell[][] } => {
			const cells: Cell[] = []
			const lists: Json[][] = []
			fill(rowColumns, cells, '', record, lists)
			const [list, ...others] = lists
			for (const [index] of others.entries()) put(rowColumns, cells, `list ${index + 2}`, '…')
			if (!list) return { cells }
			const lines = list.map((line) => {
				const own: Cell[] = []
				fill(lineColumns, own, '', line, [])
				return own
			})
			return { cells, lines }
		},
		columns: (): Column[] => [
			...[...rowColumns.keys()].map((name): Column => ({ name, of: 'row' })),
			...[...lineColumns.keys()].map((name): Column => ({ name, of: 'line' })),
		],
	}
}

function cellOf(value: Json): Cell {
	const number = numberOf(value)
	if (number !== null) return { is: 'number', text: plainNumber(number) }
	return value === null || value === undefined ? '' : String(value).trim()
}
