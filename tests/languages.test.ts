import { expect, test } from 'vitest'
import { type BillContent, priceInputOf, spokenNow } from '@/core/document'
import { usualGround } from '@/core/law'
import { price, pricedText } from '@/core/price'
import type { Movement, StatementContent } from '@/core/statement'
import type { AnyContent } from '@/kinds'
import { drawPaper } from '@/layout/draw'
import { type Language, languageNames, languages, sayIn } from '@/layout/languages'
import { looksOf, paperKinds } from '@/layout/looks'
import { samplePaper } from '@/layout/sample'
import { paperWords, word } from '@/layout/words'
import { metrics } from '@/pdf/fontKit'
import { look, lookNames } from './looks'
import { tools } from './pieces'

// Every kind of paper, in every look and every language, with all that the program says on it by itself: what stands there is of the
// paper's language, or a value of its own. Values are written in figures here, so that every word is the program's.

const locales: Record<Language, string> = {
	en: 'en-GB',
	de: 'de-DE',
	fr: 'fr-FR',
	es: 'es-ES',
	nb: 'nb-NO',
	nl: 'nl-NL',
}
const tokens = (text: string): string[] => text.match(/\p{L}{2,}/gu) ?? []

/** What a shipped look says in a language, within whatever it is made of. */
function saidIn(look: unknown, language: Language): string[] {
	if (typeof look !== 'object' || look === null) return []
	const own = language in look && 'en' in look ? (look as Record<string, unknown>)[language] : undefined
	return [
		...(typeof own === 'string' ? tokens(own) : tokens(JSON.stringify(own ?? ''))),
		...Object.values(look).flatMap((part) => saidIn(part, language)),
	]
}

/** Words of a language: those of the program and its looks, its months, and what is written the same everywhere. */
function wordsOf(language: Language): Set<string> {
	const said = [
		...paperWords.flatMap((key) => tokens(sayIn(word(key), [language]))),
		...paperKinds.flatMap((kind) => saidIn(looksOf(kind), language)),
		...['EXEMPT', 'REVERSE'].flatMap((code) => tokens(usualGround(code, language))),
	]
	const months = Array.from({ length: 12 }, (_, month) =>
		(['short', 'long'] as const).flatMap((form) =>
			tokens(
				new Intl.DateTimeFormat(locales[language], { day: 'numeric', month: form, year: 'numeric', timeZone: 'UTC' })
					.format(Date.UTC(2026, month, 3))
					.replace('Sept', 'Sep'),
			),
		),
	).flat()
	return new Set([...said, ...months, 'GBP', 'EUR', 'IBAN', 'BIC', 'GB'].map((one) => one.toLowerCase()))
}

/** A value with its letters as figures: what is data has no word. Codes, ways and what the program words itself stay. */
const kept = new Set([
	'kind',
	'tax',
	'locale',
	'currency',
	'form',
	'show',
	'credits',
	'letter',
	'name of step',
	'terms',
	'what',
	'as',
])
function inFigures<Value>(value: Value, key = ''): Value {
	if (kept.has(key)) return value
	if (Array.isArray(value)) return value.map((one) => inFigures(one, key)) as Value
	if (typeof value === 'object' && value !== null)
		return Object.fromEntries(Object.entries(value).map(([own, one]) => [own, inFigures(one, own)])) as Value
	return (typeof value === 'string' ? value.replace(/\p{L}/gu, '7') : value) as Value
}

