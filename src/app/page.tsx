import Link from 'next/link'
import { dayText } from '@/core/calendar'
import { formatMinor, formatTime } from '@/core/format'
import { nextAct } from '@/runs/tally'
import type { Books } from '@/store/books'
import { allItems, allTaxRates } from '@/store/catalogue'
import { passedPromises } from '@/store/chases'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { latestEvents } from '@/store/events'
import { allFiles, filesWaiting } from '@/store/files'
import { failedJobs } from '@/store/jobs'
import { waitingCount } from '@/store/orders'
import { kindIn } from '@/store/paperKinds'
import { runGroups } from '@/store/places'
import { postroomCount } from '@/store/postroom'
import { registerFor } from '@/store/registers'
import { allRuns } from '@/store/runs'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { reading } from './reading'

/** What waits, what failed, what was done last: where the clerk begins. */
export default async function DeskPage() {
	const { books: own, clerk: name, today } = await reading()
	const steps = beginning(own)
	const begun = steps.every(({ done }) => done)
	return (
		<>
			<PageHead title={`Good day, ${name}`} about={`Working as of ${dayText(today)}`} />
			{failedJobs(own).map((job) => (
				<div key={job.id} className="px-5 pb-3">
					<Notice tone="stop">
						{job.run_id === null ? (
							'The runner'
						) : (
							<Link href={`/runs/${job.run_id}`} className="font-semibold underline">
								Run {job.run_id}
							</Link>
						)}{' '}
						did not get through “{job.kind}”: {job.words}
					</Notice>
				</div>
			))}
			<Section title={begun ? 'What waits for you' : 'To begin with'}>
				{begun ? <Waiting own={own} today={today} /> : <Beginning steps={steps} />}
			</Section>
			<Section title="Done last">
				<ol className="bg-sheet border-t border-rule">
					{latestEvents(own, 12).map(({ id, at, clerk: who, act, detail, subject, subject_id }) => (
						<li key={id} className="flex gap-3 border-b border-rule-soft px-5 py-1.5 text-sm">
							<span className="figures shrink-0 text-mute">{formatTime(at)}</span>
							<span className="shrink-0 font-semibold">{who}</span>
							<span className="truncate">
								{subject === 'run' && <span className="figures text-mute">{`Run ${subject_id} `}</span>}
								{act}
								{detail && <span className="text-mute">, {detail}</span>}
							</span>
						</li>
					))}
				</ol>
			</Section>
		</>
	)
}

type Step = { path: string; words: string; about: string; done: boolean }

function beginning(own: Books): Step[] {
	return [
		{
			path: '/company',
			words: 'Company',
			about: 'Name, address, tax number and bank details, as they stand on every document.',
			done: readCompany(own) !== null,
		},
		{
			path: '/bring-in',
			words: 'Tax codes',
			about: 'Bring in a file of them, or add them one by one under Items and rates.',
			done: allTaxRates(own).length > 0,
		},
		{
			path: '/bring-in',
			words: 'Items',
			about: 'Bring in a file of items with their prices.',
			done: allItems(own).length > 0,
		},
		{
			path: '/bring-in',
			words: 'Customers',
			about: 'Bring in a file of customers, or add one under Accounts.',
			done: allCustomers(own).length > 0,
		},
		{
			path: '/registers',
			words: 'Number register',
			about: 'Say how your invoices are numbered and which number comes next.',
			done: registerFor(own, 'invoice') !== null,
		},
		{
			path: '/bring-in',
			words: 'Orders',
			about: 'Bring in the first file of orders; then start a run under To bill.',
			done: allFiles(own).some(({ kind, state }) => kind === 'orders' && state === 'accepted'),
		},
	]
}

function Beginning({ steps }: { steps: Step[] }) {
	return (
		<ol className="border-t border-rule bg-sheet">
			{steps.map(({ path, words, about, done }, index) => (
				<li key={words} className="flex gap-4 border-b border-rule-soft px-5 py-2.5">
					<span className={`w-16 shrink-0 ${done ? 'text-kelp' : 'text-mute'}`}>
						{done ? 'done' : `step ${index + 1}`}
					</span>
					<span>
						<Link href={path} className="font-semibold text-plum underline">
							{words}
						</Link>
						<span className="ml-3 text-mute">{about}</span>
					</span>
				</li>
			))}
		</ol>
	)
}

const nextWords = {
	number: 'to number',
	make: 'PDFs to make',
	send: 'to send',
	read: 'messages to read',
	print: 'to print',
	await: 'messages put off',
	decide: 'to decide on',
	close: 'done, to close',
	solve: 'stopped, to solve',
	none: '',
}

function Waiting({ own, today }: { own: Books; today: string }) {
	const files = filesWaiting(own)
	const orders = waitingCount(own)
	const post = postroomCount(own)
	const runs = allRuns(own).filter(({ state }) => state === 'open' || state === 'gathering')
	const rows: [path: string, count: number | string, words: string][] = [
		...passedPromises(own, today).map(({ customer_id, customer, day, amount, currency }): [string, string, string] => [
			`/accounts/${customer_id}`,
			formatMinor(amount, currency),
			`${currency} promised by ${customer} for ${dayText(day)} has not come`,
		]),
		...(files > 0
			? [
					[
						'/bring-in',
						files,
						files === 1 ? 'file is read and waits to be accepted' : 'files are read and wait to be accepted',
					] satisfies [string, number, string],
				]
			: []),
		...(orders > 0
			? [
					['/to-bill', orders, orders === 1 ? 'order waits to be billed' : 'orders wait to be billed'] satisfies [
						string,
						number,
						string,
					],
				]
			: []),
		...runs.map((run): [string, number, string] => {
			const { act, count } = nextAct(runGroups(own, run.id))
			return [
				`/runs/${run.id}`,
				count,
				`${nextWords[act]} in run ${run.id}, ${kindIn(own, run.kind).words.run} ${dayText(run.up_to)}`,
			]
		}),
		...(post > 0
			? [
					[
						'/postroom',
						post,
						post === 1 ? 'message or print waits in the Postroom' : 'messages and prints wait in the Postroom',
					] satisfies [string, number, string],
				]
			: []),
	]
	if (rows.length === 0) {
		return (
			<p className="px-5 pb-4 text-mute">
				Nothing waits. The next step is to{' '}
				<Link href="/bring-in" className="text-plum underline">
					bring in a file of orders
				</Link>
				.
			</p>
		)
	}
	return (
		<ul className="border-t border-rule bg-sheet">
			{rows.map(([path, count, words]) => (
				<li key={path} className="border-b border-rule-soft">
					<Link href={path} className="flex items-baseline gap-4 px-5 py-2.5 hover:bg-plum-wash">
						<span className="figures w-16 text-right text-lg font-semibold">{count}</span>
						{words}
					</Link>
				</li>
			))}
		</ul>
	)
}
