'use client'
import { useState } from 'react'
import { chargeDropped } from '@/app/acts/document'
import { formatAmount } from '@/core/format'
import type { PanelView, WhyRow } from '@/runs/panel'
import { answered } from '@/ui/answered'
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

/** Every item of the account, on the statement or not, and why; beside it what the extract has open. */
export function Why({ rows, currency }: { rows: WhyRow[]; currency: string }) {
	const open = rows.filter((row) => row.open !== '' || row.difference !== '')
	const settled = rows.length - open.length
	const different = rows.filter(({ difference }) => difference !== '').length
	return (
		<div className="text-sm">
			<p className="pb-2 text-mute">
				{`${rows.filter(({ on }) => on).length} of ${open.length} open items stand on it, in ${currency}. `}
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
					{open.map((row) => (
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
			{settled > 0 && (
				<details className="pt-2">
					<summary className="text-plum">{`${settled} settled or later`}</summary>
					<ul>
						{rows
							.filter((row) => !open.includes(row))
							.map(({ id, number, words }) => (
								<li key={id}>
									<span className="figures">{number}</span> <span className="text-mute">{words}</span>
								</li>
							))}
					</ul>
				</details>
			)}
		</div>
	)
}
