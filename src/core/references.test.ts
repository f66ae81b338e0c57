import { expect, test } from 'vitest'
import { namedIn } from './references'

const items = [
	'SK-1048',
	'SK-10480',
	'SK-1049',
	'CN-12',
	'2048',
	'SK-09824',
	'2026/001',
	'T-0041/2',
	'T-0041',
	'CS 9',
	'',
	'GOODWILL',
].map((number) => ({ number }))

test.each([
	['SK-1048/SK-10480', 'SK-1048', 'SK-10480'],
	['SK1048', 'SK-1048'],
	['Inv.SK-1048', 'SK-1048'],
	['INVSK1048', 'SK-1048'],
	['INV-SK-1048', 'SK-1048'],
	['inv sk 1048 less cn12', 'SK-1048', 'CN-12'],
	['SK-1048/49', 'SK-1048', 'SK-1049'],
	['SK-1048 + 1049', 'SK-1048', 'SK-1049'],
	['SK-1049,SK-1048', 'SK-1049', 'SK-1048'],
	['sk–09824', 'SK-09824'],
	['(SK-1048), 100.00', 'SK-1048'],
	['no.2048', '2048'],
	['2026/001', '2026/001'],
	['INV:T-0041/2', 'T-0041/2'],
	['BACS t-0041.', 'T-0041'],
	['cs 9 cheque', 'CS 9'],
])('%s names what it names, in its order', (reference, ...numbers) => {
	expect(namedIn(reference, items).map(({ number }) => number)).toEqual(numbers)
})

test.each([
	'SK-10481',
	'SK-1048-2',
	'A-SK-1048',
	'XSK-1048',
	'1048',
	'3.2048',
	'SK-2048',
	'SK-1048.50',
	'20480',
	'goodwill',
	'',
])('%s names nothing: a number is never found within another, nor without its letters', (reference) => {
	expect(namedIn(reference, items)).toEqual([])
})
