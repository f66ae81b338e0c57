import type { Checked, Finding } from './finding'

/** A tax code that has no rate on the document's day stops it. */
export function unknownTaxCode({ content }: Checked): Finding[] {
	return content.taxCodes
		.filter(({ name }) => name === '')
		.map(({ code }) => ({
			code: 'unknown-tax-code',
			level: 'stop',
			brief: `tax code ${code || 'missing'}`,
			text: `Tax code "${code}" has no rate on ${content.day}. Add it under Items and rates, or hold the document back.`,
		}))
}
