import { type AnyContent, fieldValues } from '@/kinds'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { type OwnMessage, ownMessage } from '@/store/messages'

// A message that a person wrote for one paper names figures of it: where the paper says otherwise by now, it is read again.

/** Figures in a text by their digits alone, however they are parted; of a whole amount also without its noughts. */
const figuresIn = (text: string): Set<string> =>
	new Set(
		(text.match(/\d[\d.,'’\u00a0\u202f]*/g) ?? []).flatMap((figure) => {
			const digits = figure.replace(/\D/g, '').replace(/^0+(?=\d)/, '')
			return /[.,]00$/.test(figure) ? [digits, digits.slice(0, -2)] : [digits]
		}),
	)

/**
 * What a message that a person wrote names and its paper says otherwise by now, in words; empty where it names nothing of it.
 * @param said what the paper said when it was written
 */
export function outdatedWords(
	{ subject, body, said }: Pick<OwnMessage, 'subject' | 'body' | 'said'>,
	content: AnyContent,
): string {
	if (said === '') return ''
	const text = `${subject}\n${body}`
	const named = figuresIn(text)
	const now: Record<string, string> = fieldValues(content)
	return Object.entries(JSON.parse(said) as Record<string, string>)
		.flatMap(([field, was]) => {
			const is = now[field] ?? ''
			if (was === '' || was === is) return []
			const still = figuresIn(is)
			const figures = [...figuresIn(was)].some((figure) => named.has(figure) && !still.has(figure))
			return figures || text.includes(was) ? [was.includes('\n') ? field : `${was} → ${is || 'none'}`] : []
		})
		.join('; ')
}
/** What a paper says, as it is kept beside a message. */
export const saidBy = (content: AnyContent): string => JSON.stringify(fieldValues(content))

/** Holds the message that a person wrote for a document to be read again, where it names what the document says otherwise by now. */
export function askToRead(books: Books, desk: Desk, documentId: number): void {
	const own = ownMessage(books, documentId)
	const document = own && readAnyDocument(books, documentId)
	const words = document && own ? outdatedWords(own, document.content) : ''
	if (!document || words === '' || document.message_held === 1 || !holdMessage(books, documentId, true)) return
	const detail = `${document.customer_name}: ${words}`
	record(books, desk, {
		subject: 'document',
		id: documentId,
		act: 'held its message: written before it changed',
		detail,
	})
}
