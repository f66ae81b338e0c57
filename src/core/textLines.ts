/** The lines of a text as it was typed, without those that are empty. */
export const textLines = (text: string): string[] =>
	text
		.split('\n')
		.map((line) => line.trim())
		.filter(Boolean)
