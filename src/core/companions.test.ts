import { expect, test } from 'vitest'
import { writers } from '@/companions'
import { companionLists, companions, companionsIn, isCompanionList } from './companions'

test('every list of formats that is offered is one, is read back as it is, and each format has a writer', () => {
	const lists = companionLists()
	expect(lists).toHaveLength(2 ** companions.length - 1)
	for (const list of lists) {
		expect(isCompanionList(list)).toBe(true)
		expect(companionsIn(list).join()).toBe(list)
	}
	expect(Object.keys(writers).sort()).toEqual([...companions].sort())
})

test('a list with a format that there is not, or with one twice, is none', () => {
	const [first = ''] = companions
	expect([`${first},${first}`, `${first},pdf`, ',', 'none'].map(isCompanionList)).toEqual([false, false, false, false])
	expect(isCompanionList('')).toBe(true)
})
