import { placesOf } from '../fields'
import type { At } from '../fieldTypes'
import { compareRaw, compileCondition } from '../values'
import type { Kit } from './kit'
import type { LinesPiece } from './linesSchema'

type Group = { places: number[]; titled: boolean }

/** Chooses a table's records, orders them and parts them into groups; as they come, where nothing is said. */
export function chooser(piece: LinesPiece, kit: Pick<Kit, 'fields'>): (at: At) => Group[] {
	const only = compileCondition(piece.only, kit.fields)
	const keys = (piece.sort ?? []).map(({ field, down }) => ({ field: kit.fields.get(field), sign: down ? -1 : 1 }))
	const by = piece.group && kit.fields.get(piece.group.by)
	const count = placesOf[piece.of]
	return (at) => {
		const all = Array.from({ length: count?.(at.content) ?? 0 }, (_, place) => place)
		const chosen = piece.only ? all.filter((place) => only({ ...at, place })) : all
		const read = (field: typeof by, place: number) => field?.read({ ...at, place }) ?? ''
		if (keys.length > 0)
			chosen.sort((a, b) => {
				for (const { field, sign } of keys) {
					const order = compareRaw(read(field, a), read(field, b)) * sign
					if (order !== 0) return order
				}
				return a - b
			})
		if (!by) return chosen.length === 0 ? [] : [{ places: chosen, titled: false }]
		// Groups stand in the order in which each first comes.
		const groups = new Map<string, Group>()
		for (const place of chosen) {
			const key = String(read(by, place))
			const known = groups.get(key)
			if (known) known.places.push(place)
			else groups.set(key, { places: [place], titled: true })
		}
		return [...groups.values()]
	}
}

/** Lines of a bill that no table of the layout shows, by their places. */
export function outOfSight(pieces: readonly LinesPiece[], kit: Pick<Kit, 'fields'>, at: At): number[] {
	const tables = pieces.filter(({ of }) => of === 'lines')
	const seen = new Set(tables.flatMap((piece) => chooser(piece, kit)(at).flatMap(({ places }) => places)))
	return Array.from({ length: placesOf.lines?.(at.content) ?? 0 }, (_, place) => place).filter(
		(place) => !seen.has(place),
	)
}
