/** What is kept of a file that is the same as one that is here. */
export const sameAs = (id: number): string => `same as ${id}`
/** The file that a dropped one is the same as; null where it was dropped otherwise. */
export const sameAsOf = ({ trouble }: { trouble: string }): number | null => {
	const match = /^same as (\d+)$/.exec(trouble)
	return match ? Number(match[1]) : null
}
