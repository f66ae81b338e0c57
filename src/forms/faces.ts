import type { Family } from '@/layout/schemaParts'

/** Which of our families stands in for a typeface, by how its name is built; our own by their names. */
const stands: [Family, RegExp][] = [
	['source-sans', /source sans/i],
	['source-serif', /source serif/i],
	['libre-franklin', /libre franklin/i],
	['barlow', /barlow/i],
	['barlow', /narrow|condensed|\bdin\b|oswald/i],
	[
		'source-serif',
		/serif(?!.*sans)|times|roman|georgia|garamond|cambria|palatino|book|baskerville|bodoni|caslon|century|minion|constantia|didot|tinos|caladea|lora|merriweather|playfair/i,
	],
	[
		'libre-franklin',
		/arial|helvetica|liberation sans|franklin|arimo|univers|akkurat|grotesk|roboto|inter\b|futura|gothic/i,
	],
]

/** The family that stands in for a typeface, and whether it is that typeface itself. */
export function familyFor(face: string | undefined): { family: Family; same: boolean } {
	const found =
		face === undefined ? undefined : stands.find(([, name]) => name.test(/sans.?serif/i.test(face) ? 'Sans' : face))
	const family = found?.[0] ?? 'source-sans'
	return { family, same: face === undefined || stands.slice(0, 4).some(([, name]) => name.test(face)) }
}

export const familyNames: Record<Family, string> = {
	'source-sans': 'Source Sans',
	'source-serif': 'Source Serif',
	'libre-franklin': 'Libre Franklin',
	barlow: 'Barlow',
}
