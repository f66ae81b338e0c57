/** A count with its noun: "1 invoice", "119 invoices". */
export const counted = (count: number, noun: string, nouns = `${noun}s`): string =>
	`${count} ${count === 1 ? noun : nouns}`
