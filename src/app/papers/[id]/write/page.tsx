import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { OrderPad } from '@/app/orderPad/OrderPad'
import { padProps } from '@/app/orderPad/padProps'
import { readPaperKind } from '@/store/paperKinds'
import { idOf, reading } from '../../../reading'

export const metadata: Metadata = { title: 'Write' }

/** The order form, for a kind of paper in place of an order. */
export default async function WritePage({ params }: { params: Promise<{ id: string }> }) {
	const { books, today } = await reading()
	const kind = readPaperKind(books, idOf((await params).id))
	if (kind?.records !== 'form' || kind.away_at) notFound()
	return <OrderPad {...padProps(books, today)} kind={{ id: kind.id, name: kind.name }} />
}
