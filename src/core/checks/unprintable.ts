import type { Checked, Finding } from '.'

/** Characters that the fonts lack would come out as empty boxes, so they stop the document. */
export function unprintable({ content, unprintable: missing }: Checked): Finding[] {
	const { customer, lines, orders, issuer } = content
	const texts = [
		customer.name,
		...customer.address,
		...lines.map(({ description }) => description),
		...orders.map(({ purchaseOrder }) => purchaseOrder),
		issuer.name,
		...issuer.address,
		...issuer.bank,
	]
	return texts.flatMap((text) => {
		const chars = missing(text)
		if (chars.length === 0) return []
		return [
			{
				code: 'unprintable',
				level: 'stop',
				brief: `cannot print ${chars.join(' ')}`,
				text: `"${text}" holds ${chars.join(' ')}, which the layout's font does not have. Write it in letters that can be printed under Accounts, or hold the document back.`,
			},
		]
	})
}
