import { type Spot, shapeOf } from './marks'

/** Words of a line, each with the columns from its first to after its last; what stands one blank apart is one. */
export function segments(text: string): { text: string; from: number; to: number }[] {
	return [...text.matchAll(/\S+(?: \S+)*/g)].map((match) => ({
		text: match[0],
		from: match.index,
		to: match.index + match[0].length,
	}))
}

/** Whether a text is known by its shape: it is mostly a number. */
const isNumber = (text: string): boolean => /\d/.test(text) && text.replace(/[^\p{L}]/gu, '').length < 4

/** The spot that a piece of a line is. */
export const spotOf = (text: string, from: number, to: number): Spot => {
	const piece = text.slice(from, to)
	const lead = piece.length - piece.trimStart().length
	return { text: piece.trim(), at: from + lead, like: isNumber(piece) ? 'shape' : 'text' }
}

/** The words to the left of a column that name what stands there ("DATE:"), or null. */
export function labelBefore(text: string, from: number): Spot | null {
	const before = segments(text.slice(0, from)).at(-1)
	if (!before || /^[-=_*.\s]+$/.test(before.text)) return null
	// A label that follows another's value at one blank is its last word.
	const last = /(?:^|\s{1,})([^\s:]*(?: [^\s:]+)*:)$/.exec(before.text)
	const words = last?.[1] ?? before.text
	if (!/\p{L}/u.test(words) || isNumber(words)) return null
	return { text: words, at: before.to - words.length, like: 'text' }
}

type Corridor = { from: number; to: number }
/** `name`: what the line above says over it; empty for nothing. */
export type Column = Corridor & { name: string }

/**
 * The columns of sample rows, parted where nothing stands in any; where a line above names them, what stands under one word is one, and what
 * stands under none belongs to its left.
 */
export function columnsOf(samples: readonly string[], head: string): Column[] {
	const width = Math.max(0, ...samples.map((text) => text.length))
	const found: Corridor[] = []
	let open: number | null = null
	for (let place = 0; place <= width; place++) {
		const here = place < width && samples.some((text) => (text[place] ?? ' ') !== ' ')
		if (here && open === null) open = place
		if (!here && open !== null) {
			found.push({ from: open, to: place })
			open = null
		}
	}
	if (head === '') return joined(found, samples).map((one) => ({ ...one, name: '' }))
	const words = [...head.matchAll(/\S+/g)].map((match) => ({ from: match.index, to: match.index + match[0].length }))
	const overlaps = (one: Corridor, other: Corridor) => one.from < other.to && one.to > other.from
	const columns: Corridor[] = []
	for (const one of found) {
		const last = columns.at(-1)
		const word = words.find((name) => overlaps(name, one))
		// A word of the head that reaches over both, or none over this one: they are one text.
		if (
			last &&
			(word
				? overlaps(word, last) && !words.some((name) => name !== word && overlaps(name, one))
				: one.from - last.to === 1)
		)
			last.to = one.to
		else columns.push({ ...one })
	}
	const owners: Column[] = columns.map((one) => ({ ...one, name: '' }))
	let right: { word: Corridor; owner: Column } | undefined
	for (const word of words.toReversed()) {
		// A word with nothing under it is the first of the name on its right, or names a column that is empty in these samples.
		const touches = (one: Corridor) => one.from <= word.to && one.to >= word.from
		let owner = owners.find((one) => overlaps(word, one)) ?? owners.find((one) => one.name === '' && touches(one))
		if (!owner && right && right.word.from - word.to <= 1) owner = right.owner
		if (!owner) {
			owner = { ...word, name: '' }
			owners.push(owner)
		}
		owner.name = `${head.slice(word.from, word.to)} ${owner.name}`.trim()
		right = { word, owner }
	}
	return owners.sort((a, b) => a.from - b.from)
}

/** Without a head, what stands one blank apart is one text, but for two columns of figures. */
function joined(found: readonly Corridor[], samples: readonly string[]): Corridor[] {
	const columns: Corridor[] = []
	for (const one of found) {
		const last = columns.at(-1)
		if (last && one.from - last.to <= 1 && !(isFigures(last, samples) && isFigures(one, samples))) last.to = one.to
		else columns.push({ ...one })
	}
	return columns
}

/** Whether nothing but figures stands in a column of samples. */
export const isFigures = ({ from, to }: Corridor, samples: readonly string[]): boolean =>
	samples.some((text) => text.slice(from, to).trim() !== '') &&
	samples.every((text) => /^[\d.,\-+()%\s]*$/.test(text.slice(from, to)))

/** Columns widened over the blanks between them: those before figures belong to the figures, others to the text on their left. */
export function widened(
	columns: readonly Corridor[],
	samples: readonly string[],
): { from: number; to: number | null }[] {
	const isFigure = (one: Corridor) => isFigures(one, samples)
	const edges = columns.map((one, place) => {
		const before = columns[place - 1]
		if (!before) return 0
		return isFigure(one) ? (isFigure(before) ? before.to : Math.min(before.to + 1, one.from)) : one.from
	})
	return columns.map((_, place) => ({ from: edges[place] ?? 0, to: edges[place + 1] ?? null }))
}

/**
 * How many lines a page has, where neither form feeds nor carriage control say it: at what distance the first line comes again, with other
 * numbers in it; 0 for none.
 */
export function linesOfPage(lines: readonly string[]): number {
	const first = lines.findIndex((text) => text.trim() !== '')
	const shape = shapeOf(lines[first] ?? '').replace(/\s+/g, ' ')
	if (shape.trim() === '') return 0
	const again = lines.flatMap((text, place) =>
		place > first && shapeOf(text).replace(/\s+/g, ' ') === shape ? [place - first] : [],
	)
	const [distance = 0] = again
	if (distance < 15 || distance > 150 || again.length < 2) return 0
	return again.every((place) => place % distance === 0) ? distance : 0
}

/** Whether the first column of lines holds carriage control: nothing but its marks, a new page among them. */
export function hasControl(lines: readonly string[]): boolean {
	const some = lines.filter((text) => text !== '')
	if (some.length < 5) return false
	const marks = some.map((text) => text[0] ?? ' ')
	if (!marks.every((mark) => ' 01-+'.includes(mark)) || !marks.includes('1')) return false
	// A page's first line stands right behind the mark, and most lines are single.
	return marks.filter((mark) => mark === ' ').length * 2 > marks.length && some[0]?.[0] === '1'
}

/** Whether a text is a printed report, and not a table whose cells are parted by a mark. */
export function looksPrinted(text: string): boolean {
	const lines = text.split(/\r?\n/)
	const filled = lines.filter((line) => line.trim() !== '')
	const parted = (marks: readonly string[]) => marks.some((mark) => mostAlike(filled, mark) > 0.5)
	// A page that begins says it, unless the cells are parted by what no report is printed with.
	if (/(?:^|\n)\f/.test(text)) return !parted([';', '\t'])
	if (hasControl(lines)) return true
	if (filled.length < 5 || parted([';', ',', '\t', '|'])) return false
	return filled.filter((line) => /\S {2,}\S/.test(line)).length * 2 > filled.length
}

/** The share of lines that have a mark just as often. */
function mostAlike(lines: readonly string[], mark: string): number {
	const counts = new Map<number, number>()
	for (const line of lines) {
		const count = line.split(mark).length - 1
		if (count > 0) counts.set(count, (counts.get(count) ?? 0) + 1)
	}
	return Math.max(0, ...counts.values()) / lines.length
}
