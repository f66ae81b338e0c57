import type { Metadata } from 'next'
import { allDiscounts, taxCodesOn } from '@/store/catalogue'
import { allOwnFields } from '@/store/ownFields'
import { reading } from '../../reading'
import { OrderPad } from './OrderPad'

export const metadata: Metadata = { title: 'Write an order' }

export default async function NewOrderPage() {
	const { books, today } = await reading()
	const own = allOwnFields(books).filter(({ type }) => type !== 'picture')
	return (
		<OrderPad
			today={today}
			taxCodes={taxCodesOn(books, today).map(({ code, name, rate }) => [code, `${code}: ${name} ${rate}%`])}
			discounts={allDiscounts(books).map(({ label }) => label)}
			ofOrder={own.filter(({ of }) => of === 'order').map(({ key, name }) => ({ key, name }))}
			ofLine={own.filter(({ of }) => of === 'line').map(({ key, name }) => ({ key, name }))}
		/>
	)
}
