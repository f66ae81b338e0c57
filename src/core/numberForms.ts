import { isWordBefore } from './references'

/**
 * The forms of a number by which other ways of writing it are found: spaces and marks left out, groups of figures without zeros before them,
 * words such as “Inv” before it left out; as groups ("2026-01" is 2026 and 1), as one run ("202601"), and its run without letters before it.
 */
export type NumberForms = { exact: string; groups: string; run: string; figures: string }

/** The forms of a number of a paper. */
export function numberForms(number: string): NumberForms {
	const exact = number.trim().toUpperCase()
	const all = exact.normalize('NFKC').match(/\p{L}+|\p{N}+/gu) ?? []
	const first = all.findIndex((part, place) => place === all.length - 1 || !isWordBefore(part))
	const parts = all.slice(Math.max(0, first))
	const run = parts.join('').replace(/^(\p{L}*)0+(?=\p{N})/u, '$1')
	return {
		exact,
		groups: parts.map((part) => part.replace(/^0+(?=\p{N})/u, '')).join(' '),
		run,
		figures: run.replace(/^\p{L}+/u, '').replace(/^0+(?=\p{N})/u, ''),
	}
}

/** How near two numbers are: 3 the same, 2 the same written otherwise, 1 the same but that one has letters before it, 0 neither. */
export function nearness(a: NumberForms, b: NumberForms): 0 | 1 | 2 | 3 {
	if (a.exact === b.exact) return 3
	if (a.run === '' || b.run === '') return 0
	if (a.groups === b.groups) return 2
	// As one run where only one of them is parted: 1-01 is not 10-1.
	const parts = ({ groups }: NumberForms) => groups.split(' ').length
	if (a.run === b.run && parts(a) !== parts(b)) return 2
	const bare = a.figures === a.run || b.figures === b.run
	return bare && a.run !== b.run && a.figures !== '' && a.figures === b.figures ? 1 : 0
}

/** The keys under which numbers that are near each other at all meet. */
export const numberKeys = ({ exact, groups, run, figures }: NumberForms): string[] =>
	[`exact ${exact}`, `groups ${groups}`, `run ${run}`, `figures ${figures}`].filter((key) => !key.endsWith(' '))

/** The figures of a number but zeros: two that are near each other have the same, so that most that are not are passed over at once. */
export const figuresOf = (number: string): string => number.replace(/[^1-9]/g, '')
