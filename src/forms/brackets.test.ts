import fc from 'fast-check'
import { expect, test } from 'vitest'
import { walks } from '../../tests/walks'
import { withBrackets } from './brackets'
import { type Inline, textOf } from './form'

test('marks among text torn into runs anywhere leave every letter where it stood, once', () => {
	const part = fc.oneof(
		fc.constantFrom(
			'{{date}}',
			'[[Kunde]]',
			'«Name»',
			'<a>',
			'{b1}',
			'$' + '{net}',
			' ',
			': ',
			'Date',
			'{{',
			']]',
			'{',
			'x',
		),
		fc.string({ maxLength: 4 }),
	)
	fc.assert(
		fc.property(fc.array(part, { maxLength: 12 }), fc.array(fc.nat(60), { maxLength: 8 }), (parts, cuts) => {
			const text = parts.join('')
			const places = [0, ...cuts.map((cut) => Math.min(cut, text.length)), text.length].sort((a, b) => a - b)
			const runs = places.slice(1).map((to, index): Inline => {
				const style = index % 2 === 0 ? {} : { bold: true as const }
				return { is: 'text', text: text.slice(places[index], to), style }
			})
			const whole = withBrackets([{ is: 'text', text, style: {} }])
			const torn = withBrackets(runs)
			expect(textOf(torn)).toBe(text)
			const names = (inlines: Inline[]) => inlines.flatMap((one) => (one.is === 'mark' ? [one.name] : []))
			expect(names(torn)).toEqual(names(whole))
		}),
		{ numRuns: walks(200) },
	)
})
