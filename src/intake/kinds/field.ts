/** What a field of a kind holds. A quantity may bear its unit; an amount its currency; a discount that or a percent sign; `number` neither. */
export type FieldType = 'text' | 'day' | 'amount' | 'quantity' | 'percent' | 'discount' | 'number'
export type Field = {
	key: string
	label: string
	type: FieldType
	/** Without a column for it nothing is read. */
	needed: boolean
	/** An order's line may stand several times in a row. */
	of: 'row' | 'line'
	/** What its column may be called, as `plainName` makes it. */
	names: readonly string[]
	/** Names that it goes by only where no column bears one of the others: a guess. */
	weak: readonly string[]
}

/** A column's name with nothing but its letters, digits and percent signs, in lower case and without accents (READING, rule 20). */
export function plainName(name: string): string {
	return name
		.normalize('NFKD')
		.toLowerCase()
		.replace(/[^\p{L}\p{N}%]/gu, '')
}

const list = (names: string): string[] => names.split(',').map(plainName).filter(Boolean)

type More = { needed?: boolean; of?: Field['of']; weak?: string }

/** A field; its own label is one of its names. */
export const field = (
	key: string,
	label: string,
	type: FieldType,
	names: string,
	{ needed = false, of = 'row', weak = '' }: More = {},
): Field => ({
	key,
	label,
	type,
	needed,
	of,
	names: [...new Set([plainName(label), ...list(names)])],
	weak: list(weak),
})
