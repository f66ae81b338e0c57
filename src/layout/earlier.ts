import type { Content } from './fieldTypes'
import type { Metrics, Page } from './page'
import { layoutInvoice as firstBill } from './v1/invoice'
import { layoutStatement as firstStatement } from './v1/statement'
import { layoutBill } from './v2/bill'
import type { LogoShape } from './v2/frame'
import { layoutStatement } from './v2/statement'

/** Draws a paper that was issued before layouts were data, as it was drawn then. */
export function drawEarlier(content: Content, metrics: Metrics, logo: LogoShape): Page[] {
	const first = content.layout.version === 1
	if (content.kind === 'statement')
		return first ? firstStatement(content, metrics, logo) : layoutStatement(content, metrics, logo, 'Statement')
	if (first) return firstBill(content, metrics, logo)
	return layoutBill(content, metrics, logo, content.kind === 'invoice' ? 'Invoice' : 'Credit note')
}
