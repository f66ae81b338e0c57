import type { Inline as LayoutInline } from '@/layout/schemaParts'
import type { Block, Inline, Paragraph } from './form'
import type { Looks } from './looks'
import { type Making, mostRuns, note } from './making'

/** A paragraph's parts as runs of a layout. Pictures and tabs are dealt with before. */
export function runsOf(paragraph: Paragraph, making: Making, from = 0, to = paragraph.inlines.length): LayoutInline[] {
	const runs: LayoutInline[] = []
	const text = (words: string, style: object) => {
		for (let at = 0; at < words.length; at += 3900) {
			const last = runs.at(-1)
			const own = words.slice(at, at + 3900)
			if (
				last &&
				'text' in last &&
				typeof last.text === 'string' &&
				last.text.length + own.length < 3900 &&
				sameLook(last, style)
			)
				last.text += own
			else runs.push({ text: own, ...style })
		}
	}
	for (let index = from; index < to; index++) {
		const inline = paragraph.inlines[index]
		if (!inline) continue
		if (inline.is === 'text') text(inline.text, making.looks.style(inline.style))
		else if (inline.is === 'break') text('\n', {})
		else if (inline.is === 'tab') text('  ', {})
		else if (inline.is === 'page') {
			if (making.band === 'body')
				note(
					making,
					paragraph.id,
					'A page number within the text is left out: pages are counted at their head or foot.',
				)
			else runs.push({ field: inline.of, ...making.looks.style(inline.style) })
		} else if (inline.is === 'mark') runs.push(...markRuns(inline, paragraph.id, index, making))
	}
	return runs
}

function markRuns(
	mark: Extract<Inline, { is: 'mark' }>,
	paragraph: string,
	index: number,
	making: Making,
): LayoutInline[] {
	const style = making.looks.style(mark.style)
	const key = making.understood.keyAt.get(`${paragraph} ${index}`)
	// What opens or closes a repetition says nothing itself.
	if (key === undefined && mark.edge) {
		if (!making.understood.rowOfBlock.get(paragraph)?.source)
			note(
				making,
				paragraph,
				`What stands between ${mark.edge === 'begin' ? mark.shown : 'a mark that opens'} and ${mark.edge === 'end' ? mark.shown : 'its end'} stands once, and always. Repeat it as a row of a table, or show the piece on a condition.`,
			)
		return []
	}
	const answer = key === undefined ? undefined : making.answers.marks[key]
	if (!answer || ('is' in answer && answer.is === 'text')) return [{ text: mark.shown, ...style }]
	if ('is' in answer) return []
	const type = making.fields.get(answer.field)?.type
	const { day, ...others } = mark.format ?? {}
	const format = { ...others, ...(day && type === 'day' ? { day } : {}) }
	return [
		{
			field: answer.field,
			...(Object.keys(format).length > 0 ? { format } : {}),
			...(mark.before ? { before: mark.before } : {}),
			...(mark.after ? { after: mark.after } : {}),
			...style,
		},
	]
}

const sameLook = (run: object, style: object): boolean => {
	const { text: _text, ...own } = run as { text: string }
	return JSON.stringify(own) === JSON.stringify(style)
}

/** Whether a block is a paragraph that shows nothing. */
export const isBlank = (block: Block): boolean =>
	block.is === 'paragraph' &&
	block.inlines.every((inline) => inline.is === 'text' && inline.text.trim() === '') &&
	!block.ruleAbove &&
	!block.ruleBelow
/** The largest size of text in a paragraph, points; the usual size where it sets none. */
export const sizeOf = (paragraph: Paragraph, looks: Looks): number => {
	const sizes = paragraph.inlines.flatMap((inline) =>
		'style' in inline && inline.style.size ? [inline.style.size] : [],
	)
	return sizes.length > 0 ? Math.max(...sizes) : looks.text.size
}
/** Whether a paragraph is one among the paragraphs of a piece of words. */
export const isPlain = (paragraph: Paragraph): boolean =>
	!paragraph.left &&
	!paragraph.right &&
	!paragraph.fill &&
	!paragraph.ruleAbove &&
	!paragraph.ruleBelow &&
	!paragraph.page &&
	paragraph.inlines.every(({ is }) => is !== 'picture' && is !== 'tab')

/** Runs in lots that a paragraph of a layout holds. */
export const inLots = (runs: readonly LayoutInline[]): LayoutInline[][] =>
	Array.from({ length: Math.max(1, Math.ceil(runs.length / mostRuns)) }, (_, at) =>
		runs.slice(at * mostRuns, (at + 1) * mostRuns),
	)
