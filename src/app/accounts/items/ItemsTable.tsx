'use client'
import { daysBetween, dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { OwedItem } from '@/store/accounts'
import { Chip } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import Link from '@/ui/Link'
import { Table } from '@/ui/Table'
import { useSorted } from '@/ui/useSorted'

/** Open items of several accounts. Drawn from its rows alone, to keep the page small. */
export function ItemsTable({ rows, currency, asOf }: { rows: OwedItem[]; currency: string; asOf: string }) {
	const money = ({ side }: OwedItem, minor: number) => formatMinor(side === 'debit' ? minor : -minor, currency)
	const columns: Column<OwedItem>[] = [
		{
			key: 'customer',
			sort: ({ name }) => name,
			label: 'Customer',
			cell: ({ customer_id, name }) => (
				<Link href={`/accounts/${customer_id}?asOf=${asOf}`} className="font-semibold text-plum underline">
					{name}
				</Link>
			),
		},
		{
			key: 'number',
			sort: ({ number }) => number,
			label: 'Number',
			cell: ({ number, document_id }) =>
				document_id ? (
					<Link href={`/documents/${document_id}`} className="figures whitespace-nowrap text-plum underline">
						{number}
					</Link>
				) : (
					<span className="figures whitespace-nowrap">{number}</span>
				),
		},
		{
			key: 'kind',
			sort: ({ kind }) => kind,
			label: 'Kind',
			cell: ({ kind, disputed }) => (disputed ? <Chip tone="look">{`${kind}, disputed`}</Chip> : kind),
		},
		{
			key: 'day',
			label: 'Date',
			sort: ({ day }) => day,
			cell: ({ day }) => <span className="whitespace-nowrap">{dayText(day)}</span>,
		},
		{
			key: 'due',
			sort: ({ due_day }) => due_day,
			label: 'Due',
			cell: ({ due_day, side }) =>
				side === 'debit' ? <span className="whitespace-nowrap">{dayText(due_day)}</span> : '',
		},
		{
			key: 'late',
			sort: ({ due_day }) => -Date.parse(due_day),
			label: 'Days late',
			figures: true,
			cell: ({ due_day, side }) => (side === 'debit' && due_day < asOf ? daysBetween(due_day, asOf) : ''),
		},
		{
			key: 'order',
			label: 'Their order',
			sort: ({ their_order }) => their_order,
			cell: ({ their_order }) => their_order,
		},
		{
			key: 'amount',
			label: 'Amount',
			figures: true,
			sort: ({ side, amount }) => (side === 'debit' ? amount : -amount),
			cell: (item) => money(item, item.amount),
		},
		{
			key: 'open',
			sort: ({ side, open }) => (side === 'debit' ? open : -open),
			label: 'Open',
			figures: true,
			cell: (item) => <span className="font-semibold">{money(item, item.open)}</span>,
		},
	]
	const by = Object.fromEntries(columns.flatMap(({ key, sort }) => (sort ? [[key, sort]] : [])))
	const { rows: shown, sorts } = useSorted(rows, by)
	return <Table label="Open items" columns={columns} rows={shown} rowKey={({ id }) => id} sorts={sorts} />
}
