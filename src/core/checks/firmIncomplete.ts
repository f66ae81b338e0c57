import type { Checked, Finding } from './finding'

/** What every invoice must say of the firm (EU VAT directive, article 226 (3), (5); BT-27, BT-31, BG-5). */
export function firmIncomplete({ firm }: Checked): Finding[] {
	const missing = [
		firm.name.trim() ? [] : ['name'],
		firm.address.trim() ? [] : ['address'],
		firm.country.trim() ? [] : ['country'],
		firm.taxNumber.trim() ? [] : ['tax number'],
	].flat()
	if (missing.length === 0) return []
	return [
		{
			code: 'firm-incomplete',
			level: 'stop',
			brief: `firm without ${missing.join(', ')}`,
			text: `The firm has no ${missing.join(', no ')}, which every invoice must bear. Give it under Company.`,
		},
	]
}
