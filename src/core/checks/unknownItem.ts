import type { Checked, Finding } from './finding'

/** Codes that are not among the firm's items. */
export function unknownItem({ content, items }: Checked): Finding[] {
	const unknown = [...new Set(content.lines.map(({ item }) => item))].filter((code) => code !== '' && !items.has(code))
	if (unknown.length === 0) return []
	return [
		{
			code: 'unknown-item',
			level: 'look',
			brief: `unknown item ${unknown.join(', ')}`,
			text: `${unknown.join(', ')} ${unknown.length === 1 ? 'is' : 'are'} not among the items. The line carries what the order says; add the item under Items and rates if it is sold again.`,
		},
	]
}
