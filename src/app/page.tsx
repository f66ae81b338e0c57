import { dayText } from '@/core/calendar'
import { differences } from '@/core/changed'
import { formatMinor, formatTime } from '@/core/format'
import { nextSteps } from '@/core/places'
import { nextAct } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { allTaxRates } from '@/store/catalogue'
import { passedPromises } from '@/store/chases'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { filesWith } from '@/store/desk'
import { latestEvents } from '@/store/events'
import { failedJobs } from '@/store/jobs'
import { waitingCount } from '@/store/orders'
import { kindIn } from '@/store/paperKinds'
import { runGroups } from '@/store/places'
import { postroomCount } from '@/store/postroom'
import { registerFor } from '@/store/registers'
import { allRuns } from '@/store/runs'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { ThisMonth } from './frame/ThisMonth'
import { reading } from './reading'

/** What waits and with whom, how the month stands, what failed, what was done last: where the clerk begins. */
export default async function DeskPage() {
	const { books, clerk: name, today } = await reading()
	const steps = allRuns(books).length > 0 ? [] : beginning(books)
	const missing = steps.filter(({ done }) => !done)
	return (
		<>
			<PageHead title={`Good day, ${name}`} about={`Working as of ${dayText(today)}`} />
			{failedJobs(books).map((job) => (
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
			{missing.length > 0 ? (
				<Section
					title="To begin with"
					aside={`${missing.length === 1 ? 'One thing is' : `${missing.length} things are`} still missing for a first run`}
				>
					<Beginning steps={steps} />
				</Section>
			) : (
				<ThisMonth books={books} today={today} />
			)}
			{missing.length === 0 && (
				<Section title="What waits, and with whom">
					<Waiting books={books} today={today} />
				</Section>
			)}
			<Section title="Done last">
				<ol className="border-t border-rule bg-sheet">
					{latestEvents(books, 12).map(({ id, at, clerk: who, act, detail, subject, subject_id, before, after }) => (
						<li key={id} className="flex gap-3 border-b border-rule-soft px-5 py-1.5 text-sm">
							<span className="figures shrink-0 text-mute">{formatTime(at)}</span>
							<span className="shrink-0 font-semibold">{who}</span>
							<span className="min-w-0">
								{subject === 'run' && <span className="figures text-mute">{`Run ${subject_id} `}</span>}
								{subject === 'setting' && (
									<span className="text-mute">{`${subject_id.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase()}: `}</span>
								)}
								{act}
								{detail && <span className="text-mute">, {detail}</span>}
								<Changed before={before} after={after} />
							</span>
						</li>
					))}
				</ol>
			</Section>
		</>
	)
}

/** What was changed, each from what to what. */
function Changed({ before, after }: { before: string | null; after: string | null }) {
	const all = differences(before, after)
	if (all.length === 0) return null
	const shown = all.slice(0, 3)
	return (
		<span className="block text-xs text-mute">
			{shown.map(({ what, before: was, after: is }, place) => (
				<span key={what}>
					{place > 0 && '; '}
					{what} {was} → <span className="text-ink">{is}</span>
				</span>
			))}
			{all.length > shown.length && `; and ${all.length - shown.length} more`}
		</span>
	)
}

type Step = { path: string; words: string; about: string; done: boolean }

function beginning(books: Books): Step[] {
	return [
		{
			path: '/company',
			words: 'Company',
			about: 'Name, address, tax number and bank details, as they stand on every document.',
			done: readCompany(books) !== null,
		},
		{
			path: '/bring-in',
			words: 'Tax codes',
			about: 'Bring in a file of them, or add them one by one under Items and rates.',
			done: allTaxRates(books).length > 0,
		},
		{
			path: '/bring-in',
			words: 'Customers',
			about:
				'Bring in a file of customers, or add one under Accounts. Items come the same way, where orders name them.',
			done: allCustomers(books).length > 0,
		},
		{
			path: '/registers',
			words: 'Number register',
			about: 'Say how your invoices are numbered and which number comes next.',
			done: registerFor(books, 'invoice') !== null,
		},
		{
			path: '/bring-in',
			words: 'Orders',
			about: 'Bring in the first file of orders, or write one; then start a run under To bill.',
			done: waitingCount(books) > 0,
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

type Waits = { path: string; count: number | string; words: string; who: string }

function waitsOf(books: Books, today: string): Waits[] {
	const files = filesWith(books)
	const orders = waitingCount(books)
	const post = postroomCount(books)
	const runs = allRuns(books).filter(({ state }) => state === 'open' || state === 'gathering')
	const one = (count: number, single: string, many: string) => (count === 1 ? single : many)
	return [
		...passedPromises(books, today).map(({ customer_id, customer, day, amount, currency }) => ({
			path: `/accounts/${customer_id}`,
			count: formatMinor(amount, currency),
			words: `${currency} promised by ${customer} for ${dayText(day)} has not come`,
			who: 'the customer',
		})),
		...files.map(({ id, name, clerk }) => ({
			path: `/bring-in/${id}`,
			count: 1,
			words: `file waits to be accepted: ${name}`,
			who: clerk,
		})),
		...(orders > 0
			? [
					{
						path: '/to-bill',
						count: orders,
						words: one(orders, 'order waits to be billed', 'orders wait to be billed'),
						who: 'whoever starts the run',
					},
				]
			: []),
		...runs.map((run) => {
			const { act, count } = nextAct(runGroups(books, run.id))
			return {
				path: `/runs/${run.id}`,
				count,
				words: `${act === 'none' ? '' : nextSteps[act].desk} in run ${run.id}, ${kindIn(books, run.kind).words.run} ${dayText(run.up_to)}`,
				who: run.started_by,
			}
		}),
		...(post > 0
			? [
					{
						path: '/postroom',
						count: post,
						words: one(post, 'message or print waits in the Postroom', 'messages and prints wait in the Postroom'),
						who: 'whoever is at the desk',
					},
				]
			: []),
	]
}

function Waiting({ books, today }: { books: Books; today: string }) {
	const rows = waitsOf(books, today)
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
			{rows.map(({ path, count, words, who }) => (
				<li key={`${path} ${words}`} className="border-b border-rule-soft">
					<Link href={path} className="flex items-baseline gap-4 px-5 py-2 hover:bg-plum-wash">
						<span className="figures w-20 shrink-0 text-right text-lg font-semibold">{count}</span>
						<span className="min-w-0 flex-1">{words}</span>
						<span className="shrink-0 text-sm text-mute">{who}</span>
					</Link>
				</li>
			))}
		</ul>
	)
}
