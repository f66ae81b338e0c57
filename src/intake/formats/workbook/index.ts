import { z } from 'zod'
import type { Source } from '@/archive/source'
import { refuse } from '@/core/refusal'
import { type SheetRow, textOf } from '../../cell'
import { findHead } from '../../head'
import type { Format, Kept } from '../format'
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

const hiddenTrouble = 'The sheet hides this row. Leave it out, or set “Rows that it hides are” to taken.'

const headWithin = 60
async function headOf(book: Workbook, path: string): Promise<string[] | null> {
	const rows: SheetRow[] = []
	await readSheet(book, path, (row) => rows.push(row), headWithin)
	const place = findHead(rows)
	return place === null ? null : (rows[place]?.cells ?? []).map(textOf)
}

/** The first sheet in sight that has a head row, else the first. */
async function sheetWithHead(book: Workbook): Promise<string> {
	const inSight = book.sheets.filter(({ hidden }) => !hidden)
	for (const { name, path } of inSight) if ((await headOf(book, path)) !== null) return name
	return inSight[0]?.name ?? refuse('file', 'The workbook has no sheet that can be seen. Show one, and save it again.')
}

async function knownSheet(book: Workbook, kept: readonly Kept[]) {
	const namesOn = async (sheet: string) => {
		const path = book.sheets.find(({ name }) => name === sheet)?.path
		return path === undefined ? [] : ((await headOf(book, path)) ?? [])
	}
	const first = await namesOn(await sheetWithHead(book))
	if (kept.some(({ fits }) => fits(first))) return null
	for (const [place, { settings: own, fits }] of kept.entries()) {
		const { data } = settings.safeParse(own)
		if (data && fits(await namesOn(data.sheet))) return { place, settings: data }
	}
	return null
}

/** A workbook (Office Open XML, ECMA-376): one of its sheets, each cell by the value that it keeps. */
export const workbook: Format<Settings> = {
	name: 'xlsx',
	words: 'a workbook',
	lines: false,
	recognise: (source) => source.read(0, 4).equals(Buffer.from('PK\u0003\u0004', 'latin1')),
	settings,
	propose: (source) => using(source, async (book) => ({ sheet: await sheetWithHead(book), hidden: 'refused' })),
	// The sheet has another name each month, or there is one more of them.
	fitted: (source, { hidden }) => using(source, async (book) => ({ sheet: await sheetWithHead(book), hidden })),
	// A reader may be of another sheet than the first that has a head, where that is none that any reader knows.
	knows: (source, kept) =>
		workbook.recognise(source)
			? using(source, (book) => knownSheet(book, kept)).catch(() => null) // What cannot be opened says so when it is read.
			: Promise.resolve(null),
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
