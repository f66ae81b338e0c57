import type { Metadata } from 'next'
import Link from 'next/link'
import { formatTime } from '@/core/format'
import { allFiles, type SourceFile } from '@/store/files'
import { Chip } from '@/ui/Chip'
import { Empty, PageHead } from '@/ui/Page'
import { type Column, Table } from '@/ui/Table'
import { reading } from '../reading'
import { DropFile } from './DropFile'

export const metadata: Metadata = { title: 'Bring in' }

const columns: Column<SourceFile>[] = [
	{
		key: 'name',
		label: 'File',
		cell: ({ id, name }) => (
			<Link prefetch={false} href={`/bring-in/${id}`} className="font-semibold text-plum underline">
				{name}
			</Link>
		),
	},
	{ key: 'kind', label: 'Holds', cell: ({ kind }) => kind },
	{
		key: 'state',
		label: 'State',
		cell: ({ state }) => (
			<Chip tone={state === 'accepted' ? 'tie' : 'look'}>
				{state === 'accepted' ? 'accepted' : 'waits to be accepted'}
			</Chip>
		),
	},
	{ key: 'result', label: 'What it brought', cell: ({ result }) => <span className="text-mute">{result}</span> },
	{
		key: 'at',
		label: 'Brought in',
		cell: ({ received_at, received_by }) => (
			<span className="whitespace-nowrap text-mute">{`${formatTime(received_at)} by ${received_by}`}</span>
		),
	},
]

export default async function BringInPage() {
	const { books: own } = await reading()
	const files = allFiles(own)
	return (
		<>
			<PageHead title="Bring in" about="Orders, customers, items or tax codes, from a CSV file" />
			<DropFile />
			{files.length === 0 ? (
				<Empty title="No file was brought in yet">
					<p>
						Files that you choose or drop above are read and shown before anything is accepted. The demo folder holds
						examples of each kind: bring in tax codes, then items, then customers, then orders.
					</p>
				</Empty>
			) : (
				<Table label="Files" columns={columns} rows={files} rowKey={({ id }) => id} />
			)}
		</>
	)
}
