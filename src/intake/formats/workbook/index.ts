import { z } from 'zod'
import { refuse } from '@/core/refusal'
import type { SheetRow } from '../../cell'
import { findHead } from '../../head'
import type { Source } from '../../source'
import type { Format } from '../format'
import { openWorkbook } from './open'
import { readSheet, type Workbook } from './sheet'

const hiddenRows = ['refused', 'taken'] as const
const settings = z.object({
	sheet: z.string(),
	/** What becomes of rows that the sheet hides, by a filter say: whether they are meant, only a person can tell. */
	hidden: z.enum(hiddenRows).default('refused'),
})
type Settings = z.infer<typeof settings>

const using = async <T>(source: Source, work: (book: Workbook) => Promise<T>): Promise<T> => {
	const book = await openWorkbook(source)
	try {
		return await work(book)
	} finally {
		book.archive.close()
	}
}

const hiddenTrouble = 'The sheet hides this row. Leave it out, or say above that rows which it hides are taken.'

/** A workbook (Office Open XML, ECMA-376): one of its sheets, each cell by the value that it keeps. */
export const workbook: Format<Settings> = {
	name: 'xlsx',
	words: 'a workbook',
	recognise: (source) => source.read(0, 4).equals(Buffer.from('PK\u0003\u0004', 'latin1')),
	settings,
	propose: (source) =>
		using(source, async (book) => {
			const inSight = book.sheets.filter(({ hidden }) => !hidden)
			for (const { name, path } of inSight) {
				const rows: SheetRow[] = []
				await readSheet(book, path, (row) => rows.push(row), 60)
				if (findHead(rows) !== null) return { sheet: name, hidden: 'refused' }
			}
			const [first] = inSight
			return first
				? { sheet: first.name, hidden: 'refused' }
				: refuse('file', 'The workbook has no sheet that can be seen. Show one, and save it again.')
		}),
	choices: (source) =>
		using(source, async ({ sheets }) => [
			...(sheets.length > 1
				? [{ setting: 'sheet' as const, words: 'Sheet', options: sheets.map(({ name }) => name) }]
				: []),
			{ setting: 'hidden' as const, words: 'Rows that it hides are', options: [...hiddenRows] },
		]),
	read: (source, { sheet, hidden }, out) =>
		using(source, async (book) => {
			const found = book.sheets.find(({ name }) => name === sheet)
			if (!found)
				return refuse(
					'file',
					`The workbook has no sheet “${sheet}”. It has ${book.sheets.map(({ name }) => `“${name}”`).join(', ')}.`,
				)
			await readSheet(book, found.path, (row, isHidden) =>
				out.row(isHidden && hidden === 'refused' ? { ...row, trouble: hiddenTrouble } : row),
			)
		}),
}
