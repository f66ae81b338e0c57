'use client'
import { useRouter } from 'next/navigation'
import { useMemo, useState, useTransition } from 'react'
import { beginRun } from '@/app/acts/run'
import { KeepBack } from '@/app/KeepBack'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import { Chip } from '@/ui/Chip'
import { DayField } from '@/ui/DayField'
import { KeyHint } from '@/ui/KeyHint'
import Link from '@/ui/Link'
import { LongList } from '@/ui/LongList'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { SortHead } from '@/ui/SortHead'
import { useKeys } from '@/ui/useKeys'
import { useSorted } from '@/ui/useSorted'

type Waiting = {
	id: number
	number: string
	customer: string
	customerId: number
	day: string
	purchaseOrder: string
	currency: string
	net: number
	lines: number
	source: string
	/** Why it is kept out of runs, and by whom; empty where it is not. */
	held: string
}
const by: Record<string, (order: Waiting) => string | number> = {
	number: ({ number }) => number,
	day: ({ day }) => day,
	customer: ({ customer }) => customer,
	purchaseOrder: ({ purchaseOrder }) => purchaseOrder,
	lines: ({ lines }) => lines,
	currency: ({ currency }) => currency,
	net: ({ net }) => net,
	source: ({ held, source }) => held || source,
}
const heads: [key: string, name: string, look?: string][] = [
	['number', 'Order'],
	['day', 'Date'],
	['customer', 'Customer'],
	['purchaseOrder', 'Their order'],
	['lines', 'Lines', 'text-right'],
	['currency', 'In'],
	['net', 'Net', 'text-right'],
	['source', 'From'],
]
const columns = 'grid grid-cols-[80px_100px_minmax(160px,1fr)_110px_54px_54px_120px_140px_64px] gap-3 px-5'

/** The waiting orders, with a filter and its totals, and the start of a run. */
export function WaitingList({ orders, workDate, show }: { orders: Waiting[]; workDate: string; show: string }) {
	const [words, setWords] = useState(show)
	const [asking, setAsking] = useState(false)
	const [keeping, setKeeping] = useState<Waiting | null>(null)
	const router = useRouter()
	const matching = useMemo(() => {
		const plain = words.trim().toLowerCase()
		return orders.filter((order) =>
			`${order.number} ${order.customer} ${order.purchaseOrder} ${order.currency} ${order.source}`
				.toLowerCase()
				.includes(plain),
		)
	}, [orders, words])
	const { rows: shown, sorts } = useSorted(matching, by)
	const totals = useMemo(() => {
		const sums = new Map<string, { count: number; net: number }>()
		for (const { currency, net } of shown) {
			const sum = sums.get(currency) ?? { count: 0, net: 0 }
			sums.set(currency, { count: sum.count + 1, net: sum.net + net })
		}
		return [...sums]
	}, [shown])
	useKeys({
		'/': () => document.getElementById('filter')?.focus(),
		g: () => setAsking(true),
		o: () => router.push('/orders/new'),
	})
	return (
		<div className="flex h-full flex-col">
			<PageHead title="To bill" about={`${orders.length} ${orders.length === 1 ? 'order waits' : 'orders wait'}`}>
				<Link href="/orders/new" className={buttonLook()}>
					Write an order
					<KeyHint>O</KeyHint>
				</Link>
				<Button kind="main" hint="G" onClick={() => setAsking(true)}>
					Start a run
				</Button>
			</PageHead>
			<div className="flex flex-wrap items-center gap-x-6 gap-y-2 px-5 pb-3">
				<label className="flex items-center gap-2">
					<span className="sr-only">Filter</span>
					<input
						id="filter"
						value={words}
						onChange={(event) => setWords(event.target.value)}
						placeholder="Filter by customer, number, purchase order"
						className="w-80 rounded border border-rule bg-sheet px-2 py-1.5"
					/>
					<KeyHint>/</KeyHint>
				</label>
				{totals.map(([currency, { count, net }]) => (
					<p key={currency}>
						<span className="text-mute">{count} in </span>
						<span className="figures">{currency}</span>{' '}
						<span className="figures font-semibold">{formatMinor(net, currency)}</span>
					</p>
				))}
			</div>
			<div className={`${columns} border-y border-rule bg-sheet py-1.5 text-xs font-semibold text-mute`}>
				{heads.map(([key, name, look = '']) => (
					<span key={key} className={look}>
						<SortHead of={key} sorts={sorts}>
							{name}
						</SortHead>
					</span>
				))}
				<span />
			</div>
			<LongList
				label="Orders to bill"
				rows={shown}
				empty="No waiting order matches the filter."
				render={(order) => (
					<div className={`${columns} h-full items-center`}>
						<Link href={`/orders/${order.id}`} className="figures truncate text-plum underline">
							{order.number}
						</Link>
						<span className="figures text-mute">{dayText(order.day)}</span>
						<Link href={`/accounts/${order.customerId}`} className="truncate hover:underline">
							{order.customer}
						</Link>
						<span className="figures truncate text-mute">{order.purchaseOrder}</span>
						<span className="figures text-right">{order.lines}</span>
						<span className="figures text-mute">{order.currency}</span>
						<span className="figures text-right">{formatMinor(order.net, order.currency)}</span>
						<span className="truncate text-mute">
							{order.held ? <Chip tone="look">{`held: ${order.held}`}</Chip> : order.source}
						</span>
						<Button kind="bare" onClick={() => setKeeping(order)}>
							{order.held ? 'Held' : 'Hold'}
						</Button>
					</div>
				)}
			/>
			<KeepBack order={keeping} onClose={() => setKeeping(null)} />
			{asking && (
				<StartRun
					onClose={() => setAsking(false)}
					orders={orders}
					words={words.trim()}
					matching={matching}
					workDate={workDate}
				/>
			)}
		</div>
	)
}

