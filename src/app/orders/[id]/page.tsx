import { notFound } from 'next/navigation'
import { Fragment } from 'react'
import { orderedColumns } from '@/app/paperParts/columns'
import { MakePaper } from '@/app/paperParts/MakePaper'
import { VersionTable } from '@/app/paperParts/VersionTable'
import { dayText } from '@/core/calendar'
import { isZero } from '@/core/document'
import { formatMinor, formatTime } from '@/core/format'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { acceptedFrom } from '@/store/acceptedLines'
import { eventsOfDocument } from '@/store/events'
import { orderOfForm } from '@/store/files'
import { linesOf, type OrderRow, readOrder } from '@/store/orders'
import { allPaperKinds } from '@/store/paperKinds'
import { papersOfOrder } from '@/store/paperRecords'
import { Chip } from '@/ui/Chip'
import Link from '@/ui/Link'
import { PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { idOf, reading } from '../../reading'
import { OrderActs } from './OrderActs'

const lookedWords: Record<string, string> = {
	price: 'price from its item',
	text: 'text from its item',
	unit: 'unit from its item',
	tax: 'tax code from its item',
}
const lookedUp = (names: string): string =>
	names
		.split(',')
		.flatMap((name) => lookedWords[name] ?? [])
		.join(', ')

/** What was ordered of the order as a whole, where it names anything. */
function termsOf(order: OrderRow): [what: string, words: string][] {
	const { discount_percent, discount_amount, discount_label, freight, freight_percent, currency } = order
	const off = [
		isZero(discount_percent) ? '' : `${discount_percent}%`,
		isZero(discount_amount) ? '' : `${currency} ${discount_amount}`,
		discount_label,
	].filter(Boolean)
	const carried = freight_percent ? `${freight_percent}%` : isZero(freight) ? '' : `${currency} ${freight}`
	return [
		...(off.length > 0 ? [['Discount', off.join(', ')] satisfies [string, string]] : []),
		...(carried === '' ? [] : [['Freight', carried] satisfies [string, string]]),
	]
}

/** An order as it was brought in, down to the row of its file, and what became of it. */
export default async function OrderPage({ params }: { params: Promise<{ id: string }> }) {
	const { books } = await reading()
	const order = readOrder(books, idOf((await params).id))
	if (!order) notFound()
	const lines = linesOf(books, order.id)
	const written = orderOfForm(books, order.source_file_id) !== null
	const waits = order.run_id === null && order.away_how === null
	const kinds = allPaperKinds(books, true)
	const makeable = kinds
		.filter(({ records, away_at }) => records === 'orders' && away_at === null)
		.slice(0, 9)
		.map(({ id, name }, place) => ({ name, hint: String(place + 1), kind: id, order: order.id }))
	const papers = papersOfOrder(books, order.id)
	const from = acceptedFrom(books, order.id)
	const held = order.held_reason === null ? '' : `${order.held_reason} (${order.held_by})`
	return (
		<>
			<PageHead title={`Order ${order.number}${order.apart === '' ? '' : ` (${order.apart})`}`} about={order.customer}>
				{order.away_how === null && order.part_of === null && <MakePaper makeable={makeable} />}
				{waits && <OrderActs order={{ id: order.id, number: order.number, held }} />}
			</PageHead>
			<dl className="grid grid-cols-[150px_1fr] gap-y-1 px-5 pb-4">
				<dt className="text-mute">Where it stands</dt>
				<dd>
					{order.away_how ? (
						<Chip tone="look">{`${order.away_how}: ${order.away_reason}`}</Chip>
					) : order.document_id ? (
						<Link href={`/documents/${order.document_id}`} className="text-plum underline">
							{order.billed ? 'billed' : 'on a draft'}
						</Link>
					) : held ? (
						<Chip tone="look">{`held back: ${held}`}</Chip>
					) : (
						'waits to be billed'
					)}
				</dd>
				<dt className="text-mute">Date</dt>
				<dd className="figures">{dayText(order.day)}</dd>
				<dt className="text-mute">Their order</dt>
				<dd className="figures">{order.purchase_order || '–'}</dd>
				<dt className="text-mute">Net</dt>
				<dd>
					<span className="figures font-semibold">{formatMinor(netOfOrder(books, order), order.currency)}</span>{' '}
					{order.currency}
					{order.looked_up.includes('currency') && <span className="text-mute"> (currency from its customer)</span>}
				</dd>
				{termsOf(order).map(([what, words]) => (
					<Fragment key={what}>
						<dt className="text-mute">{what}</dt>
						<dd className="figures">{words}</dd>
					</Fragment>
				))}
				<dt className="text-mute">Brought in by</dt>
				<dd>
					{from ? (
						<>
							{`accepted by ${from.clerk} from `}
							<Link href={`/documents/${from.document_id}`} className="text-plum underline">
								{`${kinds.find(({ key }) => key === from.kind)?.name ?? 'paper'} ${from.number}`}
							</Link>
							{from.reason && <span className="text-mute">{`, after its last day: ${from.reason}`}</span>}
						</>
					) : written ? (
						'written in the order form'
					) : (
						<Link href={`/bring-in/${order.source_file_id}`} className="text-plum underline">
							{order.source_file}
						</Link>
					)}
				</dd>
			</dl>
			<Section title="Its lines">
				<Table
					label="Lines of the order"
					rows={lines}
					rowKey={({ id }) => id}
					columns={[
						{
							key: 'row',
							label: 'Row',
							figures: true,
							width: '64px',
							cell: ({ source_row }) =>
								written ? (
									source_row
								) : (
									<Link href={`/bring-in/${order.source_file_id}?row=${source_row}`} className="text-plum underline">
										{source_row}
									</Link>
								),
						},
						...orderedColumns(),
						{
							key: 'price',
							label: 'Price',
							figures: true,
							width: '130px',
							cell: ({ unit_price, price_per }) =>
								unit_price === null ? 'none' : price_per === '1' ? unit_price : `${unit_price} per ${price_per}`,
						},
						{
							key: 'discount',
							label: 'Discount',
							figures: true,
							width: '100px',
							cell: ({ discount_percent, discount_amount }) =>
								discount_amount || (discount_percent === '0' ? '' : `${discount_percent}%`),
						},
						{ key: 'tax', label: 'Tax', width: '80px', cell: ({ tax_code }) => tax_code },
						{
							key: 'from',
							label: 'Looked up',
							width: '220px',
							cell: ({ looked_up }) => <span className="text-mute">{lookedUp(looked_up)}</span>,
						},
					]}
				/>
			</Section>
			{(papers.length > 0 || makeable.length > 0) && (
				<Section title="Its papers" aside="Beside its invoice; nothing is billed by them">
					<VersionTable
						papers={papers}
						none="None was made yet."
						kinds={Object.fromEntries(kinds.map(({ key, name }) => [key, name]))}
					/>
				</Section>
			)}
			<Section title="What happened to it">
				<ul className="space-y-1 px-5 pb-4">
					{eventsOfDocument(books, [], [order.id]).map(({ id, at, clerk, act, detail }) => (
						<li key={id}>
							<span className="figures text-mute">{formatTime(at)}</span> {clerk} {act}
							{detail && <span className="text-mute">: {detail}</span>}
						</li>
					))}
				</ul>
			</Section>
		</>
	)
}
