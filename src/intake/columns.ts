import { type Field, plainName } from './kinds/field'

/** Which column, by its place, is which field; `groups` are the further lines of a row, side by side. */
type Matched = {
	columns: Record<string, number>
	groups: Record<string, number>[]
	/** Fields whose column bears a name that could mean something else. */
	guessed: string[]
}

/** A name with a number behind it ("item2"), parted. */
const numbered = (name: string) => {
	const match = /^(.*?\D)(\d{1,3})$/.exec(name)
	return match ? { base: match[1] ?? '', number: Number(match[2]) } : null
}

/** Fields that are what a line is: one column of them is of the first line alone. */
const ofOneLine = new Set(['item', 'description', 'quantity', 'unitPrice'])

/**
 * Gives each field the column that bears one of its names (READING, rules 11 and 20). A name that fits two fields, and two columns that
 * fit one field, are not guessed.
 * @param lineFrom the first place of the columns that a nested source has for lines; as many as there are columns for none
 */
export function matchColumns(head: readonly string[], lineFrom: number, fields: readonly Field[]): Matched {
	const names = head.map(plainName)
	const nested = lineFrom < head.length
	const byName = new Map<string, Field[]>()
	for (const one of fields) for (const name of one.names) byName.set(name, [...(byName.get(name) ?? []), one])
	/** The one field that a name fits at a place. */
	const fits = (name: string, place: number): Field | null => {
		const found = (byName.get(name) ?? []).filter(({ of }) => !nested || place < lineFrom || of === 'line')
		return found.length === 1 ? (found[0] ?? null) : null
	}
	const columns: Record<string, number> = {}
	const taken = new Set<number>()
	const { groups, repeated } = nested ? { groups: [], repeated: new Set<number>() } : sideBySide(names, fits)
	const [first = {}, ...others] = groups
	for (const [key, place] of Object.entries(first)) columns[key] = place
	for (const place of repeated) taken.add(place)

	const places = new Map<string, number[]>()
	for (const [place, name] of names.entries()) {
		if (repeated.has(place)) continue
		const one = fits(name, place)
		if (one) places.set(one.key, [...(places.get(one.key) ?? []), place])
	}
	for (const [key, found] of places) {
		// What an order says once counts where its lines do not say it.
		const own = nested ? found.filter((place) => place >= lineFrom) : []
		const [place, ...more] = own.length > 0 ? own : found
		if (place === undefined || more.length > 0 || columns[key] !== undefined) continue
		columns[key] = place
		taken.add(place)
	}
	const guessed: string[] = []
	for (const one of fields) {
		if (columns[one.key] !== undefined || places.has(one.key)) continue
		const [place, ...more] = names.flatMap((name, index) =>
			!taken.has(index) &&
			one.weak.includes(name) &&
			!byName.has(name) &&
			(!nested || index < lineFrom || one.of === 'line')
				? [index]
				: [],
		)
		const rivals = fields.filter(
			(other) =>
				other !== one &&
				columns[other.key] === undefined &&
				place !== undefined &&
				other.weak.includes(names[place] ?? ''),
		)
		if (place === undefined || more.length > 0 || rivals.length > 0) continue
		columns[one.key] = place
		taken.add(place)
		guessed.push(one.key)
	}
	return { columns, groups: others.map((group) => withShared(group, columns, first, repeated, fields)), guessed }
}

/** Columns of the same names again and again, or with numbers behind them: a group of line fields for each time. */
function sideBySide(names: readonly string[], fits: (name: string, place: number) => Field | null) {
	const found = new Map<string, { key: string; places: { place: number; number: number | null }[] }>()
	for (const [place, name] of names.entries()) {
		const whole = fits(name, place)
		const parts = whole ? null : numbered(name)
		const one = whole ?? (parts && fits(parts.base, place))
		if (one?.of !== 'line') continue
		const base = whole ? name : `${parts?.base} #`
		const own = found.get(base) ?? { key: one.key, places: [] }
		own.places.push({ place, number: parts?.number ?? null })
		found.set(base, own)
	}
	const again = [...found.values()].filter(({ places }) => places.length > 1)
	const single = new Set(
		[...found.values()].map(({ key }) => key).filter((key, index, all) => all.indexOf(key) === index),
	)
	// Two columns of one field under different names are no repetition, and one field alone that is repeated is none either.
	const clear = again.filter(
		({ key }) => [...found.values()].filter((other) => other.key === key).length === 1 && single.has(key),
	)
	const groups: Record<string, number>[] = []
	const repeated = new Set<number>()
	if (clear.length < 2 || !clear.some(({ key }) => key === 'quantity')) return { groups, repeated }
	const numbers = [...new Set(clear.flatMap(({ places }) => places.flatMap(({ number }) => number ?? [])))].sort(
		(a, b) => a - b,
	)
	for (const { key, places } of clear) {
		for (const [index, { place, number }] of places.entries()) {
			const group = number === null ? index : numbers.indexOf(number)
			while (groups.length <= group) groups.push({})
			const own = groups[group]
			if (own) own[key] = place
			repeated.add(place)
		}
	}
	return { groups, repeated }
}

/** A further group with what the row says once for all its lines: what stands before the first group or after the last. */
function withShared(
	group: Record<string, number>,
	columns: Record<string, number>,
	first: Record<string, number>,
	repeated: ReadonlySet<number>,
	fields: readonly Field[],
): Record<string, number> {
	const [from, to] = [Math.min(...repeated), Math.max(...repeated)]
	const shared = Object.entries(columns).filter(
		([key, place]) =>
			first[key] === undefined &&
			!ofOneLine.has(key) &&
			(place < from || place > to) &&
			fields.find((one) => one.key === key)?.of === 'line',
	)
	return { ...Object.fromEntries(shared), ...group }
}
