import { expect, test } from 'vitest'
import { checkFields, checkSettings, typedCheckSettings, usualCheckSettings as usual } from './settings'

/** The usual settings as the form of a firm in pounds has them. */
const form = Object.fromEntries(
	checkSettings.map((key) => {
		const value = usual[key]
		if (checkFields[key].as === 'amount') return [key, (Number(value) / 100).toFixed(2)]
		return [key, typeof value === 'boolean' ? (value ? 'on' : undefined) : String(value)]
	}),
)

test('every setting is read back from the form as it was put there', () => {
	expect(typedCheckSettings(form, 'GBP')).toEqual({ ok: true, value: usual })
	for (const key of checkSettings)
		if (checkFields[key].as === 'switch')
			expect(typedCheckSettings({ ...form, [key]: 'on' }, 'GBP')).toMatchObject({ ok: true, value: { [key]: true } })
})

test.each(checkSettings.filter((key) => checkFields[key].as !== 'switch'))(
	'%s that cannot be is refused by its name',
	(key) => {
		for (const bad of ['x', '-1', checkFields[key].as === 'day' ? '2026-02-30' : '1e999'])
			expect(typedCheckSettings({ ...form, [key]: bad }, 'GBP')).toMatchObject({ ok: false, refusal: { path: key } })
	},
)

test('a figure may be as small or as large as its bounds, and no further', () => {
	for (const key of checkSettings) {
		const asked = checkFields[key]
		if (asked.as !== 'figure') continue
		for (const [figure, ok] of [
			[asked.least, true],
			[asked.least - 0.5, false],
			[asked.most ?? 1e6, true],
			...(asked.most === undefined ? [] : [[asked.most + 0.5, false] as const]),
		] as const)
			expect([key, figure, typedCheckSettings({ ...form, [key]: String(figure) }, 'GBP').ok]).toEqual([key, figure, ok])
	}
})
