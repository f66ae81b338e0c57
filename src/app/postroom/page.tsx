import type { Metadata } from 'next'
import { numberColumn } from '@/app/paperParts/columns'
import { printList } from '@/runs/files/printAll'
import { actsOn } from '@/runs/send/postroom'
import { untrueOf } from '@/runs/statements/beforeSending'
import { toPrint } from '@/store/places'
import { inPostroom, type PostState, postCounts, postStates } from '@/store/postroom'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { Empty, PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { idOf, reading } from '../reading'
import { Messages } from './Messages'
import { Printed } from './Printed'
import { stateWords } from './words'

export const metadata: Metadata = { title: 'Postroom' }

/** Rows that are listed; a choice of all that match takes the others too. */
const most = 300

type Search = {
	show?: string
	state?: string
	/** The run whose papers were to be printed, or all, when some of them were no longer true. */
	print?: string
}

export default async function PostroomPage({ searchParams }: { searchParams: Promise<Search> }) {
	const { books, today } = await reading()
	const { show: words = '', state: given = '', print } = await searchParams
	const state = postStates.find((one) => one === given) ?? ''
	const counts = postCounts(books, words)
	const rows = inPostroom(books, { words, state }, most)
	const all = postStates.reduce((sum, one) => sum + counts[one], 0)
	const prints = toPrint(books)
	const untrue = print === undefined ? [] : untrueOf(books, today, printList(books, idOf(print) || null))
	const to = (one: PostState | '') => `/postroom?${new URLSearchParams({ show: words, state: one })}`
	return (
		<>
			<PageHead title="Postroom" about="Messages that have not gone, and documents to print" />
			{all === 0 && words === '' && prints.length === 0 && (
				<Empty title="Nothing waits here">
					<p>
						A message stands here while it waits, when the mail server put it off or refused it, and when it is unsure
						whether it arrived; so does a copy that did not go. Documents for customers without an email address are
						listed here to be printed.
					</p>
				</Empty>
			)}
			{(all > 0 || words !== '') && (
				<Section
					title="Messages"
					aside="Unsure: all of it had gone when the line broke. It may have arrived, so it is never sent again by itself."
				>
					<FilterForm words={words} placeholder="Number, customer, address or answer" keep={{ state }} />
					<nav aria-label="States" className="flex flex-wrap gap-x-4 gap-y-1 px-5 pb-3 text-sm">
						{(['', ...postStates] as const)
							.filter((one) => one === '' || one === state || counts[one] > 0)
							.map((one) => (
								<Link
									key={one}
									href={to(one)}
									aria-current={one === state ? 'page' : undefined}
									className={one === state ? 'font-semibold text-ink' : 'text-plum underline'}
								>
									{one === '' ? 'all' : stateWords[one].words}{' '}
									<span className="figures">{one === '' ? all : counts[one]}</span>
								</Link>
							))}
					</nav>
					<Messages
						key={`${words} ${state}`}
						filter={{ words, state }}
						total={state === '' ? all : counts[state]}
						rows={rows.map(
							({
								id,
								copy,
								post,
								document_id,
								number,
								customer_name,
								recipient,
								run_id,
								due_at,
								kept_back,
								...row
							}) => ({
								...{ id, copy, post, document_id, number, customer_name, recipient, run_id, due_at, kept_back },
								answer: copy === '' ? row.last_answer : row.copy_answer,
								acts: actsOn(post),
							}),
						)}
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
					{untrue.length > 0 && (
						<div className="px-5 pb-3">
							<Notice tone="stop">
								<p>
									No longer true, so nothing was printed yet. Make them void and gather others, then print the rest.
								</p>
								<ul className="my-2 list-disc pl-5">
									{untrue.map(({ row: { id, number, customer_name }, words: otherwise }) => (
										<li key={id}>
											<Link href={`/documents/${id}`} className="figures underline">
												{number}
											</Link>
											, {customer_name}: {otherwise}
										</li>
									))}
								</ul>
								<a
									href={`/api/print?${new URLSearchParams({ ...(idOf(print) ? { run: print ?? '' } : {}), sure: 'yes' })}`}
									target="_blank"
									rel="noreferrer"
									className="underline"
								>
									Print them all as they are
								</a>
							</Notice>
						</div>
					)}
					<Table
						label="Documents to print"
						rows={prints}
						rowKey={({ id }) => id}
						columns={[
							numberColumn(),
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
