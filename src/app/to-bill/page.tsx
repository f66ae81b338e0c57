import type { Metadata } from 'next'
import { netsOfOrders } from '@/runs/drafts/orderNets'
import { waitingOrders } from '@/store/orders'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'
import { reading } from '../reading'
import { WaitingList } from './WaitingList'

export const metadata: Metadata = { title: 'To bill' }

export default async function ToBillPage({ searchParams }: { searchParams: Promise<{ show?: string }> }) {
	const { books, today } = await reading()
	const { show = '' } = await searchParams
	const waiting = waitingOrders(books)
	const nets = netsOfOrders(books, waiting)
	const orders = waiting.map(
		({
			id,
			number,
			apart,
			customer,
			customer_id,
			day,
			purchase_order,
			currency,
			line_count,
			source_file,
			held_reason,
			held_by,
		}) => ({
			id,
			number: apart === '' ? number : `${number} (${apart})`,
			customer,
			customerId: customer_id,
			day,
			purchaseOrder: purchase_order,
			currency,
			net: nets.get(id) ?? 0,
			lines: line_count,
			source: source_file,
			held: held_reason === null ? '' : `${held_reason} (${held_by})`,
		}),
	)
	if (orders.length === 0) {
		return (
			<>
				<PageHead title="To bill" about="Orders that wait for a run" />
				<Empty title="No order waits to be billed">
					<p>Orders wait here from the moment a file of them is accepted until a run takes them up.</p>
					<Link href="/bring-in" className={buttonLook('main')}>
						Bring in a file of orders
					</Link>{' '}
					<Link href="/orders/new" className={buttonLook()}>
						Write an order
					</Link>
				</Empty>
			</>
		)
	}
	return <WaitingList orders={orders} workDate={today} show={show} />
}
