import { z } from 'zod'

// Fields that a firm adds to its customers, items, orders and lines.

export const ownOf = ['customer', 'item', 'order', 'line', 'sheet', 'row'] as const
export type OwnOf = (typeof ownOf)[number]
export const ownTypes = ['text', 'number', 'day', 'picture'] as const
export type OwnType = (typeof ownTypes)[number]

/** A field of the firm's own. Its key is made once, from its first name, and given to no other of the same. */
export type OwnField = { of: OwnOf; key: string; name: string; type: OwnType }

/** Values by key; a picture by its SHA-256. What is empty is left out. */
export const ownValuesSchema = z.record(z.string(), z.string())
export type OwnValues = z.infer<typeof ownValuesSchema>

/** A key for a name, of small letters, digits and hyphens. @param taken keys that were given before, those of removed fields too */
export function ownKey(name: string, taken: ReadonlySet<string>): string {
	const plain = name
		.normalize('NFKD')
		.toLowerCase()
		.replace(/[^a-z0-9]+/g, '-')
		.replace(/^-+|-+$/g, '')
		.slice(0, 30)
		.replace(/-+$/, '')
	const base = plain === '' ? 'field' : plain
	let key = base
	for (let place = 2; taken.has(key); place++) key = `${base}-${place}`
	return key
}

/** Why a value is none of its type; null where it is one, or empty. */
export function whyNotOwn({ name, type }: OwnField, value: string): string | null {
	if (value === '') return null
	if (value.length > 2000) return `${name} has more than 2,000 letters. Shorten it.`
	if (type === 'number' && !/^-?\d{1,15}(\.\d{1,6})?$/.test(value)) return `${name} is a number such as 12.5.`
	if (type === 'day' && !z.iso.date().safeParse(value).success) return `${name} is a day that exists.`
	if (type === 'picture' && !/^[0-9a-f]{64}$/.test(value)) return `${name} is a picture. Bring it in beside this.`
	return null
}

/** Values without the empty ones; undefined where none is left, so that what says nothing of its own stays as it was. */
export function ownOrNone(values: OwnValues): OwnValues | undefined {
	const kept = Object.entries(values)
		.filter(([, value]) => value !== '')
		.sort(([a], [b]) => (a < b ? -1 : 1))
	return kept.length === 0 ? undefined : Object.fromEntries(kept)
}

/** Values as a column keeps them: JSON in order of keys, so that the same values are the same text. */
export const ownText = (values: OwnValues): string => JSON.stringify(ownOrNone(values) ?? {})
/** A column of values, whatever their order, with the empty ones left out. */
export const ownColumnSchema = z
	.string()
	.default('{}')
	.transform((text) => ownText(readOwn(text)))
/**
 * Values of the firm's own fields from their JSON, by key.
 * @throws ZodError where the text is not what `ownText` writes
 */
export const readOwn = (text: string): OwnValues => (text === '{}' ? {} : ownValuesSchema.parse(JSON.parse(text)))
