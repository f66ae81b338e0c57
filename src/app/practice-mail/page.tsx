import type { Metadata } from 'next'
import { formatTime } from '@/core/format'
import { arrivals } from '@/post/practiceMail'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { practicePost } from '../practice'

export const metadata: Metadata = { title: 'Practice mail' }

export default async function PracticeMailPage({ searchParams }: { searchParams: Promise<{ show?: string }> }) {
	const { show = '' } = await searchParams
	const { rows, total } = arrivals(practicePost(), show, 300)
	return (
		<>
			<PageHead
				title="Practice mail"
				about={`${total} messages arrived at the practice server on this machine; none went further`}
			/>
			{total === 0 && !show ? (
				<Empty title="Nothing arrived yet">
					<p>
						While mail is in practice, every message that a run sends arrives here as its customer would have it. To
						practise a refusal, give a customer an address that begins with “refuse”.
					</p>
				</Empty>
			) : (
				<>
					<FilterForm words={show} placeholder="Filter by address or subject, then Enter" />
					<Table
						label="Arrived messages"
						rows={rows}
						rowKey={({ id }) => id}
						columns={[
							{
								key: 'at',
								label: 'Arrived',
								cell: ({ at }) => <span className="figures whitespace-nowrap text-mute">{formatTime(at)}</span>,
							},
							{ key: 'to', label: 'To', cell: ({ recipient }) => recipient },
							{
								key: 'subject',
								label: 'Subject',
								cell: ({ id, subject }) => (
									<Link href={`/practice-mail/${id}`} className="text-plum underline">
										{subject}
									</Link>
								),
							},
							{ key: 'size', label: 'KB', figures: true, cell: ({ size }) => Math.ceil(size / 1024) },
						]}
					/>
				</>
			)}
		</>
	)
}
