// What entries of the ledger are called that an act made: by what they came of, with words of the program. Made and taken apart here alone.

const beginnings = ['Payment of', 'Set off against', 'Set off from'] as const
const endings = ['undone', 'written off', 'removed', 'returned', 'charge', 'adjusted'] as const
type Beginning = (typeof beginnings)[number]
type Ending = (typeof endings)[number]

/** @example named('Set off from', 'K-4') // "Set off from K-4" */
export const named = (beginning: Beginning, of: string): string => `${beginning} ${of}`
/** @example namedAfter('T-0041', 'written off') // "T-0041 written off" */
export const namedAfter = (of: string, ending: Ending): string => `${of} ${ending}`

/** A name in its parts: what it is of, and the program's words around it, as they stand. */
export function nameParts(name: string): { before: Beginning | null; of: string; after: Ending[] } {
	const before = beginnings.find((beginning) => name.startsWith(`${beginning} `)) ?? null
	let of = before ? name.slice(before.length + 1) : name
	const after: Ending[] = []
	for (;;) {
		const ending = endings.find((one) => of.endsWith(` ${one}`))
		if (!ending) return { before, of, after }
		after.unshift(ending)
		of = of.slice(0, -ending.length - 1)
	}
}
