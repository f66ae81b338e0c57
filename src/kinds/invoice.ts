import type { BillContent } from '@/core/document'
import { billParts } from './bill'
import type { DocumentKind } from './kind'

export const invoiceKind: DocumentKind<BillContent> = {
	...billParts,
	kind: 'invoice',
	words: {
		name: 'Invoice',
		noun: 'invoice',
		nouns: 'invoices',
		run: 'invoices to',
		unit: 'order',
		drop: {
			button: 'Give all back',
			question: 'Give all orders of this run back?',
			meaning:
				'Nothing is numbered yet. The orders wait again under To bill, with what was agreed on them; the drafts are put away, and their history stays with the orders.',
			yes: 'Give all orders back',
		},
		close:
			'A closed run can be read but no longer changed. Orders that are held back or stopped wait again for the next run.',
	},
	register: { prefix: 'INV-', yearly: 0 },
	letters: {
		invoice: {
			name: 'Invoice',
			subject: 'Invoice {number} from {firm}',
			body: `Dear {customer},

our invoice {number} for {amount} is attached. It is due on {due date}.

Please quote {number} with your payment. If anything on it is not as you expect, answer this message and we will look at it at once.

With kind regards
{firm}`,
		},
	},
	letter: () => 'invoice',
}
