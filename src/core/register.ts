/** How a register writes its numbers; a yearly one begins again at `first` in each year. */
export type RegisterShape = { prefix: string; digits: number; first: number; yearly: number }

/** A document number: the prefix, with the year where it says {year}, and the value padded with zeros to `digits`. */
export const registerNumber = (register: Pick<RegisterShape, 'prefix' | 'digits'>, value: number, year = 0): string =>
	prefixIn(register, year) + String(value).padStart(register.digits, '0')

/** A register's prefix as it stands in a number of a year. */
export const prefixIn = ({ prefix }: Pick<RegisterShape, 'prefix'>, year: number): string =>
	prefix.replaceAll('{year}', String(year))

/**
 * The value by which a register would write a number, and the year that stands in it, null where none does; null for a number that it
 * would never write. Letters are told apart without regard to case, since files are named after numbers.
 */
export function valueIn(
	{ prefix, digits }: Pick<RegisterShape, 'prefix' | 'digits'>,
	number: string,
): { value: number; year: number | null } | null {
	const [before = '', after] = prefix.toUpperCase().split('{YEAR}')
	const plain = number.toUpperCase()
	if (!plain.startsWith(before)) return null
	let rest = plain.slice(before.length)
	let year: number | null = null
	if (after !== undefined) {
		if (!/^\d{4}/.test(rest) || !rest.slice(4).startsWith(after)) return null
		year = Number(rest.slice(0, 4))
		rest = rest.slice(4 + after.length)
	}
	if (!/^\d{1,15}$/.test(rest) || rest.length < digits || (rest.length > digits && rest.startsWith('0'))) return null
	return { value: Number(rest), year }
}

/** The year that a register counts a document under: its own where the register begins again each year, else 0. */
export const countYear = (register: Pick<RegisterShape, 'yearly'>, year: number): number =>
	register.yearly === 1 ? year : 0

/** The year of a day. */
export const yearOf = (day: string): number => Number(day.slice(0, 4))

/**
 * Whether two prefixes could come to the same number: what is left of one after the other is nothing but digits. {year} stands
 * for any four digits.
 */
export function mayClash(a: string, b: string): boolean {
	const plain = (prefix: string) => prefix.toUpperCase().replaceAll('{YEAR}', '####')
	const [short = '', long = ''] = [plain(a), plain(b)].sort((one, other) => one.length - other.length)
	const same = (x: string, y: string) => x === y || (x === '#' && /\d/.test(y)) || (y === '#' && /\d/.test(x))
	const begins = [...short].every((char, place) => same(char, long[place] ?? ''))
	return begins && /^[\d#]*$/.test(long.slice(short.length))
}
