const wordsBefore =
	'INV|INVOICE|INVOICES|INVS|CN|CRN|CREDIT|NOTE|DOC|DOCUMENT|PAYMENT|PAY|PAID|PMT|REF|RE|RG|RECHNUNG|FACTURE|FACT|FAKTURA|NR|NO|NUM|NUMBER'
const wordBefore = new RegExp(`^(?:${wordsBefore})$`)
/** Whether a word, in capitals, only says of the number after it what it is a number of. */
export const isWordBefore = (word: string): boolean => wordBefore.test(word)
/** Signs that parts of a number may be written with, or without. */
const between = '[\\s./_–-]?'

/** Characters of a number one by one; where it has a sign, or letters meet figures, a sign may stand or be left out. */
function patternOf(number: string): string {
	const parts = number.toUpperCase().match(/\p{L}+|\p{N}+/gu) ?? []
	return parts.join(between)
}

const known = new Map<string, RegExp>()
/**
 * How a number is found in a text: in any case, with other signs between its parts or none, but never as a part of another number, and
 * never without its letters.
 */
function finderOf(number: string): RegExp {
	const found = known.get(number)
	if (found) return found
	if (known.size > 20_000) known.clear()
	// A word for an invoice may stand joined to it; another number or name may not.
	const before = `(?:(?<![\\p{L}\\p{N}])|(?<=(?<![\\p{L}\\p{N}])(?:${wordsBefore})))${/^\p{N}/u.test(number) ? '(?<!\\p{N}[.,_–-])' : ''}(?<!(?<![\\p{L}\\p{N}])(?!(?:${wordsBefore})[_–-])[\\p{L}]+[_–-])`
	const after = '(?![\\p{L}\\p{N}])(?![.,_–-]\\p{N})'
	const finder = new RegExp(`${before}${patternOf(number)}${after}`, 'gu')
	known.set(number, finder)
	return finder
}

type Numbered = { number: string }
type Place<Item> = { item: Item; at: number; end: number }

/**
 * The items whose numbers a payment's reference names, in the order in which they are named, each once. A number may be written in any
 * way (SK-1048, SK1048, Inv.SK-1048), several one after the other (SK-1048/SK-1049, or SK-1048/49 for the same two), and is never found
 * within another number.
 */
export function namedIn<Item extends Numbered>(reference: string, items: readonly Item[]): Item[] {
	const text = reference.toUpperCase().normalize('NFKC')
	const places: Place<Item>[] = []
	for (const item of items) {
		if (!/\p{N}/u.test(item.number) || !mayHold(text, item.number)) continue
		for (const match of text.matchAll(finderOf(item.number)))
			places.push({ item, at: match.index, end: match.index + match[0].length })
	}
	// Of two that stand in the same place the longer is meant.
	const meant = places.filter(
		(one) =>
			!places.some((other) => other.at <= one.at && other.end >= one.end && other.end - other.at > one.end - one.at),
	)
	const followed = meant.flatMap((place) => shortened(text, place, items))
	const all = [...meant, ...followed].sort((a, b) => a.at - b.at)
	return [...new Set(all.map(({ item }) => item))]
}

/** Whether a text holds the last figures of a number at all; spares most of the looking. */
const mayHold = (text: string, number: string): boolean =>
	text.includes(number.match(/\p{N}+(?=\P{N}*$)/u)?.[0] ?? number)

/** What follows a number in short: SK-1048/49, SK-1048 + 1049. Taken where it is the number of an item. */
function shortened<Item extends Numbered>(
	text: string,
	{ item, end }: Place<Item>,
	items: readonly Item[],
): Place<Item>[] {
	const tail = item.number.toUpperCase().match(/^(.*?)(\p{N}+)$/u)
	if (!tail) return []
	const [, head = '', figures = ''] = tail
	const found: Place<Item>[] = []
	const next = /\s*[/,+&;]\s*(\p{N}+)(?![\p{L}\p{N}])(?![.,]\p{N})/uy
	next.lastIndex = end
	for (let match = next.exec(text); match; match = next.exec(text)) {
		const short = match[1] ?? ''
		if (short.length > figures.length) break
		const whole = `${head}${figures.slice(0, figures.length - short.length)}${short}`
		const other = items.find(({ number }) => number.toUpperCase() === whole)
		if (!other) break
		found.push({ item: other, at: match.index, end: next.lastIndex })
	}
	return found
}
