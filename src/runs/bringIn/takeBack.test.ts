import { expect, test } from 'vitest'
import { waitingCount } from '@/store/orders'
import { desk, firmBooks, orderHead } from '../../../tests/support'
import { acceptNow, lookAt } from './atOnce'
import { takeFileBack } from './takeBack'

test('a file that is taken back twice is back all the same; one that counts nowhere is not', async () => {
	const books = firmBooks()
	const file = await lookAt(
		books,
		desk,
		'orders.csv',
		Buffer.from(`${orderHead}\n8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,\n`),
		{
			days: 'day first',
		},
	)
	expect(await takeFileBack(books, desk, file, 'wrong month')).toMatchObject({ ok: false })
	await acceptNow(books, desk, file)
	const words = '1 orders were taken back: wrong month.'
	expect(await takeFileBack(books, desk, file, 'wrong month')).toEqual({ ok: true, words })
	expect(await takeFileBack(books, desk, file, 'once more')).toEqual({ ok: true, words })
	expect(waitingCount(books)).toBe(0)
})
