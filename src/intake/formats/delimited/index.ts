import { z } from 'zod'
import type { Source } from '@/archive/source'
import { refuse } from '@/core/refusal'
import type { Format } from '../format'
import { delimiters, findDelimiter, namedDelimiter } from './delimiter'
import { decoded, encodingAsKept, findEncoding } from './encoding'
import { encodings } from './encodings'
import { recordReader, TornRecord } from './records'

const settings = z.object({ encoding: z.enum(encodings), delimiter: z.string().length(1) })
type Settings = z.infer<typeof settings>

const sampleSize = 200_000

/** Text whose cells are parted by a mark: commas, semicolons, tabs, bars. */
export const delimited: Format<Settings> = {
	name: 'csv',
	words: 'delimited text',
	lines: true,
	recognise: () => true,
	settings,
	propose: async (source) => withDelimiter(source, findEncoding(source)),
	fitted: async (source, { encoding }) => withDelimiter(source, encodingAsKept(source, encoding)),
	choices: async () => [
		{ setting: 'delimiter', words: 'Cells are parted by', options: [...delimiters] },
		{ setting: 'encoding', words: 'Letters are written as', options: [...encodings] },
	],
	read: async (source, { encoding, delimiter }, out) => {
		let number = namedDelimiter(startOf(decoded(source, encoding))) ? -1 : 0
		const reader = recordReader(delimiter, (cells) => {
			number++
			if (number === 0) return
			for (let cell = 0; cell < cells.length; cell++) cells[cell] = plainCell(cells[cell] ?? '')
			out.row({ row: number, cells })
		})
		try {
			for (const text of decoded(source, encoding)) reader.write(text)
			reader.end()
		} catch (error) {
			if (error instanceof TornRecord) return refuseRecord(error)
			throw error
		}
	},
}

const withDelimiter = (source: Source, encoding: Settings['encoding']): Settings => ({
	encoding,
	delimiter: findDelimiter(startOf(decoded(source, encoding))),
})

/** A cell without the blanks round it, and without the apostrophe that keeps sheets from taking it for a formula. */
function plainCell(cell: string): string {
	const text = cell.trim()
	return text.charCodeAt(0) === 39 && /^'[=+@\t-]/.test(text) ? text.slice(1) : text
}

function refuseRecord({ why, record }: TornRecord): never {
	return why === 'it has no end'
		? refuse(
				`row ${record}`,
				`Row ${record} does not end within 10 million characters. Export the file again, a line for each row.`,
			)
		: refuse(
				`row ${record}`,
				`A quotation mark that opens in row ${record} is never closed. Close it, or take it away, and choose the file again.`,
			)
}

function startOf(pieces: Generator<string>): string {
	let text = ''
	for (const piece of pieces) {
		text += piece
		if (text.length >= sampleSize) break
	}
	return text.slice(0, sampleSize)
}
