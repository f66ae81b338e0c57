import type { BillContent } from '@/core/document'
import { formatDay } from '@/core/format'
import { ownKind, type PaperBase, type PaperKindBody } from '@/core/paperKind'
import { billParts } from './bill'
import { invoiceKind } from './invoice'
import type { DocumentKind } from './kind'

// Kinds that a firm makes: what is the same for all of them. How each is called stands in the books (`store/paperKinds`).

const fields: DocumentKind<BillContent>['fields'] = (content) => ({
	...billParts.fields(content),
	...(content.kind === 'unpriced' ? { amount: '' } : {}),
	paper: content.paper?.name ?? '',
	'last day': content.paper?.until ? formatDay(content.paper.until, content.locale) : '',
	// What it would be due is the invoice's to say.
	'due date': '',
})

const parts = {
	...billParts,
	register: { prefix: '', yearly: 0 as const },
	letters: {},
	letter: ({ kind, paper }: BillContent): string => ownKind(kind as PaperBase, paper?.id ?? 0),
	fields,
	texts: (content: BillContent) => [
		...billParts.texts(content),
		content.paper?.name ?? '',
		...Object.values(content.paper?.names ?? {}),
	],
	bills: false,
	enters: () => null,
}

/** Words of a kind by what the firm calls it. */
export const paperWords = ({ name, several }: Pick<PaperKindBody, 'name' | 'several'>): DocumentKind['words'] => ({
	name,
	noun: inSentence(name),
	nouns: inSentence(several),
	run: `${inSentence(several)} of`,
	unit: 'record',
	drop: {
		button: 'Drop all',
		question: `Drop these ${inSentence(several)}?`,
		meaning:
			'Nothing is issued yet. The drafts are put away with their notes; what they were made from stays as it is.',
		yes: `Drop the ${inSentence(several)}`,
	},
	close: invoiceKind.words.close.replace(/ Orders .*$/, ''),
})

/** Within a sentence: in small letters, unless the word has others that are not its first. */
const inSentence = (name: string): string =>
	/^\p{Lu}[^\p{Lu}]*$/u.test(name) ? `${name[0]?.toLowerCase()}${name.slice(1)}` : name

const unnamed = { name: 'Paper', several: 'papers' }
const kindOfBase = (kind: PaperBase): DocumentKind<BillContent> => ({ ...parts, kind, words: paperWords(unnamed) })

export const pricedKind = kindOfBase('priced')
export const unpricedKind: DocumentKind<BillContent> = { ...kindOfBase('unpriced'), verify: () => '' }

/** The letter of a kind until the firm writes its own. */
export const firstPaperLetter = ({ name, stands, numbered }: Pick<PaperKindBody, 'name' | 'stands' | 'numbered'>) => ({
	name,
	subject: `${name}${numbered ? ' {number}' : ''} from {firm}`,
	body: `Dear {customer},

our ${inSentence(name)}${numbered ? ' {number}' : ''} is attached.${stands === null ? '' : ' It stands until {last day}.'}

If anything on it is not as you expect, answer this message and we will look at it at once.

With kind regards
{firm}`,
})
