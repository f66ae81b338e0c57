import type { BillContent } from '@/core/document'
import { billParts } from './bill'
import { invoiceKind } from './invoice'
import type { DocumentKind } from './kind'

/** What credits an invoice, or stands alone for goods that came back. */
export const creditNoteKind: DocumentKind<BillContent> = {
	...billParts,
	kind: 'credit-note',
	words: {
		...invoiceKind.words,
		name: 'Credit note',
		noun: 'credit note',
		nouns: 'credit notes',
		run: 'credit note of',
		drop: {
			button: 'Drop the draft',
			question: 'Drop this credit note?',
			meaning: 'It has no number yet. The draft is put away; what it credits stays as it is.',
			yes: 'Drop the draft',
		},
	},
	register: { prefix: 'CN-{year}-', yearly: 1 },
	letters: {
		'credit-note': {
			name: 'Credit note',
			subject: 'Credit note {number} from {firm}',
			body: `Dear {customer},

our credit note {number} for {amount} is attached. It credits our invoice {credited invoice}; nothing is to be paid on it.

With kind regards
{firm}`,
		},
		return: {
			name: 'Credit note for a return',
			subject: 'Credit note {number} from {firm}',
			body: `Dear {customer},

our credit note {number} for {amount} is attached, for what came back. Nothing is to be paid on it; the amount stands to your credit.

With kind regards
{firm}`,
		},
	},
	letter: ({ refersTo }) => (refersTo ? 'credit-note' : 'return'),
}
