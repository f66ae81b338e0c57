import type { BillContent } from '@/core/document'
import { freightOrder } from '@/core/freight'
import { languagesFor, type Said, sayIn } from './languages'
import { word } from './words'

/**
 * What a paper calls a charge: freight in its language, with its order where there are several. What was issued before says it in English.
 * @param say how the paper says a word
 */
export function chargeNameOn(
	content: Pick<BillContent, 'charges' | 'orders'>,
	place: number,
	say: (said: Said) => string,
): string {
	const charge = content.charges[place]
	const freight = say(word('Freight'))
	if (!charge) return freight
	if (charge.label !== '') return charge.label.replace(/^Freight/, freight)
	const order = freightOrder(charge, content.orders)
	return order === '' ? freight : `${freight}, ${say(word('order'))} ${order}`
}

/** The same for a line of a credit note, in the language of its invoice. */
export const chargeNameFor =
	(bill: BillContent) =>
	(place: number): string =>
		chargeNameOn(bill, place, (said) => sayIn(said, languagesFor(bill)))
