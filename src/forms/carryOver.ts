import { plainName } from '@/intake/kinds/field'
import { type Form, paragraphsIn, stacksOf, textOf } from './form'
import { type Answers, type Listed, type PlaceholderAnswer, type Source, understand } from './marks'
import type { Vocabulary } from './offers'
import type { Point } from './points'

/** How a mark of a newer form differs from the form before it; `was` is what it had been given there. */
export type Change =
	| { is: 'new'; key: string; name: string }
	| { is: 'gone'; name: string; was?: PlaceholderAnswer }
	| { is: 'moved'; key: string; name: string; from: Source | null; to: Source | null; was?: PlaceholderAnswer }
	| { is: 'renamed'; key: string; name: string; from: string; was?: PlaceholderAnswer }

/**
 * Carries what was said of a form over to a newer one. A mark keeps its field where it stands in the same row or on the paper as before,
 * under the same name; one that bears another name, or stands in another row, keeps nothing and is told, so that a person says it anew.
 */
export function carryOver(
	before: { form: Form; answers: Answers },
	form: Form,
	vocabulary: Vocabulary,
): { answers: Answers; changes: Change[] } {
	const old = understand(before.form, before.answers, vocabulary)
	const texts = stacksOf(form).flatMap(({ blocks }) => paragraphsIn(blocks).map(({ inlines }) => textOf(inlines)))
	const points = Object.fromEntries(
		Object.entries(before.answers.points).flatMap(([id, point]) => {
			const found = pointIn(texts, point)
			return found ? [[id, found]] : []
		}),
	)
	const base: Answers = { marks: {}, rows: before.answers.rows, apart: before.answers.apart, points }
	const now = understand(form, base, vocabulary)
	const rows = Object.fromEntries(Object.entries(base.rows).filter(([key]) => now.rows.some((row) => row.key === key)))
	const marks: Answers['marks'] = {}
	const changes: Change[] = []
	const left = old.marks.filter(({ key }) => !now.marks.some((one) => one.key === key))
	const taken = new Set<string>()
	const take = (one: Listed): PlaceholderAnswer | undefined => {
		taken.add(one.key)
		return before.answers.marks[one.key]
	}
	now.marks.forEach((mark, place) => {
		const same = old.marks.find(({ key }) => key === mark.key)
		if (same) {
			const answer = before.answers.marks[mark.key]
			if (answer) marks[mark.key] = answer
			return
		}
		const moved = left.find((one) => !taken.has(one.key) && plainName(one.name) === plainName(mark.name))
		if (moved) {
			const was = take(moved)
			changes.push({
				is: 'moved',
				key: mark.key,
				name: mark.name,
				from: moved.source,
				to: mark.source,
				...(was ? { was } : {}),
			})
			return
		}
		const renamed = left.find(
			(one) => !taken.has(one.key) && one.source === mark.source && stoodThere(one, old.marks, mark, now.marks, place),
		)
		if (renamed) {
			const was = take(renamed)
			changes.push({ is: 'renamed', key: mark.key, name: mark.name, from: renamed.name, ...(was ? { was } : {}) })
			return
		}
		changes.push({ is: 'new', key: mark.key, name: mark.name })
	})
	for (const one of left) {
		if (taken.has(one.key)) continue
		const was = before.answers.marks[one.key]
		changes.push({ is: 'gone', name: one.name, ...(was ? { was } : {}) })
	}
	return { answers: { marks, rows, apart: base.apart, points }, changes }
}

/** Whether a mark that is gone stood where a new one stands: behind the same words, or between the same neighbours. */
function stoodThere(
	gone: Listed,
	old: readonly Listed[],
	mark: Listed,
	now: readonly Listed[],
	place: number,
): boolean {
	const [then, today] = [gone.spots[0]?.before.trim() ?? '', mark.spots[0]?.before.trim() ?? '']
	if (then !== '' && then === today) return true
	const at = old.indexOf(gone)
	const keys = (list: readonly Listed[], index: number) => [list[index - 1]?.key, list[index + 1]?.key]
	const [before, after] = keys(old, at)
	const [left, right] = keys(now, place)
	return before === left && after === right && then === today
}

/** Words that were pointed at, in the newer form: in the same paragraph, else where they stand once behind the same words. */
function pointIn(texts: readonly string[], point: Point): Point | null {
	if (texts.includes(point.paragraph)) return point
	const words = point.paragraph.slice(point.from, point.to)
	const lead = point.paragraph.slice(Math.max(0, point.from - 12), point.from)
	const found = texts.flatMap((text) => {
		const at = text.indexOf(lead + words)
		return at >= 0 ? [{ paragraph: text, from: at + lead.length, to: at + lead.length + words.length }] : []
	})
	return found.length === 1 ? (found[0] ?? null) : null
}
