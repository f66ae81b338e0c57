/** How a register writes its numbers, and where it stands. */
export type RegisterShape = {
	prefix: string
	digits: number
	next: number
	first: number
	yearly: number
	year: number
}

/** A document number: the prefix, with the year where it says {year}, and the value padded with zeros to `digits`. */
export const registerNumber = (register: { prefix: string; digits: number }, value: number, year = 0): string =>
	register.prefix.replaceAll('{year}', String(year)) + String(value).padStart(register.digits, '0')

/** The value that a register gives next to a document of a year; a yearly one begins again in a year that it has not been in. */
export const nextValue = (register: RegisterShape, year: number): number =>
	register.yearly === 1 && register.year !== year ? register.first : register.next

export const yearOf = (day: string): number => Number(day.slice(0, 4))
