import type { Metadata } from 'next'
import { reading } from '../../reading'
import { OrderPad } from './OrderPad'
import { padProps } from './padProps'

export const metadata: Metadata = { title: 'Write an order' }

export default async function NewOrderPage() {
	const { books, today } = await reading()
	return <OrderPad {...padProps(books, today)} />
}
