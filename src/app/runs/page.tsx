import type { Metadata } from 'next'
import { dayText } from '@/core/calendar'
import { formatTime } from '@/core/format'
import { capital } from '@/core/wording'
import type { Books } from '@/store/books'
import { kindIn } from '@/store/paperKinds'
import { allRuns, type RunSummary } from '@/store/runs'
import { buttonLook } from '@/ui/Button'
import { Chip } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import Link from '@/ui/Link'
import { inOrder, type Search, sortLinks } from '@/ui/order'
import { Empty, PageHead } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { reading } from '../reading'

export const metadata: Metadata = { title: 'Runs' }

const states = {
	gathering: ['being gathered', 'look'],
	open: ['open', 'act'],
	closed: ['closed', 'tie'],
	'given-back': ['given back', 'quiet'],
} as const

/** A narrow window breaks it before the name alone. */
const When = ({ at, by }: { at: string; by: string }) => (
	<span className="text-mute">
		<span className="whitespace-nowrap">{formatTime(at)}</span> <span className="whitespace-nowrap">{`by ${by}`}</span>
	</span>
)

const columnsOf = (books: Books): Column<RunSummary>[] => [
	{
		key: 'run',
		label: 'Run',
		sort: ({ id }) => id,
		cell: ({ id, up_to, kind }) => (
			<Link href={`/runs/${id}`} className="inline-block min-w-40 font-semibold text-plum underline">
				{`Run ${id}, ${kindIn(books, kind).words.run} ${dayText(up_to)}`}
			</Link>
		),
	},
	{
		key: 'state',
		label: 'State',
		sort: ({ state }) => state,
		cell: ({ state }) => <Chip tone={states[state][1]}>{states[state][0]}</Chip>,
	},
	...(['documents', 'numbered', 'made', 'sent', 'printed'] as const).map(
		(key): Column<RunSummary> => ({
			key,
			label: capital(key),
			figures: true,
			sort: (row) => row[key],
			cell: (row) =>
				key === 'printed' && row.filed > 0
					? `${row.printed > 0 ? `${row.printed}, ` : ''}${row.filed} filed`
					: row[key] || (key === 'documents' ? 0 : ''),
		}),
	),
	{
		key: 'started',
		label: 'Started',
		sort: ({ started_at }) => started_at,
		cell: ({ started_at, started_by }) => <When at={started_at} by={started_by} />,
	},
	{
		key: 'closed',
		label: 'Ended',
		sort: ({ closed_at }) => closed_at ?? '',
		cell: ({ closed_at, closed_by }) => closed_at && <When at={closed_at} by={closed_by ?? ''} />,
	},
]

export default async function RunsPage({ searchParams }: { searchParams: Promise<Search> }) {
	const { books } = await reading()
	const params = await searchParams
	const columns = columnsOf(books)
	const runs = inOrder(allRuns(books), columns, params)
	return (
		<>
			<PageHead
				title="Runs"
				about="Each takes waiting orders to sent invoices, or open items to sent statements; papers of other kinds begin at their kind"
			>
				<Link href="/to-bill" className={buttonLook('main')}>
					Start a run
				</Link>
			</PageHead>
			{runs.length === 0 ? (
				<Empty title="No run was started yet">
					<p>
						A run gathers the waiting orders up to a day, checks them, numbers the invoices, makes their PDFs and sends
						them. It begins under To bill.
					</p>
				</Empty>
			) : (
				<Table label="Runs" columns={columns} rows={runs} rowKey={({ id }) => id} sorts={sortLinks('/runs', params)} />
			)}
		</>
	)
}
