import { itemsPath } from '@/app/accountQuery'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { AccountItem, CurrencyAccount } from '@/runs/receivables/account'
import Link from '@/ui/Link'
import { Section } from '@/ui/Page'
import { HistoryOf, OpenItems } from './Ledger'
import { mostOffered } from './offered'

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
const most = 100

const picks: Record<string, (item: AccountItem) => boolean> = {
	credits: ({ side }) => side === 'credit',
	'past due': ({ side, daysPastDue, disputed }) => side === 'debit' && daysPastDue > 0 && !disputed,
	disputed: ({ side, disputed }) => side === 'debit' && disputed,
}

/** What a customer owes in one currency: its figures, each leading to its items; the items; what happened. */
export function AccountSection({ account, customer, asOf, today, bucket, link, page }: Props) {
	const { aged, currency, open, history, happened, each } = account
	const debits = open.filter(({ side, openNow }) => side === 'debit' && openNow > 0).slice(0, mostOffered + 1)
	const pages = Math.max(1, Math.ceil(happened / each))
	const figures: [name: string, amount: bigint][] = [
		...Object.entries(aged.buckets),
		['credits', -aged.unappliedCredits],
		['past due', aged.pastDue],
		['disputed', aged.disputed],
	]
	const pick = picks[bucket] ?? ((item: AccountItem) => bucket === '' || item.bucket === bucket)
	const shown = open.filter(pick)
	return (
		<>
			<Section
				title={`Owes ${formatMinor(aged.balance, currency)} ${currency}`}
				aside={`as of ${dayText(asOf)}, ${open.length} open`}
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
						{`Only ${bucket}: ${shown.length} of ${open.length}. `}
						<Link href={link('')} className="text-plum underline">
							Show all
						</Link>
					</p>
				)}
				{open.length === 0 ? (
					<p className="px-5 py-3 text-mute">Nothing is open.</p>
				) : (
					<OpenItems items={shown.slice(0, most)} debits={debits} currency={currency} asOf={asOf} today={today} />
				)}
				{shown.length > most && (
					<p className="px-5 py-2 text-sm text-mute">
						{`The ${most} that are due first of ${shown.length}. `}
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
						{pages > 1 && `; page ${page} of ${pages}. `}
						{page > 1 && (
							<Link href={link(bucket, page - 1)} className="text-plum underline">
								Later
							</Link>
						)}{' '}
						{page < pages && (
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
