import { z } from 'zod'
import { companions } from '@/core/companions'
import { fileName, pathParts } from '@/core/fileName'
import type { OwnField } from '@/core/ownFields'
import { hasField } from './fields'
import type { At, Content, Field, PaperKind } from './fieldTypes'
import { languagesFor } from './languages'
import { formatSchema, type Inline } from './schemaParts'
import { compileInlines, fieldsOf } from './values'

// How papers of a kind leave: what their files are called and where they lie, how many are printed, and what goes beside the PDF.

/** A part of a name: free words, or a field. */
const partSchema = z.union([
	z.strictObject({ text: z.string().min(1).max(60) }),
	z.strictObject({ field: z.string().min(1).max(120), format: formatSchema.optional() }),
])
export type Part = z.infer<typeof partSchema>
const parts = z.array(partSchema).max(12)

export const leavingSchema = z.object({
	/** Of the file, without its ending; of the folder that it lies in, "/" in words beginning another; of the PDF's title. Empty: as usual. */
	file: parts.default([]),
	folder: parts.default([]),
	title: parts.default([]),
	/** How many are printed of each. */
	copies: z.number().int().min(1).max(9).default(1),
	/** Whether all but the first bear the mark "Copy", and what is printed again. */
	marked: z.boolean().default(true),
	/** What is made beside the PDF. */
	beside: z.array(z.enum(companions)).default([]),
	/** Whether that goes with the message, or is filed alone. */
	attached: z.boolean().default(true),
})
export type Leaving = z.infer<typeof leavingSchema>
export const usualLeaving: Leaving = leavingSchema.parse({})

/** Fields that a name can have: what is known of a whole paper before it is drawn. */
export const nameFields = (kind: PaperKind, ownFields: readonly OwnField[]): Field[] =>
	[...fieldsOf({ reckoned: [] }, ownFields).values()].filter((field) => isNameField(field) && hasField(field, kind))
const isNameField = ({ of, type, group }: Field): boolean =>
	of === 'paper' && type !== 'picture' && type !== 'lines' && group !== 'Page'

const fields = fieldsOf({ reckoned: [] })

/** Each part as it is on a paper; days as 2026-10-31 and figures without signs, unless a part says otherwise. */
function written(own: readonly Part[], content: Content): { text: string; free: boolean }[] {
	const at: At = {
		...{ content, place: -1, row: 0, page: 1, pages: 1 },
		languages: languagesFor(content),
	}
	const inlines = own.map((part): Inline => {
		if ('text' in part) return part
		const type = fields.get(part.field)?.type
		const usual = type === 'day' ? { day: 'iso' as const } : type === 'money' ? { money: 'none' as const } : {}
		return { field: part.field, format: { ...usual, ...part.format } }
	})
	return compileInlines(inlines, fields).map((inline) => ({ text: inline.write(at) ?? '', free: !inline.isField }))
}

/** What a paper's file and title are called, where the firm says it. `file` has its folder and no ending. */
type Filed = { file?: string; title?: string }

/**
 * Names of a numbered paper by their parts; what the firm leaves as usual is left out. Made so that every file system takes them; a
 * revision says which it is, since it bears the number of the first.
 */
export function filedAs(content: Content, leaving: Leaving, usualFolder: string): Filed {
	const filed: Filed = {}
	const { revision } = content
	const revised = (own: readonly Part[]) =>
		revision > 1 && !own.some((part) => 'field' in part && part.field === 'revision') ? ` rev. ${revision}` : ''
	if (leaving.file.length > 0 || leaving.folder.length > 0) {
		const name =
			leaving.file.length > 0
				? fileName([`${joined(written(leaving.file, content))}${revised(leaving.file)}`], '')
				: fileName([`${content.number}${revised([])}`, content.customer.name], '')
		const folders = leaving.folder.length > 0 ? pathParts(written(leaving.folder, content)) : [usualFolder]
		filed.file = [...folders, name.replace(/\.$/, '')].join('/')
	}
	if (leaving.title.length > 0) filed.title = joined(written(leaving.title, content))
	return filed
}

const joined = (own: { text: string }[]): string =>
	own
		.map(({ text }) => text.replace(/\n/g, ', '))
		.join('')
		.replace(/\s+/g, ' ')
		.trim()

/** Papers that would have the same file, whatever the case of its letters: the name, and those that bear it. */
export function sameNames(named: readonly { file: string; paper: string }[]): { file: string; papers: string[] }[] {
	const by = new Map<string, { file: string; papers: string[] }>()
	for (const { file, paper } of named) {
		const key = file.normalize('NFC').toLowerCase()
		const known = by.get(key)
		if (known) known.papers.push(paper)
		else by.set(key, { file, papers: [paper] })
	}
	return [...by.values()].filter(({ papers }) => papers.length > 1)
}
