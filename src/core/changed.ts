/** One thing of a record that was changed. */
type Difference = { what: string; before: string; after: string }

const longest = 60
const said = (value: unknown): string => {
	if (value === null || value === undefined || value === '') return 'none'
	const text = typeof value === 'object' ? JSON.stringify(value) : String(value)
	return text.length > longest ? `${text.slice(0, longest)}…` : text
}
const isRecord = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * What is different between two states of a thing as they were recorded, as JSON: the fields by their names, those of a part within it by
 * both names. Empty where one is missing, or neither is a record.
 */
export function differences(before: string | null, after: string | null): Difference[] {
	if (before === null || after === null) return []
	let states: [unknown, unknown]
	try {
		states = [JSON.parse(before), JSON.parse(after)]
	} catch {
		return []
	}
	return walk('', ...states, 2)
}

function walk(name: string, before: unknown, after: unknown, depth: number): Difference[] {
	if (JSON.stringify(before) === JSON.stringify(after)) return []
	if (depth > 0 && isRecord(before) && isRecord(after))
		return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key) =>
			walk(`${name} ${wordsOf(key)}`.trim(), before[key], after[key], depth - 1),
		)
	return name === '' ? [] : [{ what: name, before: said(before), after: said(after) }]
}

/** closing_words, closingWords → closing words */
const wordsOf = (key: string): string =>
	key
		.replaceAll('_', ' ')
		.replace(/([a-z])([A-Z])/g, '$1 $2')
		.toLowerCase()
