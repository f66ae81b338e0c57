/** How the numbers of a list's level are written: 1, a, A, i or I. */
export type NumberForm = 'decimal' | 'lower letter' | 'upper letter' | 'lower roman' | 'upper roman'

const romans: [number, string][] = [
	...([
		[1000, 'm'],
		[900, 'cm'],
		[500, 'd'],
		[400, 'cd'],
		[100, 'c'],
		[90, 'xc'],
	] as [number, string][]),
	...([
		[50, 'l'],
		[40, 'xl'],
		[10, 'x'],
		[9, 'ix'],
		[5, 'v'],
		[4, 'iv'],
		[1, 'i'],
	] as [number, string][]),
]

function roman(value: number): string {
	let left = value
	let out = ''
	for (const [worth, letters] of romans)
		while (left >= worth) {
			out += letters
			left -= worth
		}
	return out
}
/** a to z, then aa, bb: as text documents count. */
const letter = (value: number): string =>
	String.fromCharCode(97 + ((value - 1) % 26)).repeat(Math.floor((value - 1) / 26) + 1)

/** A number as a list writes it; figures where it cannot be written otherwise. */
export function numberAs(value: number, form: NumberForm): string {
	if (form === 'decimal' || value < 1 || value > 3999) return String(value)
	const small = form.endsWith('letter') ? letter(value) : roman(value)
	return form.startsWith('upper') ? small.toUpperCase() : small
}

/** A level of a list: where it begins, how it is written, and what stands around: "%1.%2)" names levels from 1. */
export type Level = { start: number; form: NumberForm; text: string }

/** Counts the paragraphs of lists; a deeper level begins anew below each of the one above it. */
export function listCounter(): {
	/** The label of the next paragraph of a list at a level, from 0. */
	next: (list: string, level: number, levels: readonly (Level | undefined)[], startAt?: number) => string
	begin: (list: string, level?: number) => void
} {
	const counts = new Map<string, (number | undefined)[]>()
	return {
		begin: (list, level = 0) => {
			counts.set(list, (counts.get(list) ?? []).slice(0, level))
		},
		next: (list, level, levels, startAt) => {
			const known = counts.get(list) ?? []
			const own = (known[level] ?? (levels[level]?.start ?? 1) - 1) + 1
			const now = [...known.slice(0, level), startAt ?? own]
			for (let above = 0; above < level; above++) now[above] ??= levels[above]?.start ?? 1
			counts.set(list, now)
			const text = levels[level]?.text ?? `%${level + 1}.`
			return text.replace(/%(\d)/g, (_, place: string) => {
				const at = Number(place) - 1
				return numberAs(now[at] ?? levels[at]?.start ?? 1, levels[at]?.form ?? 'decimal')
			})
		},
	}
}
