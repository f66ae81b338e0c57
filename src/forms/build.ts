import { createHash } from 'node:crypto'
import { refuse } from '@/core/refusal'
import { unclosedIn, withBrackets } from './brackets'
import { type Block, type Inline, type Note, type Paragraph, type Picture, paragraphsIn, textOf } from './form'

/** A form being read: its pictures and what could not be carried over are gathered as they come. */
export type Builder = {
	notes: Note[]
	pictures: Map<string, Picture>
	/** The id of the block that is read just now. */
	block: string
	nextId: (letter: 'p' | 't') => string
	/** Says what could not be carried over at the block in view; the same is said once a block. */
	note: (words: string) => void
	/** Keeps a picture; null, with a note, for one that cannot be printed. */
	picture: (name: string, bytes: Buffer) => string | null
}

const types: [Picture['type'], (bytes: Buffer) => boolean][] = [
	['image/png', (bytes) => bytes.readUInt32BE(0) === 0x89504e47],
	['image/jpeg', (bytes) => bytes.readUInt16BE(0) === 0xffd8],
	[
		'image/svg+xml',
		(bytes) => /^\s*(<\?xml[^>]*>\s*)?(<!--.*?-->\s*)*<svg[\s>]/s.test(bytes.toString('utf8', 0, 2000)),
	],
]
const largestPicture = 8_000_000

/**
 * What a form is put together with while it is read: ids of its parts, pictures, notes of what was left out.
 * @throws a refusal (`refuse`) where the form has more parts than a form of paper has
 */
export function newBuilder(): Builder {
	const notes: Note[] = []
	const pictures = new Map<string, Picture>()
	let count = 0
	const builder: Builder = {
		notes,
		pictures,
		block: '',
		nextId: (letter) => {
			if (++count > mostIds) refuse('file', tooLong(`more than ${mostIds.toLocaleString('en')}`, ''))
			return `${letter}${count}`
		},
		note: (words) => {
			if (!notes.some((one) => one.block === builder.block && one.words === words))
				notes.push({ block: builder.block, words })
		},
		picture: (name, bytes) => {
			const type = bytes.length < 8 ? undefined : types.find(([, is]) => is(bytes))?.[0]
			const called = name === '' ? 'A picture' : `The picture “${name.slice(0, 60)}”`
			if (!type) {
				builder.note(`${called} is neither PNG, JPEG nor SVG and is left out. Save it as PNG in the form.`)
				return null
			}
			if (bytes.length > largestPicture) {
				builder.note(`${called} is over 8 MB and is left out. Make it smaller in the form.`)
				return null
			}
			const sha256 = createHash('sha256').update(bytes).digest('hex')
			pictures.set(sha256, { sha256, type, bytes })
			return sha256
		},
	}
	return builder
}

/** A paragraph's parts with the marks in brackets among them found; says where one has no end. */
export function finished(paragraph: Paragraph, builder: Builder): Paragraph {
	const inlines = withBrackets(joinText(paragraph.inlines))
	const open = unclosedIn(textOf(inlines.filter(({ is }) => is === 'text')))
	if (open) builder.note(`“${open}” is opened and not closed: it stands as text.`)
	return { ...paragraph, inlines }
}

const joinText = (inlines: readonly Inline[]): Inline[] =>
	inlines.filter((inline) => inline.is !== 'text' || inline.text !== '')

/** Blocks that hang on a paragraph, above it: where it begins a page, they do. */
export function withHanging(hanging: readonly Block[], own: readonly Block[]): Block[] {
	const [paragraph, ...others] = own
	const [first, ...rest] = hanging
	if (paragraph?.is !== 'paragraph' || !paragraph.page || first?.is !== 'paragraph') return [...hanging, ...own]
	const { page, ...below } = paragraph
	return [{ ...first, page }, ...rest, below, ...others]
}

/** From so many paragraphs on it is no form. */
const most = 2500
const mostMarks = 1000
/** Where counting ends: an upper bound of paragraphs and tables while a text is read. */
const mostIds = 30_000

const countBlocks = (blocks: readonly Block[]): number =>
	blocks.reduce(
		(sum, block) =>
			sum +
			1 +
			(block.is === 'table'
				? block.rows.reduce(
						(all, { cells }) => all + cells.reduce((own, { blocks }) => own + countBlocks(blocks), 0),
						0,
					)
				: 0),
		0,
	)

const tooLong = (count: string, about: string): string =>
	`The form has ${count} paragraphs${about}; up to ${most.toLocaleString('en')} are read. Keep in it what every customer gets, and send the rest beside it.`

/** Refuses a text of more paragraphs, or of more marks, than a form has. */
export function notTooLong(blocks: readonly Block[]): void {
	const count = countBlocks(blocks)
	if (count > most) refuse('file', tooLong(count.toLocaleString('en'), `, about ${Math.round(count / 40)} pages`))
	const marks = paragraphsIn(blocks).reduce(
		(sum, { inlines }) => sum + inlines.filter((inline) => inline.is === 'mark').length,
		0,
	)
	if (marks > mostMarks)
		refuse(
			'file',
			`The form has ${marks.toLocaleString('en')} marks; up to ${mostMarks.toLocaleString('en')} are read. Choose the form itself, not what was made with it.`,
		)
}
