'use client'
import { useState } from 'react'
import { chargeDropped } from '@/app/acts/document'
import { formatAmount } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'
import { answered } from '@/ui/answered'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'

/** The late charge that a statement brings: how it was reached, and the way to drop it. */
export function Charge({ view, charge }: { view: PanelView; charge: { amount: string; working: string[] } }) {
	const [trouble, setTrouble] = useState('')
	return (
		<section className="mb-3 border-l-[3px] border-plum pl-3 text-sm">
			<h3 className="font-semibold">{`Late charge ${formatAmount(charge.amount)} ${view.document.currency}`}</h3>
			{charge.working.map((line) => (
				<p key={line} className="text-mute">
					{line}
				</p>
			))}
			{view.document.number === null && (
				<button
					type="button"
					className="text-plum hover:underline"
					onClick={async () => {
						const outcome = await answered(chargeDropped(view.document.id))
						setTrouble(outcome.ok ? '' : outcome.message)
					}}
				>
					Drop it
				</button>
			)}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
		</section>
	)
}

type WhyProps = { why: NonNullable<PanelView['why']>; currency: string; account: number }

/** Every open item of the account, on the statement or not, and why; beside it what the extract has open. What is different comes first. */
export function Why({ why, currency, account }: WhyProps) {
	const { rows, on, open, different, settled } = why
	return (
		<div className="text-sm">
			<p className="pb-2 text-mute">
				{`${on} of ${open} open items stand on it, in ${currency}. `}
				{different === 0
					? 'The extract has the same.'
					: `${different === 1 ? 'One is' : `${different} are`} different in the extract.`}
			</p>
			<table aria-label="Why each item is on it or not" className="w-full">
				<thead>
					<tr className="border-b border-rule text-left text-xs text-mute">
						<th className="py-1 font-semibold">Item</th>
						<th className="py-1 text-right font-semibold">Open</th>
						<th className="py-1 pl-3 text-right font-semibold">In the extract</th>
					</tr>
				</thead>
				<tbody>
					{rows.map((row) => (
						<tr key={row.id} className={`border-b border-rule-soft align-top ${row.on ? '' : 'text-mute'}`}>
							<td className="py-1">
								<span className="figures">{row.number}</span> <span className="text-mute">{row.kind}</span>
								<span className="block text-mute">
									{row.on ? 'on it' : 'not on it'}: {row.words}
								</span>
								{row.difference && <span className="block font-semibold text-brick">{row.difference}</span>}
							</td>
							<td className="figures py-1 text-right whitespace-nowrap">{row.open}</td>
							<td className="figures py-1 pl-3 text-right whitespace-nowrap">{row.extract}</td>
						</tr>
					))}
				</tbody>
			</table>
			<p className="pt-2 text-mute">
				{[
					open > rows.length ? `${open - rows.length} more open items` : '',
					settled > 0 ? `${settled} settled or later` : '',
				]
					.filter(Boolean)
					.join(', ')}{' '}
				<Link href={`/accounts/${account}`} className="text-plum underline">
					The whole account
				</Link>
			</p>
		</div>
	)
}
