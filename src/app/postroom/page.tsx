import type { Metadata } from 'next'
import Link from 'next/link'
import { inPostroom } from '@/store/messages'
import { toPrint } from '@/store/places'
import { Chip } from '@/ui/Chip'
import { Empty, PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { reading } from '../reading'
import { Decide, Printed } from './Decide'

export const metadata: Metadata = { title: 'Postroom' }

const states = {
	waiting: ['waits to be sent', 'quiet'],
	sending: ['on its way', 'quiet'],
	sent: ['sent', 'tie'],
	refused: ['refused', 'stop'],
	unsure: ['unsure', 'stop'],
} as const

export default async function PostroomPage() {
	const { books: own } = await reading()
	const messages = inPostroom(own)
	const prints = toPrint(own)
	return (
		<>
			<PageHead title="Postroom" about="Messages that have not gone, and documents to print" />
			{messages.length === 0 && prints.length === 0 && (
				<Empty title="Nothing waits here">
					<p>
						A message stands here while it waits, when the mail server refused it, and when it is unsure whether it
						arrived. Documents for customers without an email address are listed here to be printed.
					</p>
				</Empty>
			)}
			{messages.length > 0 && (
				<Section
					title="Messages"
					aside="Unsure: the line broke on the way. It may have arrived, so it is never sent again by itself."
				>
					<Table
						label="Messages"
						rows={messages}
						rowKey={({ id }) => id}
						columns={[
							{
								key: 'number',
								label: 'Number',
								cell: ({ document_id, number }) => (
									<Link prefetch={false} href={`/documents/${document_id}`} className="figures text-plum underline">
										{number}
									</Link>
								),
							},
							{ key: 'customer', label: 'Customer', cell: ({ customer_name }) => customer_name },
							{ key: 'to', label: 'To', cell: ({ recipient }) => recipient },
							{
								key: 'state',
								label: 'State',
								cell: ({ state }) => <Chip tone={states[state][1]}>{states[state][0]}</Chip>,
							},
							{
								key: 'answer',
								label: 'What the server answered',
								cell: ({ last_answer }) => <span className="text-mute">{last_answer}</span>,
							},
							{
								key: 'act',
								label: '',
								cell: ({ id, state, run_id }) =>
									state === 'refused' || state === 'unsure' ? (
										<Decide id={id} unsure={state === 'unsure'} />
									) : (
										<Link
											prefetch={false}
											href={`/runs/${run_id}`}
											className="text-plum underline"
										>{`Run ${run_id}`}</Link>
									),
							},
						]}
					/>
				</Section>
			)}
			{prints.length > 0 && (
				<Section
					title="To print"
					aside={
						<>
							No email address: print, post, then note it here.{' '}
							<a href="/api/print" target="_blank" rel="noreferrer" className="text-plum underline">
								One PDF of all, in this order
							</a>
							{', '}
							<a href="/api/print?as=csv" className="text-plum underline">
								the list as CSV
							</a>
						</>
					}
				>
					<Table
						label="Documents to print"
						rows={prints}
						rowKey={({ id }) => id}
						columns={[
							{
								key: 'number',
								label: 'Number',
								cell: ({ id, number }) => (
									<Link prefetch={false} href={`/documents/${id}`} className="figures text-plum underline">
										{number}
									</Link>
								),
							},
							{ key: 'customer', label: 'Customer', cell: ({ customer_name }) => customer_name },
							{ key: 'pages', label: 'Pages', figures: true, cell: ({ pages }) => pages },
							{
								key: 'file',
								label: 'File',
								cell: ({ id, file_name }) => (
									<a href={`/api/documents/${id}/pdf`} target="_blank" rel="noreferrer" className="text-plum underline">
										{file_name?.split('/').at(-1)}
									</a>
								),
							},
							{ key: 'act', label: '', cell: ({ id }) => <Printed id={id} /> },
						]}
					/>
				</Section>
			)}
		</>
	)
}
