import type { Metadata } from 'next'
import { formatMinor, formatTime } from '@/core/format'
import { type AttemptRow, sentLog } from '@/store/messages'
import { Chip, type Tone } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { inOrder, type Search, sortLinks } from '@/ui/order'
import { Empty, PageHead } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { reading } from '../reading'

export const metadata: Metadata = { title: 'Sent log' }

const most = 300
const tones: Record<AttemptRow['outcome'], Tone> = { sent: 'tie', refused: 'stop', unsure: 'stop', 'not sent': 'look' }

const columns: Column<AttemptRow>[] = [
	{
		key: 'at',
		label: 'When',
		sort: ({ id }) => id,
		cell: ({ id, at }) => (
			<Link href={`/sent-log/${id}`} className="figures whitespace-nowrap text-plum underline">
				{formatTime(at)}
			</Link>
		),
	},
	{
		key: 'number',
		label: 'Number',
		sort: ({ number }) => number,
		cell: ({ number }) => <span className="figures whitespace-nowrap">{number}</span>,
	},
	{
		key: 'customer',
		label: 'Customer',
		sort: ({ customer_name }) => customer_name,
		cell: ({ customer_name }) => customer_name,
	},
	{
		key: 'to',
		label: 'To',
		sort: ({ recipient }) => recipient,
		width: '22%',
		cell: ({ recipient, practice, cc, bcc }) => (
			<span className="wrap-anywhere">
				{recipient}
				{cc && <span className="block text-xs text-mute">copy {cc}</span>}
				{bcc && <span className="block text-xs text-mute">unseen copy {bcc}</span>}
				{practice ? <span className="block text-xs text-mute">in practice</span> : ''}
			</span>
		),
	},
	{
		key: 'total',
		label: 'Total',
		sort: ({ total }) => total,
		figures: true,
		cell: ({ total, currency }) => `${formatMinor(total, currency)} ${currency}`,
	},
	{
		key: 'outcome',
		label: 'Outcome',
		sort: ({ outcome }) => outcome,
		cell: ({ outcome }) => <Chip tone={tones[outcome]}>{outcome}</Chip>,
	},
	{
		key: 'answer',
		label: 'The server answered',
		cell: ({ answer }) => (
			<span className="line-clamp-2 text-xs text-mute" title={answer}>
				{answer}
			</span>
		),
	},
]

export default async function SentLogPage({ searchParams }: { searchParams: Promise<Search> }) {
	const { books } = await reading()
	const params = await searchParams
	const { show = '' } = params
	const { rows, total } = sentLog(books, show, most)
	return (
		<>
			<PageHead
				title="Sent log"
				about={
					total === 0
						? 'Every attempt to send'
						: `${total} attempts${show ? ` that hold “${show}”` : ''}${total > most ? `, the latest ${most} shown` : ''}`
				}
			/>
			{total === 0 && !show ? (
				<Empty title="Nothing was sent yet">
					<p>
						Each attempt to send a document leaves one row here: when, to whom, with which file, and what the mail
						server answered. Rows are never changed or removed.
					</p>
				</Empty>
			) : (
				<>
					<FilterForm words={show} placeholder="Filter by customer, number, address or subject, then Enter" />
					<Table
						label="Sent log"
						columns={columns}
						rows={inOrder(rows, columns, params)}
						rowKey={({ id }) => id}
						sorts={sortLinks('/sent-log', params)}
					/>
				</>
			)}
		</>
	)
}
