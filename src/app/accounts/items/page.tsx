import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { customersOf, itemsPath, itemsQuery } from '@/app/accountQuery'
import { buckets } from '@/core/age'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { agedAccounts, itemsOwed, sumUp } from '@/store/accounts'
import { homeCurrency } from '@/store/company'
import { buttonLook } from '@/ui/Button'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'
import { reading } from '../../reading'
import { ItemsTable } from './ItemsTable'

export const metadata: Metadata = { title: 'Open items' }

/** Rows drawn; the rest is found by the filter, and all are in the exports. */
const most = 200
type Props = { searchParams: Promise<Record<string, string | undefined>> }

/** What a figure of the whole ledger is made of: open items of every customer, by how late they are. */
export default async function ItemsPage({ searchParams }: Props) {
	const { books, today } = await reading()
	const params = await searchParams
	const asked = itemsQuery(params, today)
	if (params.currency && asked.currency === '') notFound()
	const all = agedAccounts(books, asked.asOf)
	const customers = customersOf(all, asked)
	const totals = sumUp(customers ? all.filter(({ customer_id }) => customers.includes(customer_id)) : all)
	const currency = asked.currency || (totals[0]?.currency ?? homeCurrency(books))
	const query = { ...asked, currency, customers }
	const { asOf, pick, words, only, of } = query
	const kept = { asOf, only, of }
	const total = totals.find((row) => row.currency === currency)
	const { rows, items, open } = itemsOwed(books, query, most)
	const figures: [name: string, amount: number][] = [
		...buckets.map((name, place): [string, number] => [name, total?.buckets[place] ?? 0]),
		['credits', -(total?.credits ?? 0)],
		['past due', total?.past_due ?? 0],
		['disputed', total?.disputed ?? 0],
		['', total?.balance ?? 0],
	]
	const file = (as: string) =>
		`/api/accounts/items?${new URLSearchParams({ ...kept, currency, bucket: pick, show: words, as })}`
	return (
		<>
			<PageHead
				title={pick === '' ? `Open items in ${currency}` : `Open items in ${currency}: ${pick}`}
				about={`${items} on ${customers ? `the accounts ${[only, of && `with “${of}”`].filter(Boolean).join(' ')}` : 'all accounts'} as of ${dayText(asOf)}, ${formatMinor(open, currency)} together`}
			>
				<Link href={`/accounts?${new URLSearchParams({ asOf, only, show: of })}`} className={buttonLook()}>
					Who owes what
				</Link>
				<a href={file('csv')} className={buttonLook()}>
					CSV
				</a>
				<a href={file('xlsx')} className={buttonLook()}>
					XLSX
				</a>
			</PageHead>
			<nav aria-label="Which items" className="flex flex-wrap border-y border-rule bg-sheet px-5 text-sm">
				{figures.map(([name, amount]) => (
					<Link
						key={name}
						href={itemsPath({ ...kept, currency, bucket: name })}
						aria-current={pick === name ? 'true' : undefined}
						className="group border-r border-rule-soft py-2 pr-5 pl-4 first:pl-0 last:border-0 max-[1100px]:px-2 max-[1100px]:text-xs"
					>
						<span className="block text-xs text-mute">{name || 'all'}</span>
						<span
							className={`figures group-hover:underline ${pick === name ? 'font-semibold text-plum underline' : ''}`}
						>
							{formatMinor(amount, currency)}
						</span>
					</Link>
				))}
			</nav>
			<div className="grid grid-cols-[440px_1fr] items-end pt-3">
				<FilterForm
					words={words}
					keep={{ ...kept, currency, bucket: pick }}
					placeholder="Filter by customer, number or order, then Enter"
				/>
				{totals.length > 1 && (
					<nav aria-label="Currency" className="ml-auto flex gap-3 px-5 pb-3">
						{totals.map((row) => (
							<Link
								key={row.currency}
								href={itemsPath({ ...kept, currency: row.currency, bucket: pick })}
								aria-current={row.currency === currency ? 'true' : undefined}
								className={`figures ${row.currency === currency ? 'font-semibold' : 'text-plum underline'}`}
							>
								{row.currency}
							</Link>
						))}
					</nav>
				)}
			</div>
			{rows.length === 0 ? (
				<Empty title={words ? `No such item holds “${words}”` : 'No such item is open'}>
					<Link href={itemsPath({ asOf, currency })} className={buttonLook()}>
						Show all that is open
					</Link>
				</Empty>
			) : (
				<ItemsTable rows={rows} currency={currency} asOf={asOf} />
			)}
			{items > rows.length && rows.length > 0 && (
				<p className="px-5 py-3 text-mute">{`The ${most} longest due of ${items}. The filter finds the others; the exports have all.`}</p>
			)}
		</>
	)
}
