/** Texts to compare with, of words that are looked for: a percent sign and an underscore stand for themselves (`LIKE … ESCAPE '\'`). */
export const likeOf = (words: string): { like: string; begin: string; same: string } => {
	const same = words.trim()
	const plain = same.replace(/[\\%_]/g, '\\$&')
	return { like: `%${plain}%`, begin: `${plain}%`, same }
}

/** SQL that puts what is exactly so before what begins so, and that before the rest; of `@same` and `@begin`. */
export const closest = (...columns: string[]): string =>
	`CASE WHEN ${columns.map((column) => `${column} = @same COLLATE NOCASE`).join(' OR ')} THEN 0
		WHEN ${columns.map((column) => `${column} LIKE @begin ESCAPE '\\'`).join(' OR ')} THEN 1 ELSE 2 END`
