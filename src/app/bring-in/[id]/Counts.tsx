import { formatMinor } from '@/core/format'
import type { Review } from '@/runs/bringIn/review'
import { Chip } from '@/ui/Chip'
import { Section } from '@/ui/Page'

const minor = (text: string): number => Number(text)

/** Rows read = taken + refused + left out, in rows and in money, against the file's own total where it has one: the tally begins here. */
export function Counts({ review }: { review: Review }) {
	const { rows, money, sourceTotal, untold, payments, standings } = review
	const leftRows = rows.left.reduce((sum, { rows: some }) => sum + some, 0)
	const known = standings.known ?? 0
	return (
		<Section title="What was read">
			<table aria-label="Rows that tie" className="bg-sheet text-sm w-full">
				<thead>
					<tr className="border-y border-rule text-xs text-mute">
						<th className="w-[150px] py-1.5 pl-5 text-left font-semibold">&nbsp;</th>
						{['Read', 'Taken', 'Refused', 'Left out'].map((label) => (
							<th key={label} scope="col" className="w-[140px] px-2.5 text-right font-semibold">
								{label}
							</th>
						))}
						<th className="pr-5 pl-4 text-left font-semibold">&nbsp;</th>
					</tr>
				</thead>
				<tbody>
					<tr className="border-b border-rule-soft">
						<th scope="row" className="py-1.5 pl-5 text-left font-normal">
							Rows
						</th>
						{[rows.all, rows.taken, rows.refused, leftRows].map((count, place) => (
							<td key={place} className="figures px-2.5 text-right">
								{count.toLocaleString('en-GB')}
							</td>
						))}
						<td className="pr-5 pl-4 text-mute">
							<Chip tone="tie">ties</Chip> {rows.left.map(({ why, rows: some }) => `${some} ${why}`).join(', ')}
						</td>
					</tr>
					{money.map(({ currency, taken, refused, orders, lines, net }) => {
						const all = BigInt(taken) + BigInt(refused)
						const own = sourceTotal && money.length === 1 ? sourceTotal.value : null
						return (
							<tr key={currency} className="border-b border-rule-soft">
								<th scope="row" className="py-1.5 pl-5 text-left font-normal">
									Lines in <span className="figures">{currency}</span>
								</th>
								<td className="figures px-2.5 text-right">{formatMinor(Number(all), currency)}</td>
								<td className="figures px-2.5 text-right font-semibold">{formatMinor(minor(taken), currency)}</td>
								<td className="figures px-2.5 text-right">{formatMinor(minor(refused), currency)}</td>
								<td className="figures px-2.5 text-right" />
								<td className="py-1 pr-5 pl-4">
									<span className="text-mute">
										{orders} {orders === 1 ? 'order' : 'orders'}, {lines} lines, net{' '}
										<span className="figures">{formatMinor(minor(net), currency)}</span>
									</span>
									{own !== null && <SourceTotal own={own} all={all} currency={currency} untold={untold} />}
								</td>
							</tr>
						)
					})}
					{payments.map(({ currency, payments: count, amount }) => (
						<tr key={currency} className="border-b border-rule-soft">
							<th scope="row" className="py-1.5 pl-5 text-left font-normal">
								Payments in <span className="figures">{currency}</span>
							</th>
							<td />
							<td className="figures px-2.5 text-right font-semibold">{formatMinor(amount, currency)}</td>
							<td />
							<td />
							<td className="pr-5 pl-4 text-mute">{count === 1 ? '1 payment' : `${count} payments`}</td>
						</tr>
					))}
				</tbody>
			</table>
			<ul className="space-y-1 px-5 py-2.5 text-mute">
				{sourceTotal && money.length !== 1 && (
					<li>
						The file gives {sourceTotal.value} as its total (row {sourceTotal.row}); with several currencies it ties
						with none.
					</li>
				)}
				{untold > 0 && <li>Of {untold} refused lines the amount cannot be told; it is not in the money above.</li>}
				{known > 0 && (
					<li>
						{known === 1 ? 'One order is' : `${known} orders are`} in the books already, just so;{' '}
						{known === 1 ? 'it is' : 'they are'} not added again.
					</li>
				)}
				<Looked review={review} />
				{review.withoutPrice > 0 && (
					<li>
						{review.withoutPrice === 1 ? 'One order has' : `${review.withoutPrice} orders have`} a line whose price
						neither the file nor its item says; it counts as nothing here and is stopped in the run.
					</li>
				)}
			</ul>
		</Section>
	)
}

function SourceTotal({ own, all, currency, untold }: { own: string; all: bigint; currency: string; untold: number }) {
	const digits = formatMinor(0, currency).split('.')[1]?.length ?? 0
	const [whole = '0', decimals = ''] = own.replace('-', '').split('.')
	const size = BigInt(whole + decimals.padEnd(digits, '0').slice(0, digits))
	const total = own.startsWith('-') ? -size : size
	return (
		<span className="ml-3">
			the file says <span className="figures">{formatMinor(Number(total), currency)}</span>{' '}
			{total === all ? (
				<Chip tone="tie">ties</Chip>
			) : (
				<Chip tone="stop">{`out by ${formatMinor(Number(total - all), currency)}${untold > 0 ? ': see the refused rows' : ''}`}</Chip>
			)}
		</span>
	)
}

const lookedWords: Record<string, [one: string, several: string]> = {
	price: ['line takes its price from its item', 'lines take their price from their item'],
	text: ['line takes its text from its item', 'lines take their text from their item'],
	unit: ['line takes its unit from its item', 'lines take their unit from their item'],
	tax: ['line takes its tax code from its item', 'lines take their tax code from their item'],
	currency: ['order takes its currency from its customer', 'orders take their currency from their customer'],
}

function Looked({ review }: { review: Review }) {
	return Object.entries(review.lookedUp).map(([name, count]) => (
		<li key={name}>
			<span className="figures">{count}</span> {lookedWords[name]?.[count === 1 ? 0 : 1] ?? name}.
		</li>
	))
}
