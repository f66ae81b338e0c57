import { type OwnField, type OwnOf, type OwnType, type OwnValues, ownTypes } from '@/core/ownFields'
import { catalogue, linesKinds, sheetKinds } from './fieldCatalogue'
import type { At, Content, Field, Of, PaperKind } from './fieldTypes'

const byKey = new Map<string, Field>()
for (const field of catalogue) {
	// A figure that both bills and statements have stands twice in the list under one key.
	const known = byKey.get(field.key)
	byKey.set(
		field.key,
		known
			? {
					...field,
					kinds: [...(known.kinds ?? []), ...(field.kinds ?? [])],
					read: (at) => known.read(at) || field.read(at),
				}
			: field,
	)
}

export type Fields = ReadonlyMap<string, Field>

/** Where a field of the firm's own is read from, by how its key begins. */
const ownPlaces: Record<string, { of: OwnOf; at: Of; group: string; read: (at: At) => OwnValues | undefined }> = {
	customer: { of: 'customer', at: 'paper', group: 'Customer', read: ({ content }) => content.customer.own },
	order: { of: 'order', at: 'order', group: 'Order', read: (at) => ordersOf(at)[at.place]?.own },
	line: { of: 'line', at: 'line', group: 'Line', read: (at) => linesOf(at)[at.place]?.own },
	'line.order': {
		of: 'order',
		at: 'line',
		group: 'Order of the line',
		read: (at) => ordersOf(at)[linesOf(at)[at.place]?.order ?? -1]?.own,
	},
	sheet: { of: 'sheet', at: 'paper', group: 'Sheet', read: (at) => ordersOf(at)[0]?.own },
	row: { of: 'row', at: 'line', group: 'Row of the sheet', read: (at) => linesOf(at)[at.place]?.own },
	'line.item': { of: 'item', at: 'line', group: 'Item of the line', read: (at) => linesOf(at)[at.place]?.itemOwn },
}
const linesOf = ({ content }: At) => (content.kind === 'statement' ? [] : content.lines)
const ordersOf = ({ content }: At) => (content.kind === 'statement' ? [] : content.orders)
const ownKey = /^([a-z.]+)\.own\.([a-z]+)\.([a-z0-9-]{1,40})$/

/** The own field that a key names: its type stands in the key, so that a layout says the same in any books. Undefined for another key. */
export function ownFieldAt(
	key: string,
	ownFields: readonly OwnField[] = [],
): (Field & { ownField: OwnField }) | undefined {
	const [, begins = '', type = '', slug = ''] = ownKey.exec(key) ?? []
	const place = ownPlaces[begins]
	const known = ownTypes.find((one) => one === type)
	if (!place || !known) return undefined
	const name = ownFields.find((one) => one.of === place.of && one.key === slug)?.name ?? slug.replace(/-/g, ' ')
	return {
		...{ key, name, group: place.group, of: place.at, type: known },
		...(place.of === 'customer' ? {} : { kinds: place.of === 'sheet' || place.of === 'row' ? sheetKinds : linesKinds }),
		read: (at) => place.read(at)?.[slug] ?? '',
		ownField: { of: place.of, key: slug, name, type: known },
	}
}

/** The keys by which a layout can name a field of the firm's own. */
export const ownKeysOf = ({ of, key, type }: { of: OwnOf; key: string; type: OwnType }): string[] =>
	Object.entries(ownPlaces)
		.filter(([, place]) => place.of === of)
		.map(([begins]) => `${begins}.own.${type}.${key}`)

/** Fields by key; one of the firm's own is found by its key alone, with its name where the books' list has it. */
export class FieldMap extends Map<string, Field> {
	override get(key: string): Field | undefined {
		return super.get(key) ?? ownFieldAt(key)
	}
}

/** The catalogue by key. */
export const fieldsByKey: Fields = new FieldMap(byKey)

/** Whether papers of a kind have a field. */
export const hasField = (field: Field, kind: PaperKind): boolean => field.kinds?.includes(kind) ?? true

/** What a table of these shows: the records of its content, by their place. */
export const placesOf: Record<string, (content: Content) => number> = {
	lines: (content) => (content.kind === 'statement' ? 0 : content.lines.length),
	orders: (content) => (content.kind === 'statement' ? 0 : content.orders.length),
	taxes: (content) => (content.kind === 'statement' ? 0 : content.priced.taxes.length),
	items: (content) => (content.kind === 'statement' ? content.items.length : 0),
	movements: (content) =>
		content.kind === 'statement' && content.form === 'balance forward' ? content.movements.length + 2 : 0,
}
/** Whose fields a table of these can show, beside those of the whole paper. */
export const recordOf: Record<string, Of> = {
	lines: 'line',
	orders: 'order',
	taxes: 'tax',
	items: 'item',
	movements: 'movement',
}
