/** A count with its noun: "1 invoice", "119 invoices". */
export const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`
