'use client'
import { formatMinor } from '@/core/format'
import { placeFilters, placeRules } from '@/core/places'
import type { BenchView } from '@/runs/bench/view'
import { Chip, type Tone } from '@/ui/Chip'
import { KeyHint } from '@/ui/KeyHint'
import { LongList } from '@/ui/LongList'
import type { Sorts } from '@/ui/order'
import { SortHead } from '@/ui/SortHead'

/** A draft that is not held back. */
const isOpen = ({ place }: BenchView) => place === 'to number' || place === 'stopped'
/** A document without a number. */
export const isDraft = (row: BenchView) => isOpen(row) || row.place === 'held'

const filterNames = ['All', ...placeFilters] as const
export type FilterName = (typeof filterNames)[number]
/** Whether a filter shows a row. */
export const shows = (filter: FilterName, row: BenchView): boolean =>
	filter === 'All' ||
	(filter === 'Look' || filter === 'Clear'
		? isOpen(row) && row.level === filter.toLowerCase()
		: placeRules[row.place].filter === filter)

/** What a row's last column says: how far it has come, or what its checks found. */
function stateOf(row: BenchView): { tone: Tone; words: string } {
	if (row.place === 'to number' || row.place === 'stopped') {
		if (row.level === 'clear') return { tone: 'tie', words: row.changed ? 'clear, changed' : 'clear' }
		const more = (row.changed ? ', changed' : '') + (row.findings > 1 ? `, ${row.findings - 1} more` : '')
		if (row.level === 'look' && row.looked) return { tone: 'tie', words: `looked at: ${row.brief}` }
		return { tone: row.level, words: row.brief + more }
	}
	const { tone, words } = placeRules[row.place]
	return { tone, words: row.place === 'held' ? `${words}: ${row.held}` : words }
}

/** What the list can be sorted by. */
export const benchOrders: Record<string, (row: BenchView) => string | number> = {
	number: ({ number }) => number,
	customer: ({ customer }) => customer,
	orders: ({ orders }) => orders,
	net: ({ net }) => net,
	tax: ({ tax, pastDue }) => pastDue || tax,
	total: ({ total }) => total,
	state: (row) => stateOf(row).words,
}

type Props = {
	rows: BenchView[]
	shown: BenchView[]
	filter: FilterName
	onFilter: (filter: FilterName) => void
	sorts: Sorts
	words: string
	onWords: (words: string) => void
	index: number
	onSelect: (index: number) => void
	gathering: boolean
	home: string
	/** What the run's documents are called. */
	noun: string
	/** What its tally counts: papers of the firm's own kinds have figures only where they are priced. */
	unit: 'order' | 'item' | 'record'
}

/** The run's documents, flagged ones first. */
export function BenchList({
	rows,
	shown,
	filter,
	onFilter,
	words,
	onWords,
	index,
	onSelect,
	gathering,
	home,
	noun,
	unit,
	sorts,
}: Props) {
	const statements = unit === 'item'
	const plain = unit === 'record' && rows.every(({ net, total }) => net === 0 && total === 0)
	const numbered = rows.some(({ number }) => number !== '')
	const longest = Math.max(8, ...rows.slice(0, 200).map(({ number }) => number.length))
	const columns = 'grid gap-2 px-5'
	const widths = numbered
		? `${longest * 8.6 + 8}px minmax(100px,1fr) minmax(50px,0.5fr) 92px minmax(84px,0.7fr)`
		: 'minmax(90px,1.2fr) minmax(40px,0.5fr) 82px 74px 82px minmax(84px,1fr)'
	const grid = { gridTemplateColumns: widths }
	const head = (key: string, name: string, look = '') => (
		<span className={look}>
			{name && (
				<SortHead of={key} sorts={sorts}>
					{name}
				</SortHead>
			)}
		</span>
	)
	return (
		<div className="flex min-h-0 min-w-0 flex-col">
			<div className="flex items-center gap-1.5 overflow-hidden px-5 py-2">
				{filterNames.map((name) => {
					const count = rows.filter((row) => shows(name, row)).length
					if (count === 0 && name !== 'All' && name !== filter) return null
					return (
						<button
							key={name}
							type="button"
							aria-pressed={filter === name}
							onClick={() => onFilter(filter === name ? 'All' : name)}
							className={`rounded-sm border px-2 py-0.5 text-sm whitespace-nowrap ${filter === name ? 'border-ink bg-chart font-semibold' : 'border-rule bg-sheet hover:border-mute'}`}
						>
							{name} <span className="figures font-semibold">{count}</span>
						</button>
					)
				})}
				<label className="ml-auto flex min-w-0 items-center gap-1.5">
					<input
						id="filter"
						aria-label="Filter"
						value={words}
						onChange={(event) => onWords(event.target.value)}
						onKeyDown={(event) => (event.key === 'Enter' || event.key === 'Escape') && event.currentTarget.blur()}
						placeholder="Filter"
						className="w-32 min-w-0 rounded border border-rule bg-sheet px-2 py-0.5 text-sm"
					/>
					<KeyHint>/</KeyHint>
				</label>
			</div>
			<div style={grid} className={`${columns} border-y border-rule bg-sheet py-1.5 text-xs font-semibold text-mute`}>
				{numbered && head('number', 'Number')}
				{head('customer', 'Customer')}
				{head('orders', statements ? 'Items' : unit === 'record' ? 'Made from' : 'Orders')}
				{!numbered && head('net', plain ? '' : statements ? 'Balance' : 'Net', 'text-right')}
				{!numbered && head('tax', plain ? '' : statements ? 'Past due' : 'Tax', 'text-right')}
				{head('total', plain ? '' : statements ? 'Comes to' : 'Total', 'text-right')}
				{head('state', numbered ? 'Where it is' : 'Checks')}
			</div>
			<LongList
				label={`${noun[0]?.toUpperCase()}${noun.slice(1)}s of the run`}
				rows={shown}
				selected={index}
				onSelect={onSelect}
				empty={gathering ? 'They are being gathered.' : `No ${noun} matches the filter.`}
				render={(row) => {
					const state = stateOf(row)
					const struck = row.held ? 'line-through text-mute' : ''
					const money = (minor: number) => (
						<span className={`figures text-right whitespace-nowrap ${struck}`}>
							{plain ? '' : formatMinor(minor, row.currency)}
						</span>
					)
					return (
						<div style={grid} className={`${columns} h-full items-center`}>
							{numbered && <span className="figures whitespace-nowrap">{row.number}</span>}
							<span className={`truncate ${struck}`}>
								{row.customer}
								{row.currency !== home && <span className="figures ml-1.5 text-xs text-mute">{row.currency}</span>}
							</span>
							<span className="figures truncate text-mute" title={row.orders}>
								{row.orderCount > 2 && !statements ? `${row.orders.split(', ')[0]} +${row.orderCount - 1}` : row.orders}
							</span>
							{!numbered && money(row.net)}
							{!numbered && money(statements ? row.pastDue : row.tax)}
							{money(row.total)}
							<span className="min-w-0">
								<Chip tone={state.tone}>{state.words}</Chip>
							</span>
						</div>
					)
				}}
			/>
		</div>
	)
}
