'use client'
import Link from 'next/link'
import { daysBetween, dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { OwedItem } from '@/store/accounts'
import { Chip } from '@/ui/Chip'
import { type Column, Table } from '@/ui/Table'

/** Open items of several accounts. Drawn from its rows alone, to keep the page small. */
export function ItemsTable({ rows, currency, asOf }: { rows: OwedItem[]; currency: string; asOf: string }) {
	const money = ({ side }: OwedItem, minor: number) => formatMinor(side === 'debit' ? minor : -minor, currency)
	const columns: Column<OwedItem>[] = [
		{
			key: 'customer',
			label: 'Customer',
			cell: ({ customer_id, name }) => (
				<Link
					prefetch={false}
					href={`/accounts/${customer_id}?asOf=${asOf}`}
					className="font-semibold text-plum underline"
				>
					{name}
				</Link>
			),
		},
		{
			key: 'number',
			label: 'Number',
			cell: ({ number, document_id }) =>
				document_id ? (
					<Link
						prefetch={false}
						href={`/documents/${document_id}`}
						className="figures whitespace-nowrap text-plum underline"
					>
						{number}
					</Link>
				) : (
					<span className="figures whitespace-nowrap">{number}</span>
				),
		},
		{
			key: 'kind',
			label: 'Kind',
			cell: ({ kind, disputed }) => (disputed ? <Chip tone="look">{`${kind}, disputed`}</Chip> : kind),
		},
		{ key: 'day', label: 'Date', cell: ({ day }) => <span className="whitespace-nowrap">{dayText(day)}</span> },
		{
			key: 'due',
			label: 'Due',
			cell: ({ due_day, side }) =>
				side === 'debit' ? <span className="whitespace-nowrap">{dayText(due_day)}</span> : '',
		},
		{
			key: 'late',
			label: 'Days late',
			figures: true,
			cell: ({ due_day, side }) => (side === 'debit' && due_day < asOf ? daysBetween(due_day, asOf) : ''),
		},
		{ key: 'order', label: 'Their order', cell: ({ their_order }) => their_order },
		{ key: 'amount', label: 'Amount', figures: true, cell: (item) => money(item, item.amount) },
		{
			key: 'open',
			label: 'Open',
			figures: true,
			cell: (item) => <span className="font-semibold">{money(item, item.open)}</span>,
		},
	]
	return <Table label="Open items" columns={columns} rows={rows} rowKey={({ id }) => id} />
}
