import type { Source } from '@/archive/source'
import { attempt, type Result, refuse } from '@/core/refusal'
import { delimited } from './delimited'
import type { Format } from './format'
import { json } from './json'
import { report } from './report'
import { workbook } from './workbook'

/** Every format, in the order in which a source is tried with them; the last takes all that is text. */
export const formats: readonly Format[] = [workbook as Format, json as Format, report as Format, delimited as Format]

/** A format by its name; undefined for one that is not read. */
export const formatNamed = (name: string): Format | undefined => formats.find((format) => format.name === name)

// What is often chosen and is none of them, by how it begins, with the remedy.
const strangers: [RegExp, string][] = [
	[
		/^\u00d0\u00cf[\s\S]\u00e0/,
		'It is a workbook of an old kind, or one locked with a password. Save it as XLSX without a password, and choose that.',
	],
	[/^%PDF/, 'It is a PDF. Bring in the data that it was made from: a sheet saved as XLSX or CSV.'],
	[/^\x89PNG|^\xff\xd8\xff|^GIF8/, 'It is a picture. Save the sheet as XLSX or CSV and choose that.'],
	[/^\{\\rtf/, 'It is a text document. Save the sheet as XLSX or CSV and choose that.'],
	[
		/^\s*<(!doctype|html|table|\?xml)/i,
		'It is a web page or XML, whatever its name says. Save it as XLSX or CSV and choose that.',
	],
]

/** The format that a source is in, by what it holds (READING, rule 1). Refused: an empty file, and what is none of ours. */
export function recognise(source: Source): Result<Format> {
	return attempt(() => {
		if (source.size === 0) return refuse('file', 'The file is empty. Export it again and choose the new file.')
		const start = source.read(0, 200).toString('latin1')
		for (const [shape, words] of strangers) if (shape.test(start)) return refuse('file', words)
		const format = formats.find((one) => one.recognise(source))
		return format ?? refuse('file', 'It is in no format that can be read. Save the sheet as XLSX or CSV.')
	})
}
