import type { Format } from '@/layout/schemaParts'
import type { Inline, Placeholder, Style } from '../form'

/** What a field of the format says to do (ISO/IEC 29500-1, 17.16): its words, and its switches with what stands behind them. */
function parsed(instruction: string): { words: string[]; switches: Record<string, string[]> } {
	const tokens = instruction.match(/"(?:[^"\\]|\\.)*"|\\[*@#a-zA-Z!]|[^\s"]+/g) ?? []
	const words: string[] = []
	const switches: Record<string, string[]> = {}
	let after: string | null = null
	for (const token of tokens) {
		if (/^\\[*@#a-zA-Z!]$/.test(token)) {
			after = token.slice(1)
			switches[after] ??= []
			continue
		}
		const text = token.startsWith('"') ? token.slice(1, -1).replace(/\\(.)/g, '$1') : token
		if (after === null) words.push(text)
		else {
			switches[after]?.push(text)
			after = null
		}
	}
	return { words, switches }
}

/** How a value is written, as far as a field's switches say what a layout can. */
function formatOf(switches: Record<string, string[]>): Format | undefined {
	const [picture] = switches['@'] ?? []
	const [figures] = switches['#'] ?? []
	const upper = (switches['*'] ?? []).some((one) => /^upper$/i.test(one))
	const day =
		picture === undefined
			? undefined
			: /^y{4}.M{1,2}.d{1,2}$/.test(picture)
				? 'iso'
				: /M{4}/.test(picture)
					? /d/.test(picture)
						? 'long'
						: 'month'
					: /M{3}/.test(picture)
						? 'short'
						: 'figures'
	const decimals = figures === undefined ? undefined : (/[.,](0+)\D*$/.exec(figures)?.[1]?.length ?? undefined)
	const format: Format = {
		...(day ? { day } : {}),
		...(decimals !== undefined && decimals <= 6 ? { decimals } : {}),
		...(upper ? { upper } : {}),
	}
	return Object.keys(format).length > 0 ? format : undefined
}

/** Fields that say a day of the program's own, whose value is no part of the form. */
const days = ['DATE', 'TIME', 'CREATEDATE', 'SAVEDATE', 'PRINTDATE']

/**
 * What a field becomes: a mark, the page's own number, or the text that it showed.
 * @param shown what it showed when the form was saved
 * @param note says what is not carried over
 */
export function fieldInlines(
	instruction: string,
	shown: readonly Inline[],
	style: Style,
	note: (words: string) => void,
): Inline[] {
	const { words, switches } = parsed(instruction.trim())
	const [what = '', ...rest] = words
	const kind = what.toUpperCase()
	const text = shown.map((inline) => (inline.is === 'text' ? inline.text : '')).join('')
	const own = shown.find((inline) => inline.is === 'text')
	const mark = (name: string): Inline[] => {
		const format = formatOf(switches)
		const [before] = switches.b ?? []
		const [after] = switches.f ?? []
		const made: Placeholder = {
			is: 'mark',
			manner: 'field',
			name,
			shown: text || `«${name}»`,
			style: own?.is === 'text' ? own.style : style,
			...(format ? { format } : {}),
			...(before ? { before } : {}),
			...(after ? { after } : {}),
		}
		return [made]
	}
	if (kind === 'PAGE') return [{ is: 'page', of: 'page', style }]
	if (kind === 'NUMPAGES' || kind === 'SECTIONPAGES') return [{ is: 'page', of: 'pages', style }]
	const named = rest.join(' ').trim()
	if ((kind === 'MERGEFIELD' || kind === 'DOCPROPERTY' || kind === 'DOCVARIABLE') && named) return mark(named)
	if (days.includes(kind)) return mark('Date')
	if (kind.startsWith('=')) return mark(instruction.trim().slice(0, 60))
	if (kind === 'IF' || kind === 'SKIPIF' || kind === 'NEXTIF' || kind === 'NEXT')
		note(
			`A rule of the form (${kind}) is not carried over; what it showed stands as text. A piece can be shown on a condition.`,
		)
	else if (kind.startsWith('INCLUDE'))
		note('Something that the form fetches from elsewhere is not fetched; what it showed stands in its place.')
	return [...shown]
}
