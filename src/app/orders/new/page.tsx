import type { Metadata } from 'next'
import { OrderPad } from '@/app/orderPad/OrderPad'
import { padProps } from '@/app/orderPad/padProps'
import { reading } from '../../reading'

export const metadata: Metadata = { title: 'Write an order' }

export default async function NewOrderPage() {
	const { books, today } = await reading()
	return <OrderPad {...padProps(books, today)} />
}
