import { type OwnField, type OwnOf, type OwnType, ownKey } from '@/core/ownFields'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

/** The firm's own fields, in the order that they were made. */
export const allOwnFields = ({ sql }: Books): OwnField[] =>
	sql<[], OwnField>('SELECT of, key, name, type FROM own_field WHERE away_at IS NULL ORDER BY id').all()

/** The firm's own fields of customers, items, orders, lines, sheets or rows. */
export const ownFieldsOf = (books: Books, of: OwnOf): OwnField[] =>
	allOwnFields(books).filter((ownField) => ownField.of === of)

/** Adds a field; null where one of the name is there. */
export function addOwnField(
	books: Books,
	desk: Desk,
	field: { of: OwnOf; name: string; type: OwnType },
): OwnField | null {
	return inOneStep(books, () => {
		const all = books
			.sql<[OwnOf], OwnField & { away_at: string | null }>(
				'SELECT of, key, name, type, away_at FROM own_field WHERE of = ?',
			)
			.all(field.of)
		const same = (name: string) => name.toLowerCase() === field.name.toLowerCase()
		if (all.some(({ name, away_at }) => away_at === null && same(name))) return null
		const key = ownKey(field.name, new Set(all.map((one) => one.key)))
		books
			.sql<string[]>('INSERT INTO own_field (of, key, name, type, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?)')
			.run(field.of, key, field.name, field.type, desk.now(), desk.clerk)
		record(books, desk, {
			subject: 'setting',
			id: `field ${field.of} ${key}`,
			act: `added a field of ${field.of}s`,
			detail: field.name,
		})
		return { ...field, key }
	})
}

/** Takes a field away; values that it had stay where they are, and are shown nowhere. */
export function takeOwnFieldAway(books: Books, desk: Desk, of: OwnOf, key: string): void {
	inOneStep(books, () => {
		books
			.sql<string[]>('UPDATE own_field SET away_at = ?, away_by = ? WHERE of = ? AND key = ? AND away_at IS NULL')
			.run(desk.now(), desk.clerk, of, key)
		record(books, desk, { subject: 'setting', id: `field ${of} ${key}`, act: `took a field of ${of}s away` })
	})
}

/** Where values of each are kept; those of sheets stand in the records that were made of them. */
const tables: Partial<Record<OwnOf, string>> = {
	...{ customer: 'customer', item: 'item', order: 'sales_order', line: 'order_line' },
}

/** How many have a value in a field. */
export const ownValueCount = ({ sql }: Books, of: OwnOf, key: string): number =>
	sql<[string], { n: number }>(
		tables[of]
			? `SELECT count(*) AS n FROM ${tables[of]} WHERE own <> '{}' AND json_extract(own, '$."' || ? || '"') IS NOT NULL`
			: `SELECT count(*) AS n FROM paper_record WHERE first_row IS NOT NULL AND instr(body, '\\"' || ? || '\\":') > 0`,
	).get(key)?.n ?? 0

/** Sets one value of a customer, or of an item, by its number or code; empty takes it away. @returns whether there is such a one */
export function setOwnValue(
	books: Books,
	desk: Desk,
	of: 'customer' | 'item',
	code: string,
	key: string,
	value: string,
): boolean {
	return inOneStep(books, () => {
		const by = of === 'customer' ? 'number' : 'code'
		const row = books
			.sql<[string], { own: string }>(`SELECT own FROM ${tables[of]} WHERE ${by} = ? COLLATE NOCASE`)
			.get(code)
		if (!row) return false
		const patch = JSON.stringify({ [key]: value === '' ? null : value })
		books
			.sql<[string, string]>(`UPDATE ${tables[of]} SET own = json_patch(own, ?) WHERE ${by} = ? COLLATE NOCASE`)
			.run(patch, code)
		record(books, desk, { subject: of, id: code, act: `set its ${key}`, before: row.own, after: patch })
		return true
	})
}
