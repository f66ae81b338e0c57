import { type Form, type Inline, mapParagraphs, textOf } from './form'

/** What a clerk pointed at: words of a paragraph, found again by what it says. */
export type Point = { paragraph: string; from: number; to: number }

/** The form with the words that were pointed at as marks among it, wherever a paragraph says what it then said. */
export function withPoints(form: Form, points: Record<string, Point>): Form {
	const wanted = Object.values(points)
	if (wanted.length === 0) return form
	return mapParagraphs(form, (paragraph) => {
		const text = textOf(paragraph.inlines)
		const own = wanted.filter((point) => point.paragraph === text)
		return own.length > 0 ? { ...paragraph, inlines: pointed(paragraph.inlines, own) } : paragraph
	})
}

function pointed(inlines: readonly Inline[], points: readonly Point[]): Inline[] {
	let out = [...inlines]
	for (const { from, to } of points) {
		const next: Inline[] = []
		let at = 0
		let mark: Extract<Inline, { is: 'mark' }> | null = null
		for (const inline of out) {
			const length = textOf([inline]).length
			const [own, end] = [at, at + length]
			at = end
			if (inline.is !== 'text' || end <= from || own >= to) {
				next.push(inline)
				continue
			}
			const [left, words, right] = [
				inline.text.slice(0, Math.max(0, from - own)),
				inline.text.slice(Math.max(0, from - own), to - own),
				inline.text.slice(Math.max(0, to - own)),
			]
			if (left) next.push({ ...inline, text: left })
			if (mark) {
				mark.shown += words
				mark.name = mark.shown
			} else {
				mark = { is: 'mark', manner: 'pointed', name: words, shown: words, style: inline.style }
				next.push(mark)
			}
			if (right) next.push({ ...inline, text: right })
		}
		out = next
	}
	return out
}
