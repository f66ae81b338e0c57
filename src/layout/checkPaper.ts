import { minorDigits } from '@/core/currency'
import { formatAmount, formatDay, formatDecimal, formatMoney, formatPercent } from '@/core/format'
import type { LayoutFinding } from './check'
import type { Drawn } from './draw'
import type { Content } from './fieldTypes'
import { netOf } from './netOf'
import type { Page } from './page'

// Whether a paper that was drawn bears what it must.

/** Words that a paper must bear, as a person finds them on it; by what they are. */
function required(content: Content): [what: string, text: string][] {
	const { issuer, customer, locale, currency } = content
	const all: [string, string][] = [
		['its number', content.number],
		['its date', ''],
		['the firm’s name', issuer.name],
		...issuer.address.map((line): [string, string] => ['the firm’s address', line]),
		['the customer’s name', customer.name],
		...customer.address.map((line): [string, string] => ['the customer’s address', line]),
	]
	if (content.kind === 'statement')
		return [...all, ['what is asked for', formatMoney(content.total.replace('-', ''), currency, locale)]]
	// The law asks nothing of these: what they are for must be on them.
	const { priced } = content
	if (content.kind === 'unpriced') return all
	if (content.kind === 'priced')
		return [
			...all,
			['the total', formatAmount(priced.total.replace('-', ''), locale)],
			['the last day that it stands', content.paper?.until ? formatDay(content.paper.until, locale) : ''],
		]
	return [
		...all,
		['the firm’s tax number', issuer.taxNumber],
		['the customer’s tax number', customer.tax === 'reverse-charge' ? customer.taxNumber : ''],
		// A credit's figures may stand with their sign before the currency's, or without one.
		['the total', formatAmount(priced.total.replace('-', ''), locale)],
		['the net', formatAmount(priced.net.replace('-', ''), locale)],
		...priced.taxes.flatMap(({ rate, base, tax }): [string, string][] => [
			['the base of a tax', formatAmount(base, locale)],
			['the amount of a tax', formatAmount(tax, locale)],
			['the rate of a tax', customer.tax === 'standard' ? formatPercent(rate, locale) : ''],
		]),
		...content.grounds.map(({ words }): [string, string] => ['why there is no tax', words]),
		['the number of the invoice it credits', content.refersTo?.number ?? ''],
	]
}

/** What lines in sight do not say of what was supplied (article 226 (6) and (8)): its text, quantity and price, each line's. */
function unsaidOfLines(content: Content, hidden: readonly number[], has: (wanted: string) => boolean): string[] {
	if (content.kind === 'statement') return []
	const { lines, locale, currency } = content
	const unseen = new Set(hidden)
	const unsaid = new Set<string>()
	lines.forEach(({ description, item, quantity, unitPrice }, place) => {
		if (unseen.has(place)) return
		const text = description || item
		if (text !== '' && !has(text)) unsaid.add('the text of a line')
		if (!has(formatDecimal(quantity.replace('-', ''), locale))) unsaid.add('the quantity of a line')
		if (
			content.kind !== 'unpriced' &&
			unitPrice !== null &&
			!has(formatDecimal(unitPrice, locale, minorDigits(currency)))
		)
			unsaid.add('the unit price of a line')
	})
	return [...unsaid]
}

/** Days can be written in several forms; any of them will do. */
const dayForms = ({ day, locale }: Content): string[] => [
	formatDay(day, locale),
	day,
	...(['figures', 'long'] as const).map((form) =>
		new Intl.DateTimeFormat(locale, {
			timeZone: 'UTC',
			...(form === 'figures'
				? { day: '2-digit', month: '2-digit', year: 'numeric' }
				: { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }),
		}).format(new Date(`${day}T00:00:00Z`)),
	),
]

const bare = (text: string) => text.replace(/\s/g, '').toLocaleLowerCase()
/** All that is written on pages, without spaces, so that lines may have been broken anywhere between words. */
const writtenOn = (pages: readonly Page[]): string =>
	bare(
		pages.flatMap((page) => page.flatMap((item) => (item.type === 'text' && !item.turn ? [item.text] : []))).join(''),
	)

/**
 * What is wrong with a paper as it came out: pieces that do not fit, and what EN 16931 and article 226 of the VAT directive ask for and
 * is nowhere on it (docs/law.md).
 */
export function checkPaper(content: Content, drawn: Drawn): LayoutFinding[] {
	const found: LayoutFinding[] = []
	const whose = `${content.number || 'the draft'} of ${content.customer.name}`
	for (const { piece, page, what } of drawn.troubles) {
		const words = {
			'too high': `On ${whose} it is higher than the page has room, on page ${page + 1}.`,
			'off the paper': `On ${whose} it reaches over the edge of the paper, on page ${page + 1}.`,
			'not in the window': `On ${whose} the address does not stand in the envelope’s window: too much stands above it.`,
			cut: `On ${whose} the address has more lines than the window shows.`,
		}[what]
		found.push({ level: 'stop', piece, code: what, words })
	}
	for (const { piece, what, stop } of drawn.notes)
		found.push({
			level: stop ? 'stop' : 'look',
			piece,
			code: stop ? 'too wide' : 'note',
			...(stop ? {} : { about: what }),
			words: `On ${whose}: ${what}.${stop ? ' Make the column wider, or its text smaller.' : ''}`,
		})
	for (const { piece, page } of drawn.alone)
		found.push({
			level: 'look',
			piece,
			code: 'alone',
			words: `On ${whose} it stands alone at the head of page ${page + 1}.`,
		})
	const text = writtenOn(drawn.pages)
	const has = (wanted: string) => wanted.split(/\s+/).every((word) => text.includes(bare(word)))
	const missing = new Set(required(content).flatMap(([what, wanted]) => (wanted === '' || has(wanted) ? [] : [what])))
	if (!dayForms(content).some(has)) missing.add('its date')
	for (const what of unsaidOfLines(content, drawn.outOfSight, has)) missing.add(what)
	if (missing.size > 0)
		found.push({
			level: 'stop',
			piece: '',
			code: 'must bear',
			about: [...missing].join(', '),
			words: `${whose[0]?.toUpperCase()}${whose.slice(1)} does not bear ${[...missing].join(', ')}. Put what is missing on the paper.`,
		})
	if (content.kind !== 'statement' && drawn.outOfSight.length > 0) {
		found.push({
			level: 'look',
			piece: '',
			code: 'out of sight',
			words: `${drawn.outOfSight.length} of ${content.lines.length} lines of ${whose} are in no table (${netOf(content, drawn.outOfSight)} net). The paper says so.`,
		})
	}
	return found
}
