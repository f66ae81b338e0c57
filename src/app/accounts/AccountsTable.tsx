'use client'
import { type AccountsQuery, itemsPath, sortNames } from '@/app/accountQuery'
import { buckets } from '@/core/age'
import { formatMinor } from '@/core/format'
import type { AgedRow } from '@/store/accounts'
import Link from '@/ui/Link'

type Props = { query: AccountsQuery; rows: AgedRow[]; sums: AgedRow[]; links: Record<string, string> }

/** Who owes what, a row of figures an account, each of which leads to its items. Drawn from its rows alone, to keep the page small. */
export function AccountsTable({ query, rows, sums, links }: Props) {
	return (
		<table
			aria-label="Accounts"
			className="w-full bg-sheet text-sm max-[1100px]:text-xs max-[1100px]:[&_td]:px-1! max-[1100px]:[&_th]:px-1! max-[1100px]:[&_th:first-child]:pl-5! max-[1100px]:[&_td:last-child]:pr-5! max-[1100px]:[&_th:last-child]:pr-5! [&_td]:px-2 [&_td]:py-1.5 [&_td]:text-right [&_td]:font-mono [&_td]:tabular-nums [&_td]:whitespace-nowrap [&_td:nth-child(2)]:text-left [&_td:last-child]:pr-5 [&_td:last-child]:font-semibold [&_td_a:hover]:underline [&_th]:px-2 [&_th]:py-1.5 [&_th:first-child]:pl-5 [&_th:last-child]:pr-5"
		>
			<thead className="sticky top-0 z-10 bg-sheet">
				<tr className="border-y border-rule text-xs text-mute">
					{sortNames.map((name) => (
						<th
							key={name}
							scope="col"
							aria-sort={query.sort === name ? (query.down ? 'descending' : 'ascending') : undefined}
							className={`font-semibold ${name === 'customer' || name === 'currency' ? 'text-left' : 'text-right'}`}
						>
							<Link href={links[name] ?? ''} className="hover:text-ink">
								{name}
								{query.sort === name ? (query.down ? ' ↓' : ' ↑') : ''}
							</Link>
						</th>
					))}
				</tr>
			</thead>
			<tbody className="[&>tr]:border-b [&>tr]:border-rule-soft [&>tr:hover]:bg-chart/60 [&_th]:text-left [&_th]:text-plum [&_th]:underline">
				{rows.map((row) => {
					const to = `/accounts/${row.customer_id}?currency=${row.currency}&asOf=${query.asOf}`
					return (
						<tr key={`${row.customer_id} ${row.currency}`}>
							<th scope="row">
								<Link href={`/accounts/${row.customer_id}`}>{row.name}</Link>
							</th>
							<Figures row={row} path={(bucket) => `${to}&bucket=${encodeURIComponent(bucket)}#items`} />
						</tr>
					)
				})}
			</tbody>
			<tfoot className="font-semibold [&>tr]:border-t [&>tr]:border-ink [&_th]:text-left">
				{sums.map((row) => (
					<tr key={row.currency}>
						<th scope="row">Together</th>
						<Figures
							row={row}
							path={(bucket) =>
								itemsPath({
									asOf: query.asOf,
									currency: row.currency,
									bucket,
									only: query.only === 'all' ? '' : query.only,
									of: query.words,
								})
							}
						/>
					</tr>
				))}
			</tfoot>
		</table>
	)
}

// Plain links: there may be a thousand of them, and none is worth fetching before it is asked for.
function Figures({ row, path }: { row: AgedRow; path: (bucket: string) => string }) {
	const figures: [bucket: string, amount: number][] = [
		...row.buckets.map((amount, place): [string, number] => [buckets[place] ?? '', amount]),
		['credits', -row.credits],
		['past due', row.past_due],
		['', row.balance],
	]
	return (
		<>
			<td>{row.currency}</td>
			{figures.map(([bucket, amount]) => (
				<td key={bucket}>
					{amount === 0 ? (
						<span className="text-rule">·</span>
					) : (
						<a href={path(bucket)}>{formatMinor(amount, row.currency)}</a>
					)}
				</td>
			))}
		</>
	)
}
