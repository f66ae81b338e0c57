import { isZero } from '../document'
import type { Checked, Finding } from './finding'

/** Tax in another currency must stand in the home currency too (EU VAT directive, article 230; BT-111). */
export function homeTaxMissing({ content, homeCurrency }: Checked): Finding[] {
	const { currency, home, priced } = content
	if (
		currency === homeCurrency ||
		homeCurrency === '' ||
		home !== null ||
		content.rest?.home ||
		isZero(priced.taxTotal.replace('-', ''))
	)
		return []
	return [
		{
			code: 'home-tax',
			level: 'stop',
			brief: `no rate of ${currency}`,
			text: `Its tax must stand in ${homeCurrency} too, and there is no worth of ${currency} on or before its day. Give it under Items and rates.`,
		},
	]
}
