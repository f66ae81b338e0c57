import type { Metadata } from 'next'
import { accountsQuery, sortAccounts, sortNames } from '@/app/accountQuery'
import { buckets } from '@/core/age'
import { dayText } from '@/core/calendar'
import { rateOn } from '@/core/lateCharge'
import { agedAccounts, sumUp } from '@/store/accounts'
import { homeCurrency } from '@/store/company'
import { customerCount } from '@/store/customers'
import { kindQuestions } from '@/store/kindQuestions'
import { readSettings } from '@/store/settings'
import { buttonLook } from '@/ui/Button'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'
import { reading } from '../reading'
import { AccountsTable } from './AccountsTable'
import { AllCustomers } from './AllCustomers'
import { Charts } from './Charts'
import { KindQuestions } from './KindQuestions'
import { StatementsAsk } from './StatementsAsk'

export const metadata: Metadata = { title: 'Accounts' }

/** Rows drawn; the rest is found by the filter, and all are in the exports. */
const most = 100
type Props = { searchParams: Promise<Record<string, string | undefined>> }

/** Who owes what: every customer with an open item, by how late it is. */
export default async function AccountsPage({ searchParams }: Props) {
	const { books, today } = await reading()
	const params = await searchParams
	const customers = customerCount(books)
	const query = accountsQuery(params, today)
	const home = homeCurrency(books)
	const rows = query.all ? [] : agedAccounts(books, query.asOf)
	const totals = sumUp(rows)
	const currencies = totals.map(({ currency }) => currency).sort((a, b) => Number(b === home) - Number(a === home))
	const shown = sortAccounts(rows, query)
	const questions = query.all ? [] : kindQuestions(books)
	const link = (change: Record<string, string>) =>
		`/accounts?${new URLSearchParams({ ...clean(params), ...change }).toString()}`
	return (
		<>
			<PageHead
				title="Accounts"
				about={query.all ? `${customers} customers` : `Who owes what as of ${dayText(query.asOf)}`}
			>
				{!query.all && rows.length > 0 && (
					<StatementsAsk
						today={query.asOf}
						home={home}
						charges={rateOn(readSettings(books).lateTerms, today) !== ''}
						shown={shown.length < rows.length ? [...new Set(shown.map(({ customer_id }) => customer_id))] : []}
					/>
				)}
				<Link href={query.all ? '/accounts' : '/accounts?all=1'} className={buttonLook()}>
					{query.all ? 'Who owes what' : 'All customers'}
				</Link>
				{!query.all && rows.length > 0 && (
					<>
						<a
							href={`/api/accounts/export?${new URLSearchParams({ ...clean(params), as: 'csv' })}`}
							className={buttonLook()}
						>
							CSV
						</a>
						<a
							href={`/api/accounts/export?${new URLSearchParams({ ...clean(params), as: 'xlsx' })}`}
							className={buttonLook()}
						>
							XLSX
						</a>
					</>
				)}
				<Link href="/accounts/new" className={buttonLook()}>
					Add a customer
				</Link>
			</PageHead>
			{customers === 0 ? (
				<Empty title="There are no customers yet">
					<p>Customers come in with a CSV file (number, name, address, email, terms), or one by one.</p>
					<Link href="/bring-in" className={buttonLook('main')}>
						Bring in a file of customers
					</Link>
				</Empty>
			) : query.all ? (
				<AllCustomers words={query.words} params={params} />
			) : rows.length === 0 ? (
				<Empty title="Nobody owes anything">
					<p>
						Invoices enter the ledger as they are numbered. Where the accounts are kept elsewhere, bring in their
						extract of open items; payments come in as a file or one by one, on the customer’s account.
					</p>
					<Link href="/bring-in" className={buttonLook('main')}>
						Bring in open items
					</Link>
				</Empty>
			) : (
				<>
					{questions.length > 0 && <KindQuestions questions={questions} />}
					<Charts currencies={currencies} totals={totals} buckets={buckets} asOf={query.asOf} />
					<div className="grid grid-cols-[400px_1fr] items-end">
						<FilterForm
							words={query.words}
							keep={clean({ only: params.only, sort: params.sort, down: params.down, asOf: params.asOf })}
							placeholder="Filter by name, number or currency, then Enter"
						/>
						<nav aria-label="Which accounts" className="flex gap-1.5 pb-3 text-sm">
							{(['all', 'past due', 'disputed', 'in credit'] as const).map((only) => (
								<Link
									key={only}
									href={link({ only })}
									aria-current={query.only === only ? 'true' : undefined}
									className={`rounded-sm border px-2 py-0.5 ${query.only === only ? 'border-ink bg-chart font-semibold' : 'border-rule bg-sheet hover:border-mute'}`}
								>
									{only}
								</Link>
							))}
						</nav>
					</div>
					<AccountsTable
						query={query}
						rows={shown.slice(0, most)}
						sums={shown.length === rows.length ? totals : sumUp(shown)}
						links={Object.fromEntries(
							sortNames.map((name) => [
								name,
								link({ sort: name, down: query.sort === name && !query.down ? '1' : '' }),
							]),
						)}
					/>
					{shown.length > most && (
						<p className="px-5 py-3 text-mute">{`The first ${most} of ${shown.length}. The filter finds the others; the exports have all.`}</p>
					)}
				</>
			)}
		</>
	)
}

const clean = (params: Record<string, string | undefined>): Record<string, string> =>
	Object.fromEntries(Object.entries(params).flatMap(([key, value]) => (value === undefined ? [] : [[key, value]])))
