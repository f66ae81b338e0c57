'use client'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { Bar, BarChart, Cell, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { itemsPath } from '@/app/accountQuery'
import { dayText } from '@/core/calendar'
import { minorDigits } from '@/core/currency'
import { formatMinor } from '@/core/format'
import type { AgedRow } from '@/store/accounts'

type Props = { currencies: string[]; totals: AgedRow[]; buckets: string[]; asOf: string }
type Month = { day: string; amounts: number[] }

/** From not due (kelp) to the latest (brick): the later, the warmer. */
const colors = ['#2f6b4f', '#b98a1d', '#a3672b', '#a3341f', '#5c1c12']
const size = { small: 11, ink: '#5d594f' }

/** What is owed in one currency: how late it is now, and how that stood at the end of each of the past twelve months. */
export function Charts({ currencies, totals, buckets, asOf }: Props) {
	const [currency, setCurrency] = useState(currencies[0] ?? '')
	const months = useMonths(currency, asOf)
	const router = useRouter()
	const open = (bucket: string, day = asOf) => router.push(itemsPath({ asOf: day, currency, bucket }))
	const row = totals.find((total) => total.currency === currency)
	if (!row) return null
	const big = 10 ** minorDigits(currency)
	const text = (minor: number) => formatMinor(Math.round(minor), currency)
	const short = (minor: number) =>
		new Intl.NumberFormat('en-GB', { notation: 'compact', maximumFractionDigits: 1 }).format(minor / big)
	const now = buckets.map((name, place) => ({ name, amount: row.buckets[place] ?? 0 }))
	const past = months.map(({ day, amounts }) => ({
		day,
		...Object.fromEntries(buckets.map((name, place) => [name, amounts[place] ?? 0])),
	}))
	return (
		<section
			aria-label={`What is owed in ${currency}`}
			className="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-6 px-5 pb-3"
		>
			<figure>
				<figcaption className="flex items-baseline gap-3 pb-1 text-sm whitespace-nowrap">
					<span className="font-semibold">How late it is</span>
					<span>
						<span className="figures">{text(row.past_due)}</span>
						{currencies.length > 1 ? ' past due' : ` ${currency} past due`}
					</span>
					{currencies.length > 1 && (
						<select
							aria-label="Currency of the charts"
							value={currency}
							onChange={(event) => setCurrency(event.target.value)}
							className="figures ml-auto rounded border border-rule bg-sheet px-1.5 py-0.5"
						>
							{currencies.map((one) => (
								<option key={one}>{one}</option>
							))}
						</select>
					)}
				</figcaption>
				<ResponsiveContainer width="100%" height={132}>
					<BarChart data={now} layout="vertical" margin={{ left: 4, right: 16, top: 0, bottom: 0 }}>
						<XAxis type="number" hide />
						<YAxis
							type="category"
							dataKey="name"
							width={58}
							tickLine={false}
							axisLine={false}
							tick={(tick: Tick) => (
								<TickLink {...tick} anchor="end" path={(bucket) => itemsPath({ asOf, currency, bucket })} />
							)}
						/>
						<Tooltip
							formatter={(value) => [`${text(Number(value))} ${currency}`, '']}
							separator=""
							cursor={{ fill: '#f3efe4' }}
						/>
						<Bar
							dataKey="amount"
							barSize={15}
							isAnimationActive={false}
							className="cursor-pointer"
							onClick={({ payload }) => open(String(payload?.name))}
						>
							{now.map(({ name }, place) => (
								<Cell key={name} fill={colors[place]} />
							))}
						</Bar>
					</BarChart>
				</ResponsiveContainer>
			</figure>
			<figure>
				<figcaption className="pb-1 text-sm font-semibold">At the end of each month</figcaption>
				<ResponsiveContainer width="100%" height={132}>
					<BarChart data={past} margin={{ left: 0, right: 0, top: 2, bottom: 0 }}>
						<XAxis
							dataKey="day"
							tickLine={false}
							interval={0}
							tick={(tick: Tick) => (
								<TickLink
									{...tick}
									anchor="middle"
									path={(day) => itemsPath({ asOf: day, currency })}
									words={(day) => dayText(day).split(' ')[1] ?? ''}
								/>
							)}
						/>
						<YAxis
							width={44}
							tickLine={false}
							axisLine={false}
							tickCount={4}
							tickFormatter={short}
							tick={{ fontSize: size.small, fill: size.ink }}
						/>
						<Tooltip
							formatter={(value, name) => [`${text(Number(value))} ${currency}`, String(name)]}
							labelFormatter={(day) => dayText(String(day))}
							cursor={{ fill: '#f3efe4' }}
						/>
						{buckets.map((name, place) => (
							<Bar
								key={name}
								dataKey={name}
								stackId="owed"
								fill={colors[place]}
								isAnimationActive={false}
								className="cursor-pointer"
								onClick={({ payload }) => open(name, String(payload?.day))}
							/>
						))}
					</BarChart>
				</ResponsiveContainer>
			</figure>
		</section>
	)
}

type Tick = { x: number | string; y: number | string; payload: { value: string } }
type TickLinkProps = Tick & {
	anchor: 'end' | 'middle'
	path: (value: string) => string
	words?: (value: string) => string
}

/** A label of an axis that leads to the items of its bars, for those who do without the mouse. */
function TickLink({ x, y, payload, anchor, path, words = (value) => value }: TickLinkProps) {
	// What is read out holds what is seen.
	const label = words(payload.value)
	return (
		<a
			href={path(payload.value)}
			aria-label={`Open items, ${label === payload.value ? label : `${label}, ${payload.value}`}`}
		>
			<text
				x={x}
				y={y}
				dy={anchor === 'end' ? '0.35em' : '0.9em'}
				textAnchor={anchor}
				fontSize={size.small}
				fill={size.ink}
			>
				{label}
			</text>
		</a>
	)
}

/** Fetched after the page, since a month past is reckoned from the whole ledger. */
function useMonths(currency: string, asOf: string): Month[] {
	const [months, setMonths] = useState<Month[]>([])
	useEffect(() => {
		const stop = new AbortController()
		fetch(`/api/accounts/months?${new URLSearchParams({ currency, asOf })}`, { signal: stop.signal })
			.then((answer) => (answer.ok ? answer.json() : []))
			.then(setMonths)
			.catch(() => {})
		return () => stop.abort()
	}, [currency, asOf])
	return months
}
