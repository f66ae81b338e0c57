import type { Checked, Finding } from './finding'

/** A taxed code on the order, or the freight, of a customer who pays no tax: one of the two may be wrong. */
export function exemptButTaxed({ content }: Checked): Finding[] {
	if (content.customer.tax === 'standard') return []
	const used = new Set([...content.lines, ...content.charges].map(({ taxCode }) => taxCode))
	const taxed = content.taxCodes.filter(({ code, rate }) => used.has(code) && Number(rate) > 0).map(({ code }) => code)
	if (taxed.length === 0) return []
	return [
		{
			code: 'exempt-but-taxed',
			level: 'look',
			brief: `${content.customer.tax === 'exempt' ? 'exempt' : 'reverse charge'}, order says ${taxed.join(', ')}`,
			text: `${content.customer.name} pays no tax (${content.customer.tax}), but the order carries ${taxed.join(', ')}. No tax is charged; check which is right.`,
		},
	]
}
