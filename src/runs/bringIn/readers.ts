import type { OwnField } from '@/core/ownFields'
import { fieldsFor } from '@/intake/kinds'
import { plainName } from '@/intake/kinds/field'
import { type Look, proposeReading } from '@/intake/look'
import { type Reading, readingSchema } from '@/intake/reading'
import type { Reader } from '@/store/readers'

/** The plain names of a head, by which a reader knows its source. */
export const shapeOfHead = (names: readonly string[]): string[] => names.map(plainName)

/** What of a reader's head is otherwise in a file. */
export type HeadChange = {
	/** Columns that the reader used and the file has no more, each with the likely one in its place, and whether it is asked about. */
	gone: { field: string; label: string; name: string; likely: { place: number; name: string } | null; asked: boolean }[]
	/** Columns that the reader did not know, each with the field that it is taken as by its name, if any. */
	added: { name: string; field: string | null }[]
}
export type Picked = { reader: Reader; change: HeadChange | null; reading: Reading }

/** How much of two heads is the same, from 0 to 1; above 1 where they are the very same. */
function likeness(known: readonly string[], shape: readonly string[]): number {
	if (JSON.stringify(known) === JSON.stringify(shape)) return 2
	const names = new Set(shape.filter(Boolean))
	const kept = new Set(known.filter(Boolean))
	return [...kept].filter((name) => names.has(name)).length / Math.max(1, kept.size, names.size)
}
/** From which likeness on a head is taken for that of a reader. */
const enough = 0.7
/** Whether a head is one that a reader knows. */
export const knowsHead = ({ shape }: Reader, names: readonly string[]): boolean =>
	names.some((name) => name !== '') && likeness(JSON.parse(shape), shapeOfHead(names)) >= enough

/** Picks the reader of a source by the shape of its head: the very same, or one that most of its names are of. */
export function pickReader(look: Look, readers: readonly Reader[], ownFields: readonly OwnField[]): Picked | null {
	const shape = shapeOfHead(look.head.names)
	if (shape.every((name) => name === '')) return null
	const [best] = readers
		.map((reader) => ({ reader, like: likeness(JSON.parse(reader.shape), shape) }))
		.sort((a, b) => b.like - a.like || b.reader.id - a.reader.id)
	return best && best.like >= enough ? readBy(best.reader, look, ownFields) : null
}

/** What of a reader's head is otherwise in a source that was read by it. */
export const changeSince = (
	reader: Reader,
	look: Pick<Look, 'format' | 'settings' | 'head'>,
	ownFields: readonly OwnField[],
): HeadChange | null => readBy(reader, { ...look, evidence: [] }, ownFields).change

/** Reads a source by a reader: its columns found by their names, its answers taken over. */
export function readBy(reader: Reader, look: Look, ownFields: readonly OwnField[]): Picked {
	const known: string[] = JSON.parse(reader.shape)
	const body = readingSchema.parse(JSON.parse(reader.body))
	const shape = shapeOfHead(look.head.names)
	// A name that stands several times is told by which time it is.
	const placeOf = (place: number): number | undefined => {
		const name = known[place]
		if (name === undefined) return undefined
		const nth = known.slice(0, place).filter((one) => one === name).length
		return shape.flatMap((one, index) => (one === name ? [index] : []))[nth]
	}
	const moved = (columns: Record<string, number>) =>
		Object.fromEntries(
			Object.entries(columns).flatMap(([key, place]) => {
				const now = placeOf(place)
				return now === undefined ? [] : [[key, now]]
			}),
		)
	const { reading: proposed } = proposeReading(look, ownFields, body.kind)
	const columns = moved(body.columns)
	const used = new Set([...Object.values(columns), ...body.groups.flatMap((group) => Object.values(moved(group)))])
	const added = shape.flatMap((name, place) =>
		name !== '' && !known.includes(name) ? [{ place, name: look.head.names[place] ?? '' }] : [],
	)
	const labels = new Map(fieldsFor(body.kind, ownFields).map((field) => [field.key, field.label]))
	const gone: HeadChange['gone'] = []
	for (const [field, place] of Object.entries(body.columns)) {
		if (columns[field] !== undefined || !labels.has(field)) continue
		const likely = likelyFor(field, place, body, proposed, added, used)
		// A column that is neither needed nor found elsewhere is merely told of.
		const needed = fieldsFor(body.kind, ownFields).some(({ key, needed }) => key === field && needed)
		gone.push({
			field,
			label: labels.get(field) ?? field,
			name: body.head[place] ?? '',
			likely,
			asked: likely !== null || needed,
		})
	}
	// A column that is new is taken where its name says what it is, as in a file that no reader knows.
	const missed = new Set(gone.map(({ field }) => field))
	for (const [field, place] of Object.entries(proposed.columns))
		if (
			columns[field] === undefined &&
			!missed.has(field) &&
			!used.has(place) &&
			added.some((one) => one.place === place)
		)
			columns[field] = place
	const fieldAt = (place: number) => Object.entries(columns).find(([, at]) => at === place)?.[0]
	const reading: Reading = {
		...body,
		format: look.format,
		settings: look.settings,
		headRow: look.head.row,
		head: look.head.names,
		lineFrom: look.head.lineFrom,
		columns,
		groups: body.groups.map(moved).filter((group) => Object.keys(group).length > 0),
	}
	const changed = gone.length > 0 || added.length > 0
	return {
		reader,
		reading,
		change: changed
			? { gone, added: added.map(({ name, place }) => ({ name, field: labels.get(fieldAt(place) ?? '') ?? null })) }
			: null,
	}
}

/** The column that is likely meant in place of one that is gone: a new one of a name that fits the field, else the new one at its place. */
function likelyFor(
	field: string,
	place: number,
	body: Reading,
	proposed: Reading,
	added: { place: number; name: string }[],
	used: ReadonlySet<number>,
): { place: number; name: string } | null {
	const byName = added.find((one) => proposed.columns[field] === one.place && !used.has(one.place))
	if (byName) return byName
	// What says by its name that it is another field is not meant.
	const named = new Set(Object.values(proposed.columns))
	const free = added.filter((one) => !used.has(one.place) && !named.has(one.place))
	const words = plainName(body.head[place] ?? '')
	const alike = free.find(({ name }) => shareLetters(words, plainName(name)))
	return alike ?? free.find(({ place: at }) => at === place) ?? (free.length === 1 ? (free[0] ?? null) : null)
}

/** Whether one of two names begins as the other does, for most of it. */
function shareLetters(one: string, other: string): boolean {
	let same = 0
	while (same < one.length && one[same] === other[same]) same++
	return same >= 4 && same * 2 >= Math.min(one.length, other.length)
}
