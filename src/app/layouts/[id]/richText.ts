import { Extension, type JSONContent, Mark, mergeAttributes, Node } from '@tiptap/core'
import { Bold } from '@tiptap/extension-bold'
import { Document } from '@tiptap/extension-document'
import { Italic } from '@tiptap/extension-italic'
import { Paragraph as ParagraphNode } from '@tiptap/extension-paragraph'
import { Text } from '@tiptap/extension-text'
import { Underline } from '@tiptap/extension-underline'
import { UndoRedo } from '@tiptap/extensions'
import type { Fields } from '@/layout/fields'
import { type Said, sayIn } from '@/layout/languages'
import type { Inline, Paragraph } from '@/layout/schemaParts'

type Style = { bold?: boolean; italic?: boolean; underline?: boolean; size?: number; color?: string; display?: boolean }

/** A field within text: it can be put in and taken out, but not misspelt. */
const chipNode = (fields: Fields) =>
	Node.create({
		name: 'chip',
		group: 'inline',
		inline: true,
		atom: true,
		selectable: true,
		addAttributes: () => ({ inline: { default: null } }),
		parseHTML: () => [],
		renderHTML({ node, HTMLAttributes }) {
			const own = node.attrs.inline as Extract<Inline, { field: string }>
			const field = fields.get(own.field)
			return [
				'span',
				mergeAttributes(HTMLAttributes, {
					class: `mx-0.5 rounded-sm border px-1 ${field ? 'border-rule bg-plum-wash text-plum' : 'border-brick bg-brick-wash text-brick'}`,
					'data-chip': own.field,
				}),
				field ? field.name.toLowerCase() : `${own.field}?`,
			]
		},
	})

/** A fixed word that is written in several languages. */
const saidNode = Node.create({
	name: 'said',
	group: 'inline',
	inline: true,
	atom: true,
	selectable: true,
	addAttributes: () => ({ said: { default: null } }),
	parseHTML: () => [],
	renderHTML({ node, HTMLAttributes }) {
		return [
			'span',
			mergeAttributes(HTMLAttributes, {
				class: 'border-b border-dotted border-mute',
				title: 'A word in several languages',
			}),
			sayIn(node.attrs.said as Said, ['en']),
		]
	},
})

const lookMark = Mark.create({
	name: 'look',
	addAttributes: () => ({ size: { default: null }, color: { default: null }, display: { default: null } }),
	parseHTML: () => [],
	renderHTML: ({ mark }) => [
		'span',
		{
			class: 'border-b border-rule',
			title: [mark.attrs.size && `${mark.attrs.size} pt`, mark.attrs.color].filter(Boolean).join(', '),
		},
		0,
	],
})
const paragraphNode = ParagraphNode.extend({
	addAttributes: () => ({ align: { default: null }, list: { default: null }, above: { default: null } }),
})
/** Enter makes no paragraph where there is only one. */
const oneLine = Extension.create({ name: 'oneLine', addKeyboardShortcuts: () => ({ Enter: () => true }) })

const marksOf = ({ bold, italic, underline, size, color, display }: Style): JSONContent['marks'] => [
	...(bold ? [{ type: 'bold' }] : []),
	...(italic ? [{ type: 'italic' }] : []),
	...(underline ? [{ type: 'underline' }] : []),
	...(size !== undefined || color !== undefined || display
		? [{ type: 'look', attrs: { size: size ?? null, color: color ?? null, display: display ?? null } }]
		: []),
]
function styleOf(marks: JSONContent['marks']): Style {
	const style: Style = {}
	for (const { type, attrs } of marks ?? []) {
		if (type === 'bold') style.bold = true
		if (type === 'italic') style.italic = true
		if (type === 'underline') style.underline = true
		if (type === 'look') {
			if (typeof attrs?.size === 'number') style.size = attrs.size
			if (typeof attrs?.color === 'string') style.color = attrs.color
			if (attrs?.display) style.display = true
		}
	}
	return style
}

/** Paragraphs of a layout as the content of the editor of text; none gives one empty paragraph. */
export function toDoc(paragraphs: readonly Paragraph[]): JSONContent {
	const inlineOf = (run: Inline): JSONContent[] => {
		if ('field' in run) {
			const { bold, italic, underline, size, color, display, ...rest } = run
			return [
				{
					type: 'chip',
					attrs: { inline: rest },
					marks: marksOf({ bold, italic, underline, size, color, display } as Style),
				},
			]
		}
		const marks = marksOf(run as Style)
		if (typeof run.text !== 'string') return [{ type: 'said', attrs: { said: run.text }, marks }]
		return run.text === '' ? [] : [{ type: 'text', text: run.text, marks }]
	}
	const kept = paragraphs.length > 0 ? paragraphs : [{ runs: [] }]
	return {
		type: 'doc',
		content: kept.map(({ runs, align, list, above }: Paragraph) => ({
			type: 'paragraph',
			attrs: { align: align ?? null, list: list ?? null, above: above ?? null },
			content: runs.flatMap(inlineOf),
		})),
	}
}

/** The content of the editor of text as paragraphs of a layout. */
export function fromDoc(doc: JSONContent): Paragraph[] {
	return (doc.content ?? []).map(({ attrs, content }) => ({
		...(attrs?.align ? { align: attrs.align } : {}),
		...(attrs?.list ? { list: attrs.list } : {}),
		...(typeof attrs?.above === 'number' ? { above: attrs.above } : {}),
		runs: (content ?? []).flatMap((node): Inline[] => {
			const style = styleOf(node.marks)
			if (node.type === 'chip') return [{ ...(node.attrs?.inline as Inline), ...style }]
			if (node.type === 'said') return [{ text: node.attrs?.said as Said, ...style } as Inline]
			return node.text ? [{ text: node.text, ...style }] : []
		}),
	}))
}

/** What text in a layout can hold, for the editor of text. @param single one paragraph alone */
export const textExtensions = (fields: Fields, single: boolean) => [
	Document,
	paragraphNode,
	Text,
	Bold,
	Italic,
	Underline,
	UndoRedo,
	lookMark,
	saidNode,
	chipNode(fields),
	...(single ? [oneLine] : []),
]
