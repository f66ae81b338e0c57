/** With a capital at its beginning. */
export const capital = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`

/** The first letters of its words, as capitals without accents: "Order confirmation" → "OC"; one letter where it has none. */
export const initials = (name: string, none = 'P'): string =>
	name
		.normalize('NFD')
		.replace(/[^A-Za-z ]/g, '')
		.split(' ')
		.map((word) => word[0]?.toUpperCase() ?? '')
		.join('') || none
