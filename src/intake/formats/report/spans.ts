const isBlank = (text: string | undefined): boolean => text === undefined || text === ' '
/** A text with single blanks, cut where it is long. */
export const squeezed = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, 120)

/** What stands from one column to another, and whether a word is cut at either. */
export function cutOut(text: string, from: number, to: number | null): { value: string; cut: boolean } {
	const end = to ?? text.length
	const cut =
		(!isBlank(text[from - 1]) && !isBlank(text[from]) && from > 0) ||
		(to !== null && to > from && !isBlank(text[end - 1]) && !isBlank(text[end]))
	return { value: text.slice(from, end).trim(), cut }
}

/** The words at the edges of a mark. */
export function around(text: string, from: number, to: number | null): string {
	const word = (place: number) => {
		let [start, end] = [place, place]
		while (!isBlank(text[start - 1])) start--
		while (!isBlank(text[end])) end++
		return text.slice(start, end)
	}
	const words = []
	if (from > 0 && !isBlank(text[from - 1]) && !isBlank(text[from])) words.push(word(from))
	if (to !== null && !isBlank(text[to - 1]) && !isBlank(text[to])) words.push(word(to))
	return words.join('” and “')
}

/** A text without what stands in some spans. */
export function without(text: string, spans: readonly (readonly [number, number])[]): string {
	let [left, place] = ['', 0]
	for (const [from, to] of [...spans].sort((a, b) => a[0] - b[0])) {
		if (from > place) left += ` ${text.slice(place, from)}`
		place = Math.max(place, to)
	}
	return squeezed(`${left} ${text.slice(place)}`)
}
