import { type PaperContent, textsOf } from '../paper'
import type { Checked, Finding } from '.'

/** Characters that the fonts lack would come out as empty boxes, so they stop the document. */
export function unprintable({
	content,
	unprintable: missing,
}: { content: PaperContent } & Pick<Checked, 'unprintable'>): Finding[] {
	return [...new Set(textsOf(content))].flatMap((text) => {
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
