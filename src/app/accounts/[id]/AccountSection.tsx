import Link from 'next/link'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { AccountItem, CurrencyAccount } from '@/runs/account'
import { Section } from '@/ui/Page'
import { HistoryOf, OpenItems } from './Ledger'

type Props = { account: CurrencyAccount; asOf: string; bucket: string; link: (bucket: string) => string }

const picks: Record<string, (item: AccountItem) => boolean> = {
	credits: ({ side }) => side === 'credit',
	'past due': ({ side, daysPastDue, disputed }) => side === 'debit' && daysPastDue > 0 && !disputed,
	disputed: ({ side, disputed }) => side === 'debit' && disputed,
}

/** What a customer owes in one currency: its figures, each leading to its items; the items; what happened. */
export function AccountSection({ account, asOf, bucket, link }: Props) {
	const { aged, currency, open, history } = account
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
					<OpenItems items={shown} currency={currency} asOf={asOf} />
				)}
			</Section>
			<Section title={`What happened in ${currency}`} aside="The latest first, with the balance after it">
				<HistoryOf happenings={history} currency={currency} />
			</Section>
		</>
	)
}
