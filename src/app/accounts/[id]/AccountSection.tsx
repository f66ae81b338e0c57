import { itemsPath } from '@/app/accountQuery'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { CurrencyAccount } from '@/runs/receivables/account'
import Link from '@/ui/Link'
import { Section } from '@/ui/Page'
import { HistoryOf, OpenItems } from './Ledger'

type Props = {
	account: CurrencyAccount
	customer: { id: number; number: string }
	asOf: string
	today: string
	bucket: string
	link: (bucket: string, page?: number) => string
	/** Which page of what happened, from 1; the latest is the first. */
	page: number
}
/** Open items drawn; all are in the list of open items. */
export const mostOpen = 100

/** What a customer owes in one currency: its figures, each leading to its items; the items; what happened. */
export function AccountSection({ account, customer, asOf, today, bucket, link, page }: Props) {
	const { aged, currency, open, picked, items, debits, history, more } = account
	const figures: [name: string, amount: bigint][] = [
		...Object.entries(aged.buckets),
		['credits', -aged.unappliedCredits],
		['past due', aged.pastDue],
		['disputed', aged.disputed],
	]
	return (
		<>
			<Section
				title={`Owes ${formatMinor(aged.balance, currency)} ${currency}`}
				aside={`as of ${dayText(asOf)}, ${items} open`}
			>
				<dl className="flex flex-wrap border-y border-rule bg-sheet px-5 text-sm">
					{figures.map(([name, amount]) => (
						<div key={name} className="border-r border-rule-soft py-2 pr-5 pl-4 first:pl-0 last:border-0">
							<dt className="text-xs text-mute">{name}</dt>
							<dd className="figures">
								{amount === 0n ? (
									<span className="text-mute">0</span>
								) : (
									<Link
										href={link(bucket === name ? '' : name)}
										aria-current={bucket === name ? 'true' : undefined}
										className={`hover:underline ${bucket === name ? 'font-semibold text-plum underline' : ''}`}
									>
										{formatMinor(amount, currency)}
									</Link>
								)}
							</dd>
						</div>
					))}
				</dl>
				{bucket !== '' && (
					<p className="px-5 pt-2 text-sm">
						{`Only ${bucket}: ${picked} of ${items}. `}
						<Link href={link('')} className="text-plum underline">
							Show all
						</Link>
					</p>
				)}
				{items === 0 ? (
					<p className="px-5 py-3 text-mute">Nothing is open.</p>
				) : (
					<OpenItems items={open} debits={debits} currency={currency} asOf={asOf} today={today} />
				)}
				{picked > open.length && (
					<p className="px-5 py-2 text-sm text-mute">
						{`The ${open.length} that are due first of ${picked}. `}
						<Link
							href={itemsPath({ asOf, only: '', of: customer.number, currency, bucket })}
							className="text-plum underline"
						>
							See them in the list of open items
						</Link>
					</p>
				)}
			</Section>
			<Section
				title={`What happened in ${currency}`}
				aside={
					<>
						The latest first, with the balance after it
						{(page > 1 || more) && `; page ${page}. `}
						{page > 1 && (
							<Link href={link(bucket, page - 1)} className="text-plum underline">
								Later
							</Link>
						)}{' '}
						{more && (
							<Link href={link(bucket, page + 1)} className="text-plum underline">
								Earlier
							</Link>
						)}
					</>
				}
			>
				<HistoryOf {...{ happenings: history, currency, customer: customer.id, today, debits }} />
			</Section>
		</>
	)
}
