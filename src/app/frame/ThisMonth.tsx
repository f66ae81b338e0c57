import { dayText, endOfMonth } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { broughtInOf } from '@/runs/drafts/orderNets'
import { agedAccounts, sumUp } from '@/store/accounts'
import type { Books } from '@/store/books'
import { homeCurrency } from '@/store/company'
import { billedAndPaid, type Figure, monthOf } from '@/store/desk'
import Link from '@/ui/Link'
import { Section } from '@/ui/Page'

/** Other currencies that are shown with their amounts; further ones are named. */
const few = 3
/** Months that the chart goes back, this one among them. */
const back = 6
const chart = { width: 252, height: 84, bar: 12 }

const monthName = (month: string, form: 'short' | 'long') =>
	new Intl.DateTimeFormat('en-GB', {
		month: form,
		...(form === 'long' ? { year: 'numeric' } : {}),
		timeZone: 'UTC',
	})
		.format(new Date(`${month}-01T00:00:00Z`))
		.replace(/^Sept$/, 'Sep')

/** The month that the clerk works in, as figures, and how what was billed and paid stood beside the months before. */
export function ThisMonth({ books, today }: { books: Books; today: string }) {
	const month = today.slice(0, 7)
	const home = homeCurrency(books)
	const broughtIn = broughtInOf(books, month)
	const { billed, sent, paid } = monthOf(books, month)
	const owed = sumUp(agedAccounts(books, today)).map(
		({ currency, past_due }): Figure => ({
			...{ currency, amount: past_due, count: 0 },
		}),
	)
	const figures: [name: string, path: string, figures: Figure[], of: string][] = [
		['Brought in, net', '/to-bill', broughtIn, 'orders'],
		['Billed', '/runs', billed, 'invoices, credit notes'],
		['Sent', '/sent-log', sent, 'of them'],
		['Paid', '/accounts', paid, 'payments'],
		['Past due today', '/accounts?only=past+due', owed.filter(({ amount }) => amount > 0), ''],
	]
	const months = Array.from({ length: back }, (_, place) => endOfMonth(today, place + 1 - back).slice(0, 7))
	return (
		<Section
			title={monthName(month, 'long')}
			aside={`by the days that stand on orders, invoices and payments, up to ${dayText(today)}`}
		>
			<div className="flex flex-wrap items-stretch border-y border-rule bg-sheet">
				<dl className="grid min-w-0 flex-1 grid-cols-5">
					{figures.map(([name, path, rows, of]) => {
						const first = rows.find(({ currency }) => currency === home) ?? rows[0]
						const others = rows.filter((row) => row !== first)
						return (
							<div key={name} className="border-r border-rule-soft px-3 py-3 first:pl-5">
								<dt className="text-sm text-mute">
									<Link href={path} className="hover:text-plum hover:underline">
										{name}
									</Link>
								</dt>
								<dd>
									<span
										className={`figures text-[15px] font-semibold ${name.startsWith('Past') && first ? 'text-brick' : ''}`}
									>
										{first ? formatMinor(first.amount, first.currency) : '0'}
									</span>{' '}
									<span className="text-xs text-mute">{first?.currency ?? home}</span>
									{of !== '' && (
										<span className="block text-xs text-mute">
											<span className="figures">{rows.reduce((sum, { count }) => sum + count, 0)}</span> {of}
										</span>
									)}
									{others.slice(0, few).map(({ currency, amount }) => (
										<span key={currency} className="block text-xs text-mute">
											<span className="figures">{formatMinor(amount, currency)}</span> {currency}
										</span>
									))}
									{others.length > few && (
										<span className="block text-xs text-mute">{`and in ${others.length - few} more: ${others
											.slice(few)
											.map(({ currency }) => currency)
											.join(', ')}`}</span>
									)}
								</dd>
							</div>
						)
					})}
				</dl>
				<Months rows={billedAndPaid(books, home, months)} currency={home} />
			</div>
		</Section>
	)
}

/** Billed beside paid, month by month. */
function Months({ rows, currency }: { rows: { month: string; billed: number; paid: number }[]; currency: string }) {
	const most = Math.max(1, ...rows.flatMap(({ billed, paid }) => [billed, paid]))
	const step = chart.width / rows.length
	const floor = chart.height - 16
	const tall = (amount: number) => Math.max(0, (amount / most) * (floor - 6))
	return (
		<figure className="shrink-0 px-4 py-2">
			<figcaption className="flex gap-3 pb-1 text-xs text-mute">
				<span>
					<span className="mr-1 inline-block size-2 bg-plum" />
					billed
				</span>
				<span>
					<span className="mr-1 inline-block size-2 bg-kelp" />
					paid, {currency}
				</span>
			</figcaption>
			<svg
				width={chart.width}
				height={chart.height}
				role="img"
				aria-label={rows
					.map(
						({ month, billed, paid }) =>
							`${monthName(month, 'short')}: billed ${formatMinor(billed, currency)}, paid ${formatMinor(paid, currency)}`,
					)
					.join('; ')}
			>
				<line x1={0} x2={chart.width} y1={floor} y2={floor} stroke="#d8d2c4" />
				{rows.map(({ month, billed, paid }, place) => {
					const left = place * step + (step - 2 * chart.bar - 2) / 2
					return (
						<g key={month}>
							<title>{`${monthName(month, 'long')}: billed ${formatMinor(billed, currency)}, paid ${formatMinor(paid, currency)}`}</title>
							<rect x={left} y={floor - tall(billed)} width={chart.bar} height={tall(billed)} fill="#5a2a54" />
							<rect
								x={left + chart.bar + 2}
								y={floor - tall(paid)}
								width={chart.bar}
								height={tall(paid)}
								fill="#2f6b4f"
							/>
							<text x={place * step + step / 2} y={chart.height - 3} textAnchor="middle" fontSize={11} fill="#5d594f">
								{monthName(month, 'short')}
							</text>
						</g>
					)
				})}
			</svg>
		</figure>
	)
}
