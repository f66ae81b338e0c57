import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'
import Link from '@/ui/Link'

/** What else was issued to the customer. */
export function Account({ view }: { view: PanelView }) {
	const { account } = view
	return (
		<div className="text-sm">
			<p className="pb-2">
				{account.id === 0 ? (
					<span className="font-semibold">{account.name}, who is no customer of the books</span>
				) : (
					<Link href={`/accounts/${account.id}`} className="font-semibold text-plum underline">
						{account.name}
					</Link>
				)}{' '}
				<span className="figures text-mute">{account.number}</span>
			</p>
			{account.earlier.length === 0 && <p className="text-mute">No other invoice to this customer yet.</p>}
			{account.earlier.map(({ id, number, day, total, currency }) => (
				<Link
					key={id}
					href={`/documents/${id}`}
					className="grid grid-cols-[100px_1fr_auto] gap-2 border-b border-rule-soft py-1.5 hover:bg-plum-wash"
				>
					<span className="figures">{number}</span>
					<span className="text-mute">{dayText(day)}</span>
					<span className="figures">
						{formatMinor(total, currency)} {currency}
					</span>
				</Link>
			))}
		</div>
	)
}