function StartRun({
	onClose,
	orders,
	words,
	matching,
	workDate,
}: {
	onClose: () => void
	orders: Waiting[]
	/** What the list is filtered by, and what that leaves; a run takes all or these. */
	words: string
	matching: Waiting[]
	workDate: string
}) {
	const [upTo, setUpTo] = useState(workDate)
	const [day, setDay] = useState(workDate)
	const [only, setOnly] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const router = useRouter()
	const ready = (list: Waiting[]) => list.filter((order) => order.day <= upTo && order.held === '')
	const [all, some] = [ready(orders), ready(matching)]
	const taken = only ? some : all
	const begin = () =>
		start(async () => {
			const outcome = await answered(beginRun(upTo, day, only ? some.map(({ id }) => id) : []))
			if (outcome.ok) router.push(`/runs/${outcome.id}`)
			else setTrouble(outcome.message)
		})
	return (
		<Ask open onClose={onClose} title="Start an invoice run">
			<form
				className="space-y-4"
				onSubmit={(event) => {
					event.preventDefault()
					begin()
				}}
			>
				<div className="grid grid-cols-2 gap-4">
					<DayField label="Orders up to and on" value={upTo} onDay={setUpTo} required />
					<DayField label="Date on the invoices" value={day} onDay={setDay} required />
				</div>
				{words !== '' && (
					<fieldset className="space-y-1">
						<legend className="pb-1 text-sm font-semibold">{`The list is filtered by “${words}”`}</legend>
						<label className="flex items-center gap-2">
							<input
								type="radio"
								name="which"
								checked={!only}
								onChange={() => setOnly(false)}
								className="size-4 accent-plum"
							/>
							{`Gather all ${all.length} that wait: the filter narrows what is seen alone`}
						</label>
						<label className="flex items-center gap-2">
							<input
								type="radio"
								name="which"
								checked={only}
								disabled={some.length === 0}
								onChange={() => setOnly(true)}
								className="size-4 accent-plum"
							/>
							{`Gather only the ${some.length} that the filter leaves`}
						</label>
					</fieldset>
				)}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit" disabled={busy || taken.length === 0}>
						{`Gather ${taken.length} orders`}
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}
