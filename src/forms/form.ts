import type { Format } from '@/layout/schemaParts'

// A text document as a firm wrote it, whatever its format: blocks of text, tables and pictures, with the marks in which values are to
// stand. Lengths are points, colours six hexadecimal digits.

export type Style = {
	bold?: true
	italic?: true
	underline?: true
	size?: number
	color?: string
	/** The typeface as the form names it. */
	face?: string
}

/** How a mark was written: a field of the format's own, a control to be filled in, a name in brackets, or words that a person pointed at. */
export type Manner = 'field' | 'control' | 'brackets' | 'pointed'
export type Placeholder = {
	is: 'mark'
	manner: Manner
	/** Its name, without brackets and signs. */
	name: string
	/** As it stands in the form. */
	shown: string
	/** What the form itself says of how the value is written. */
	format?: Format
	before?: string
	after?: string
	/** It opens or closes what is repeated, and says nothing itself. */
	edge?: 'begin' | 'end'
	style: Style
}
export type Inline =
	| { is: 'text'; text: string; style: Style }
	| Placeholder
	/** A number of the page itself, or of how many there are: what the format reckons and no mark for us. */
	| { is: 'page'; of: 'page' | 'pages'; style: Style }
	| { is: 'picture'; sha256: string; width: number; height: number; mark?: string }
	| { is: 'tab' }
	| { is: 'break' }

export type Tab = { at: number; align: 'left' | 'center' | 'right' }
export type Align = 'left' | 'center' | 'right'
export type Paragraph = {
	is: 'paragraph'
	id: string
	inlines: Inline[]
	align?: Align
	above?: number
	below?: number
	left?: number
	right?: number
	/** Height of its lines as a multiple of their size. */
	lead?: number
	list?: 'dots' | 'numbers'
	/** The number of a paragraph of a list as it stands before it: "3.", "b)", "2.1". */
	label?: string
	tabs?: Tab[]
	/** Begins a page. */
	page?: true
	keep?: true
	fill?: string
	ruleAbove?: Rule
	ruleBelow?: Rule
}
export type Rule = { thickness: number; color: string }
export type Cell = {
	blocks: Block[]
	/** How many columns of the table it takes. */
	span: number
	fill?: string
	/** Goes on with the cell above it. */
	goesOn?: true
}
export type Row = {
	cells: Cell[]
	/** Repeated at the head of each page. */
	head?: true
	/** The line above or below its cells, where it has one of its own. */
	rule?: Rule
	/** The form itself says that it is repeated: by a section of that name. */
	repeated?: string
}
export type Table = {
	is: 'table'
	id: string
	/** Widths of its columns; they need not fill the text's width. */
	columns: number[]
	rows: Row[]
	left?: number
	align?: Align
	/** Which lines are drawn: round and between all, between rows, or none. */
	lines: 'grid' | 'rows' | 'none'
	rule?: Rule
	/** Between a cell's edge and its text, across. */
	pad: number
}
export type Block = Paragraph | Table

/** Something that could not be carried over as it was, at the block where it stood. */
export type Note = { block: string; words: string }

/** What comes with pages; `first` alone where the first page has its own. */
export type Band = { every: Block[]; first?: Block[] }
export type Form = {
	/** Which format it was written in. */
	from: 'docx' | 'odt' | 'html'
	page: {
		width: number
		height: number
		/** From the paper's edge to the text. */
		margins: { top: number; right: number; bottom: number; left: number }
		/** From the paper's edge to its running head and foot. */
		headAt: number
		footAt: number
	}
	/** The language that it says it is written in, as "de-AT"; empty where it says none. */
	language: string
	head: Band
	body: Block[]
	foot: Band
	notes: Note[]
}
/** A picture of a form, with its bytes. */
export type Picture = { sha256: string; type: 'image/png' | 'image/jpeg' | 'image/svg+xml'; bytes: Buffer }

/** A form as it was read, and its pictures. */
export type ReadForm = { form: Form; pictures: Picture[] }

/** Every paragraph of a stack of blocks, those within tables too, in reading order. */
export const paragraphsIn = (blocks: readonly Block[]): Paragraph[] =>
	blocks.flatMap((block) =>
		block.is === 'paragraph'
			? [block]
			: block.rows.flatMap(({ cells }) => cells.flatMap(({ blocks }) => paragraphsIn(blocks))),
	)

/** A form with each of its paragraphs made another. */
export function mapParagraphs(form: Form, make: (paragraph: Paragraph) => Paragraph): Form {
	const map = (blocks: readonly Block[]): Block[] =>
		blocks.map((block) =>
			block.is === 'paragraph'
				? make(block)
				: {
						...block,
						rows: block.rows.map((row) => ({
							...row,
							cells: row.cells.map((cell) => ({ ...cell, blocks: map(cell.blocks) })),
						})),
					},
		)
	const band = (own: Band): Band => ({ every: map(own.every), ...(own.first ? { first: map(own.first) } : {}) })
	return { ...form, head: band(form.head), body: map(form.body), foot: band(form.foot) }
}

/** The stacks of a form in reading order, each with its name. */
export const stacksOf = (form: Form): { band: 'head' | 'body' | 'foot'; blocks: Block[] }[] => [
	...(form.head.first ? [{ band: 'head' as const, blocks: form.head.first }] : []),
	{ band: 'head', blocks: form.head.every },
	{ band: 'body', blocks: form.body },
	...(form.foot.first ? [{ band: 'foot' as const, blocks: form.foot.first }] : []),
	{ band: 'foot', blocks: form.foot.every },
]

/** What a paragraph says, its marks as they stand in the form. */
export const textOf = (inlines: readonly Inline[]): string =>
	inlines
		.map((inline) =>
			inline.is === 'text' ? inline.text : inline.is === 'mark' ? inline.shown : inline.is === 'picture' ? '' : ' ',
		)
		.join('')

/** Whether two styles look the same. */
export const sameStyle = (a: Style, b: Style): boolean =>
	a.bold === b.bold &&
	a.italic === b.italic &&
	a.underline === b.underline &&
	a.size === b.size &&
	a.color === b.color &&
	a.face === b.face

/** Of the lines that were drawn, the one that is drawn most. */
export function usualRule(rules: readonly Rule[]): Rule | undefined {
	const counts = new Map<string, { rule: Rule; count: number }>()
	for (const rule of rules) {
		const key = `${rule.thickness} ${rule.color}`
		counts.set(key, { rule, count: (counts.get(key)?.count ?? 0) + 1 })
	}
	return [...counts.values()].sort((a, b) => b.count - a.count)[0]?.rule
}
