import { type DocumentContent, documentSchema } from './document'
import { type StatementContent, statementSchema } from './statement'

/** What any document says: an invoice, a credit note, a statement. */
export type PaperContent = DocumentContent | StatementContent

/** Reads a document's kept content. */
export function readPaper(text: string): PaperContent {
	const kept: unknown = JSON.parse(text)
	const statement = typeof kept === 'object' && kept !== null && 'kind' in kept && kept.kind === 'statement'
	return statement ? statementSchema.parse(kept) : documentSchema.parse(kept)
}

/** Every text on it that a customer reads, for what the fonts must have. */
export function textsOf(content: PaperContent): string[] {
	const { customer, issuer } = content
	const frame = [customer.name, ...customer.address, issuer.name, ...issuer.address, ...issuer.bank]
	return content.kind === 'statement'
		? [
				...frame,
				...content.items.flatMap(({ number, theirOrder }) => [number, theirOrder]),
				...content.movements.map(({ words }) => words),
			]
		: [
				...frame,
				...content.lines.map(({ description }) => description),
				...content.orders.map(({ purchaseOrder }) => purchaseOrder),
			]
}