/** Papers of a kind that between them say all there is to say. */
function papersOf(kind: AnyContent['kind'], language: Language): AnyContent[] {
	const sample = samplePaper(kind)
	if (sample.kind === 'statement') return statements(sample)
	const plain: BillContent = {
		...inFigures(sample),
		spoken: spokenNow,
		discounts: [
			{ label: '', percent: '3' },
			{ label: 'Standing discount', percent: '2', standing: true },
		],
		charges: [0, 1].map((order) => ({ label: '', order, taxCode: '777', amount: '4.00' })),
		...(sample.paper ? { paper: { ...sample.paper, name: '77', version: 2 } } : {}),
	}
	const terms = [
		'30 days',
		'On receipt',
		'End of month',
		'10 days from end of month',
		'Day 5 of next month',
		'Day 5 of this month',
		'Day 5 of 3 months on',
	]
	const variants: BillContent[] = [
		...terms.map((one) => ({ ...plain, terms: one })),
		{ ...plain, number: '', revision: 1 },
		{ ...plain, revision: 2 },
		...(['REVERSE', 'EXEMPT'] as const).map((code) => ({
			...plain,
			customer: { ...plain.customer, tax: code === 'EXEMPT' ? ('exempt' as const) : ('reverse-charge' as const) },
			grounds: [{ code, words: usualGround(code, language) }],
		})),
		{ ...plain, home: { currency: 'EUR', rate: '1.2', day: '2026-10-31', tax: '10.00' } },
		{
			...plain,
			lines: Array.from({ length: 90 }, (_, place) => plain.lines[place % 3] ?? plain.lines[0]).flatMap(
				(line) => line ?? [],
			),
		},
		{ ...plain, lines: plain.lines.map((line) => ({ ...line, unitPrice: null })), number: '' },
	]
	return variants.map((content) => {
		const priced = price(priceInputOf(content))
		if (!priced.ok) throw new Error(priced.refusal.message)
		return { ...content, priced: pricedText(priced.value) }
	})
}

function statements(sample: StatementContent): AnyContent[] {
	const { buckets } = sample
	const plain = { ...inFigures(sample), buckets, spoken: spokenNow }
	const item = (kind: StatementContent['items'][number]['kind'], number: string, more = {}) => ({
		...{ id: 9, kind, number, day: '2026-08-31', due: '2026-09-30', theirOrder: '', amount: '5.00', open: '5.00' },
		...{ daysPastDue: 31, pastDue: true, disputed: false, ...more },
	})
	const items = [
		item('payment', 'Payment of 2026-10-03', { open: '-5.00' }),
		item('payment', '77 returned'),
		item('charge', '77 charge', { disputed: true, pastDue: false }),
		item('adjustment', 'Set off against 77'),
		item('adjustment', 'Set off from 77 undone'),
		item('credit', '77', { open: '-5.00' }),
		item('charge', '77/7'),
	]
	const movement = (said: NonNullable<Movement['said']>): Movement => ({
		...{ day: '2026-10-03', words: 'English words of before', said, change: '5.00', balance: '5.00' },
	})
	const whats = [
		'invoice',
		'credit',
		'payment',
		'charge',
		'adjustment',
		'refund',
		'returned payment',
		'debit note',
		'write-off',
		'set-off',
		'undone',
		'removed',
		'settled',
		'open again',
	]
	const endings = ['undone', 'written off', 'removed', 'returned', 'charge', 'adjusted']
	const movements = [
		...whats.map((what) => movement({ what, number: '77' })),
		...endings.map((ending) => movement({ what: 'adjustment', number: `77 ${ending}` })),
		movement({
			what: 'changed',
			number: '77',
			amounts: ['1.00', '2.00'],
			due: ['2026-05-01', '2026-06-01'],
			dated: '2026-06-02',
		}),
	]
	return [
		{ ...plain, items, charge: { amount: '5.00', working: ['in English'], items: [], parts: [] } },
		{ ...plain, number: '', items },
		{ ...plain, form: 'balance forward', since: '2026-10-01', items: [], movements },
		{ ...plain, show: 'past-due', stage: 2, letter: 'past-due-2', promised: '5.00' },
		{ ...plain, balance: '-5.00', total: '-5.00', items: [], pastDue: '0.00' },
	]
}

test.each(
	languages.filter((language) => language !== 'en').map((language) => [languageNames[language], language] as const),
)('every kind of paper in every look says nothing but %s', (_, language) => {
	const own = wordsOf(language)
	const english = wordsOf('en')
	const strange = new Set<string>()
	let drawn = 0
	for (const kind of paperKinds)
		for (const paper of papersOf(kind, language))
			for (const name of lookNames) {
				const content = { ...paper, locale: locales[language], issuer: { ...paper.issuer, language } } as AnyContent
				const { pages } = drawPaper(look(content.kind, name), content, { ...tools, metrics }, null)
				for (const piece of pages.flat())
					if (piece.type === 'text')
						for (const token of tokens(piece.text)) {
							drawn++
							if (!own.has(token.toLowerCase()))
								strange.add(
									`${kind}: ${token} in “${piece.text}”${english.has(token.toLowerCase()) ? ' is English' : ''}`,
								)
						}
			}
	expect([...strange]).toEqual([])
	expect(drawn).toBeGreaterThan(1000)
})
