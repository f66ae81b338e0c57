import type { Checked, Finding } from './finding'

/** Characters that the fonts lack would come out as empty boxes, so they stop the document. */
export function unprintable({ texts, unprintable: missing }: Pick<Checked, 'texts' | 'unprintable'>): Finding[] {
	return [...new Set(texts)].flatMap((text) => {
		const chars = missing(text.replaceAll('\t', ' '))
		if (chars.length === 0) return []
		return [
			{
				code: 'unprintable',
				level: 'stop',
				brief: `cannot print ${chars.join(' ')}`,
				text: `"${text}" holds ${chars.join(' ')}, which no typeface of papers has. Write it in letters that can be printed where it was given (Accounts, Company, Items and rates, or Change), or hold the document back.`,
			},
		]
	})
}
