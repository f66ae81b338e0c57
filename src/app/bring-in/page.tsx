import type { Metadata } from 'next'
import { formatTime } from '@/core/format'
import { readingSchema } from '@/intake/reading'
import { allFiles, type SourceFile } from '@/store/files'
import { allReaders } from '@/store/readers'
import { buttonLook } from '@/ui/Button'
import { Chip, type Tone } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import Link from '@/ui/Link'
import { inOrder, type Search, sortLinks } from '@/ui/order'
import { Empty, PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { reading } from '../reading'
import { DropFile } from './DropFile'
import { Readers } from './Readers'

export const metadata: Metadata = { title: 'Bring in' }

const states: Record<SourceFile['state'], [tone: Tone, words: string]> = {
	arriving: ['look', 'broke off'],
	read: ['look', 'waits to be accepted'],
	accepted: ['tie', 'accepted'],
	'taken back': ['quiet', 'taken back'],
	dropped: ['quiet', 'left out'],
}

const columns: Column<SourceFile>[] = [
	{
		key: 'name',
		sort: ({ name }) => name,
		label: 'File',
		cell: ({ id, name }) => (
			<Link href={`/bring-in/${id}`} className="font-semibold text-plum underline">
				{name}
			</Link>
		),
	},
	{ key: 'kind', label: 'Holds', sort: ({ kind }) => kind, cell: ({ kind }) => kind },
	{
		key: 'state',
		sort: ({ state }) => state,
		label: 'State',
		cell: ({ state, trouble }) =>
			trouble === '' ? (
				<Chip tone={states[state][0]}>{states[state][1]}</Chip>
			) : (
				<Chip tone="stop">cannot be read</Chip>
			),
	},
	{
		key: 'result',
		label: 'What it brought',
		cell: ({ result, state }) => (
			<span className="text-mute">
				{state === 'arriving' ? 'Choose it again, and it goes on where it was.' : result}
			</span>
		),
	},
	{
		key: 'at',
		sort: ({ id }) => id,
		label: 'Brought in',
		cell: ({ received_at, received_by }) => (
			<span className="whitespace-nowrap text-mute">{`${formatTime(received_at)} by ${received_by}`}</span>
		),
	},
]

const columnsOf = (body: string): string => {
	const { head, columns: places } = readingSchema.parse(JSON.parse(body))
	const used = new Set(Object.values(places))
	return head.filter((_, place) => used.has(place)).join(', ')
}

export default async function BringInPage({ searchParams }: { searchParams: Promise<Search> }) {
	const { books } = await reading()
	const params = await searchParams
	const files = inOrder(allFiles(books), columns, params)
	const readers = allReaders(books)
	return (
		<>
			<PageHead
				title="Bring in"
				about="Orders, customers, items, tax codes, payments, open items: text, workbooks, JSON, printed reports, pasted rows"
			>
				<Link href="/orders/new" className={buttonLook()}>
					Write an order
				</Link>
			</PageHead>
			<DropFile />
			{files.length === 0 ? (
				<Empty title="No file was brought in yet">
					<p>
						Files that you choose or drop above are read and shown before anything is accepted. The demo folder holds
						examples of each kind: bring in tax codes, then items, then customers, then orders.
					</p>
				</Empty>
			) : (
				<Table
					label="Files"
					columns={columns}
					rows={files}
					rowKey={({ id }) => id}
					sorts={sortLinks('/bring-in', params)}
				/>
			)}
			{readers.length > 0 && (
				<Section title="Readers" aside="Each is the saved way to read one source, picked by the names of its columns.">
					<Readers
						readers={readers.map(({ id, name, kind, body, version, made_by }) => ({
							id,
							name,
							kind,
							columns: columnsOf(body),
							version,
							madeBy: made_by,
						}))}
					/>
				</Section>
			)}
		</>
	)
}
