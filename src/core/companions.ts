// Files that are made beside a document's PDF, from the same frozen content: one record a format. What writes each stands in
// `src/companions`, by the same names.

const formats = {
	docx: {
		name: 'text document (DOCX)',
		type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
	},
	html: { name: 'page (HTML)', type: 'text/html; charset=utf-8' },
	json: { name: 'data (JSON)', type: 'application/json' },
} satisfies Record<string, { name: string; type: string }>

/** A format of a file beside the PDF; it is the ending of its name too. */
export type Companion = keyof typeof formats
/** What people call each, and the media type it is sent as. */
export const companionRules: Readonly<Record<Companion, { name: string; type: string }>> = formats
export const companions = Object.keys(formats).filter((name): name is Companion => name in formats)

/** The formats that a list with commas between names, in their order. */
export const companionsIn = (list: string): Companion[] => {
	const named = list.split(',')
	return companions.filter((format) => named.includes(format))
}
/** Whether a text is a list of formats, in any order; the empty text is one. */
export const isCompanionList = (list: string): boolean =>
	list === '' || companionsIn(list).length === list.split(',').length

/** Every choice of at least one format, as lists; those of fewer formats with the first of them come first. */
export function companionLists(): string[] {
	const lists: string[] = []
	for (const format of companions) lists.push(format, ...lists.map((list) => `${list},${format}`))
	return lists
}
