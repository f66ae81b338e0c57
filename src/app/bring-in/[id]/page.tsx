import Link from 'next/link'
import { notFound } from 'next/navigation'
import { formatMinor, formatTime } from '@/core/format'
import { fieldsFor } from '@/intake/kinds'
import type { IntakeResult } from '@/intake/orders'
import type { PaymentsResult } from '@/intake/payments'
import type { RowRefusal } from '@/intake/reading'
import { type Review, reviewFile } from '@/runs/bringIn'
import { whyNotAccepted } from '@/runs/extract'
import type { Books } from '@/store/books'
import { allCustomers } from '@/store/customers'
import { allOwnFields } from '@/store/ownFields'
import { buttonLook } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'
import { idOf, reading as readingOf } from '../../reading'
import { Accept } from './Accept'
import { currencyColumn } from './currencyColumn'
import { ExtractSays } from './ExtractSays'
import { Reading } from './Reading'

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ again?: string }> }

export default async function FilePage({ params, searchParams }: Props) {
	const { books: own } = await readingOf()
	const review = reviewFile(own, idOf((await params).id))
	if (!review) notFound()
	const { again } = await searchParams
	const { file, table, reading, missing, refused, orders, records, payments, extract } = review
	const accepted = file.state === 'accepted'
	const bringing = orders?.orders.length ?? payments?.payments.length ?? extract?.items.length ?? records?.count ?? 0
	const hindered = extract ? whyNotAccepted(extract) : null
	return (
		<>
			<PageHead
				title={file.name}
				about={`${table.rows.length} rows, ${table.encoding}, brought in ${formatTime(file.received_at)} by ${file.received_by}`}
			>
				{!accepted && (
					<Accept id={file.id} words={acceptWords(review)} ready={missing.length === 0 && bringing > 0 && !hindered} />
				)}
				{accepted && (file.kind === 'payments' || file.kind === 'open items') && (
					<Link href="/accounts" className={buttonLook('main')}>
						See who owes what
					</Link>
				)}
				{accepted && file.kind === 'orders' && (
					<Link href="/to-bill" className={buttonLook('main')}>
						See what is to bill
					</Link>
				)}
			</PageHead>
			<div className="space-y-3 px-5 pb-4">
				{again && (
					<Notice tone={accepted ? 'look' : 'plain'}>
						{accepted
							? 'This very file was accepted before. Nothing was added.'
							: 'This very file is here already and waits to be accepted.'}
					</Notice>
				)}
				{accepted && (
					<Notice tone="tie">
						Accepted {formatTime(file.accepted_at ?? '')} by {file.accepted_by}. {file.result}
					</Notice>
				)}
				{!accepted && hindered && <Notice tone="stop">{hindered}</Notice>}
				{missing.length > 0 && (
					<Notice tone="stop">
						No column is matched to: {missing.join(', ')}. Choose it below, or say what the file holds.
					</Notice>
				)}
			</div>
			{!accepted && orders && <Totals result={orders} refused={refused} />}
			{!accepted && payments && <PaymentTotals result={payments} />}
			{!accepted && extract && !hindered && <ExtractSays review={extract} customers={customerNames(own)} />}
			{!accepted && records && (
				<Section title="What it would bring">
					<p className="px-5 pb-4">
						<span className="figures font-semibold">{records.count}</span> {reading.kind}: {records.added} new,{' '}
						{records.changed} in the books already, which take the file’s values.
					</p>
				</Section>
			)}
			{!accepted && refused.length > 0 && <Refused id={file.id} refused={refused} />}
			<Section title="How it is read" aside="Each of our fields, the column it is taken from, and its first values">
				<Reading
					id={file.id}
					reading={reading}
					fixed={accepted}
					fields={fieldsFor(reading.kind, allOwnFields(own)).map(({ key, label, required }) => ({
						key,
						label,
						required,
					}))}
					head={table.head}
					samples={table.head.map((_, place) =>
						table.rows
							.map(({ cells }) => cells[place] ?? '')
							.filter(Boolean)
							.slice(0, 3),
					)}
				/>
			</Section>
		</>
	)
}

const customerNames = (own: Books) => new Map(allCustomers(own).map(({ id, name }) => [id, name]))

function acceptWords({ orders, records, payments, extract, reading }: Review): string {
	if (payments) return `Accept ${payments.payments.length} payments`
	if (extract) return `Accept ${extract.items.length} open items`
	if (orders) return `Accept ${orders.orders.length} orders`
	return `Accept ${records?.count ?? 0} ${reading.kind}`
}

function Totals({ result, refused }: { result: IntakeResult; refused: RowRefusal[] }) {
	return (
		<Section title="What it holds">
			<Table
				label="Orders in the file"
				rows={result.totals}
				rowKey={({ currency }) => currency}
				columns={[
					currencyColumn,
					{ key: 'orders', label: 'Orders', figures: true, width: '110px', cell: ({ orders }) => orders },
					{ key: 'lines', label: 'Lines', figures: true, width: '110px', cell: ({ lines }) => lines },
					{
						key: 'net',
						label: 'Net',
						figures: true,
						width: '170px',
						cell: ({ net, currency }) => <span className="font-semibold">{formatMinor(net, currency)}</span>,
					},
					{ key: 'rest', label: '', cell: () => '' },
				]}
			/>
			<ul className="space-y-1 px-5 py-3 text-mute">
				{result.withoutPrice > 0 && (
					<li>
						{result.withoutPrice === 1 ? 'One order has' : `${result.withoutPrice} orders have`} a line without a price;
						it counts as nothing here and is stopped in the run.
					</li>
				)}
				{result.known.length > 0 && (
					<li>{result.known.length} orders are in the books already, just as they stand here; they are left out.</li>
				)}
				{refused.length === 0 && <li>No row was refused.</li>}
			</ul>
		</Section>
	)
}

function PaymentTotals({ result }: { result: PaymentsResult }) {
	return (
		<Section title="What it holds">
			<Table
				label="Payments in the file"
				rows={result.totals}
				rowKey={({ currency }) => currency}
				columns={[
					currencyColumn,
					{ key: 'payments', label: 'Payments', figures: true, width: '110px', cell: ({ payments }) => payments },
					{
						key: 'amount',
						label: 'Amount',
						figures: true,
						width: '170px',
						cell: ({ amount, currency }) => <span className="font-semibold">{formatMinor(amount, currency)}</span>,
					},
					{ key: 'rest', label: '', cell: () => '' },
				]}
			/>
		</Section>
	)
}

function Refused({ id, refused }: { id: number; refused: RowRefusal[] }) {
	return (
		<Section
			title={refused.length === 1 ? 'One row refused' : `${refused.length} rows refused`}
			aside={
				<a href={`/api/files/${id}/refused`} className="text-plum underline">
					Save them as CSV with their reasons
				</a>
			}
		>
			<ScrollBox label="All refused rows" height={288}>
				<Table
					label="Refused rows"
					rows={refused.slice(0, 500)}
					rowKey={({ row, column, remedy }) => `${row} ${column} ${remedy}`}
					columns={[
						{ key: 'row', label: 'Row', figures: true, width: '70px', cell: ({ row }) => row },
						{ key: 'column', label: 'Column', width: '140px', cell: ({ column }) => column },
						{
							key: 'value',
							label: 'What stands there',
							width: '170px',
							cell: ({ value }) =>
								value === '' ? <span className="text-mute">nothing</span> : <span className="figures">{value}</span>,
						},
						{ key: 'remedy', label: 'Remedy', cell: ({ remedy }) => remedy },
					]}
				/>
			</ScrollBox>
		</Section>
	)
}
