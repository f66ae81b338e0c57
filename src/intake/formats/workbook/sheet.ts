import { readXml } from '@/archive/xml'
import type { Archive } from '@/archive/zip'
import { addDays } from '@/core/calendar'
import { plainNumber } from '@/core/decimal'
import { refuse } from '@/core/refusal'
import type { Cell, SheetRow } from '../../cell'
import type { Shown } from './styles'

export type Workbook = {
	archive: Archive
	sheets: { name: string; path: string; hidden: boolean }[]
	/** Days count from 1 January 1904, as some programs have it. */
	from1904: boolean
	styles: Shown[]
	texts: string[]
}

/** A place such as "C7" as the place of its column, from 0. */
function columnOf(place: string): number {
	let column = 0
	for (const char of place) {
		const code = char.charCodeAt(0)
		if (code < 65 || code > 90) break
		column = column * 26 + code - 64
	}
	return column - 1
}

/** A number as sheets show it: to fifteen figures, since that is what they keep. */
function sheetNumber(text: string): string {
	const value = Number(text)
	return /^-?\d{1,15}$/.test(text) || !Number.isFinite(value) ? plainNumber(text) : plainNumber(value.toPrecision(15))
}

/** The day of a serial number; the sheet's 29 February 1900, which never was, is passed over. */
function dayOfSerial(serial: number, from1904: boolean): string {
	const whole = Math.floor(serial)
	return from1904 ? addDays('1904-01-01', whole) : addDays('1899-12-30', whole < 60 ? whole + 1 : whole)
}

/** 0.125 shown as 12.5%: the number before the sign. */
const percentText = (text: string): string => plainNumber(`${sheetNumber(text)}e2`)

const mostColumns = 16_384
// Gaps between rows that are written stand for blank rows; beyond this many they are passed over unlisted.
const widestGap = 2_000

class Enough extends Error {}

/**
 * Reads a sheet's rows: each cell by what it holds and how it is shown.
 * @param most stop after this many rows
 * @throws a refusal (`refuse`) where the sheet cannot be read
 */
export async function readSheet(
	book: Workbook,
	path: string,
	onRow: (row: SheetRow, isHidden: boolean) => void,
	most = Number.POSITIVE_INFINITY,
): Promise<void> {
	let row = 0
	let cells: Cell[] = []
	let place = 0
	let type = 'n'
	let style = 0
	let text = ''
	let takesText = false
	let phonetic = false
	let given = 0
	let hidden = false
	try {
		await readXml(await book.archive.open(path), {
			open: (name, attributes) => {
				if (name === 'row') {
					const next = attributes.r === undefined ? row + 1 : Number(attributes.r)
					if (!(next > row))
						return refuse('file', `The rows of the sheet are out of order near row ${row}. Save the workbook again.`)
					if (row > 0 && next - row <= widestGap)
						for (let blank = row + 1; blank < next; blank++) onRow({ row: blank, cells: [] }, false)
					row = next
					hidden = attributes.hidden === '1' || attributes.hidden === 'true'
					cells = []
					place = -1
				} else if (name === 'c') {
					place = attributes.r === undefined ? place + 1 : columnOf(attributes.r)
					if (place < 0 || place >= mostColumns)
						return refuse('file', `Row ${row} has a cell beyond the last column of a sheet. Save the workbook again.`)
					type = attributes.t ?? 'n'
					style = Number(attributes.s ?? 0)
					text = ''
				} else if (name === 'rPh') phonetic = true
				else if (name === 'v' || name === 't') takesText = !phonetic
			},
			text: (part) => {
				if (takesText) text += part
			},
			close: (name) => {
				if (name === 'v' || name === 't') takesText = false
				else if (name === 'rPh') phonetic = false
				else if (name === 'c') {
					const cell = cellOf(book, type, style, text)
					if (cell === '') return
					while (cells.length < place) cells.push('')
					cells[place] = cell
				} else if (name === 'row') {
					onRow({ row, cells }, hidden && cells.length > 0)
					if (++given >= most) throw new Enough()
				}
			},
		})
	} catch (error) {
		if (!(error instanceof Enough)) throw error
	}
}

function cellOf(book: Workbook, type: string, style: number, text: string): Cell {
	if (type === 's') return (book.texts[Number(text)] ?? '').trim()
	if (type === 'str' || type === 'inlineStr') return text.trim()
	if (text === '') return ''
	if (type === 'e') return { is: 'error', text }
	if (type === 'b') return text === '1' ? 'true' : 'false'
	if (type === 'd') return { is: 'day', text: text.slice(0, 10) }
	const shown = book.styles[style] ?? 'number'
	const value = Number(text)
	if (shown === 'day' && Number.isFinite(value) && value >= 1 && value < 2_958_466)
		return { is: 'day', text: dayOfSerial(value, book.from1904) }
	return shown === 'percent' ? { is: 'percent', text: percentText(text) } : { is: 'number', text: sheetNumber(text) }
}
