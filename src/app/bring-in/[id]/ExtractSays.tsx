import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { ExtractReview } from '@/runs/extract'
import { Chip } from '@/ui/Chip'
import { Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { type Column, Table } from '@/ui/Table'
import { currencyColumn } from './currencyColumn'

type Change = {
	key: string
	customer: string
	number: string
	kind: string
	due: string
	currency: string
	was: number | null
	is: number | null
	what: 'new' | 'changed' | 'gone' | 'not in it'
}
const tones = { new: 'quiet', changed: 'look', gone: 'tie', 'not in it': 'look' } as const

const columns: Column<Change>[] = [
	{ key: 'what', label: 'What', width: '90px', cell: ({ what }) => <Chip tone={tones[what]}>{what}</Chip> },
	{ key: 'customer', label: 'Customer', cell: ({ customer }) => customer },
	{ key: 'number', label: 'Number', cell: ({ number }) => <span className="figures">{number}</span> },
	{ key: 'kind', label: 'Kind', cell: ({ kind }) => kind },
	{ key: 'due', label: 'Due', cell: ({ due }) => dayText(due) },
	{
		key: 'was',
		label: 'Open here',
		figures: true,
		cell: ({ was, currency }) => (was === null ? '' : formatMinor(was, currency)),
	},
	{
		key: 'is',
		label: 'Open in the file',
		figures: true,
		cell: ({ is, currency }) => (is === null ? '' : formatMinor(is, currency)),
	},
	{ key: 'currency', label: '', width: '60px', cell: ({ currency }) => <span className="figures">{currency}</span> },
]

/** What accepting an extract would do: its totals beside its own control total, and every item that is new, changed or gone. */
export function ExtractSays({ review, customers }: { review: ExtractReview; customers: Map<number, string> }) {
	const { totals, added, changed, gone, ours, same, previous, asOf } = review
	const name = (id: number) => customers.get(id) ?? ''
	const signed = (amount: number, side: string) => (side === 'debit' ? amount : -amount)
	const rows: Change[] = [
		...changed.map(({ item, before }) => ({
			what: 'changed' as const,
			item,
			was: signed(before.open_then, before.side),
		})),
		...added.map((item) => ({ what: 'new' as const, item, was: null })),
	].map(({ what, item, was }) => ({
		key: `${what} ${item.row}`,
		customer: name(item.customerId),
		number: item.number,
		kind: item.kind,
		due: item.due,
		currency: item.currency,
		was,
		is: signed(item.open, item.side),
		what,
	}))
	const left = (items: typeof gone, what: Change['what']): Change[] =>
		items.map((item) => ({
			key: `${what} ${item.id}`,
			customer: name(item.customer_id),
			number: item.number,
			kind: item.kind,
			due: item.due_day,
			currency: item.currency,
			was: signed(item.open, item.side),
			is: null,
			what,
		}))
	const all = [
		...rows.filter(({ what }) => what === 'changed'),
		...left(gone, 'gone'),
		...left(ours, 'not in it'),
		...rows.filter(({ what }) => what === 'new'),
	]
	return (
		<>
			<Section
				title="What it adds up to"
				aside={previous ? `The one before was as of ${dayText(previous)}` : 'The first of its kind here'}
			>
				<Table
					label="Totals of the file"
					rows={totals}
					rowKey={({ currency }) => currency}
					columns={[
						currencyColumn,
						{ key: 'items', label: 'Items', figures: true, width: '90px', cell: ({ items }) => items },
						{
							key: 'open',
							label: 'Open',
							figures: true,
							width: '160px',
							cell: ({ open, currency }) => <span className="font-semibold">{formatMinor(open, currency)}</span>,
						},
						{
							key: 'control',
							label: 'Its control total',
							figures: true,
							width: '170px',
							cell: ({ control, currency }) => (control === null ? 'none' : formatMinor(control, currency)),
						},
						{
							key: 'tie',
							label: '',
							cell: ({ open, control, currency }) =>
								control === null ? (
									''
								) : open === control ? (
									<Chip tone="tie">ties</Chip>
								) : (
									<Chip tone="stop">{`out by ${formatMinor(control - open, currency)}: see the refused rows`}</Chip>
								),
						},
					]}
				/>
			</Section>
			<Section
				title={`${added.length} new, ${changed.length} changed, ${gone.length} gone`}
				aside={`${same.length} the same; as of ${dayText(asOf)}${ours.length > 0 ? `; ${ours.length} issued here and not in it` : ''}`}
			>
				<ScrollBox label="What is new, changed and gone" height={320}>
					<Table
						label="What is new, changed and gone"
						columns={columns}
						rows={all.slice(0, 2000)}
						rowKey={({ key }) => key}
					/>
				</ScrollBox>
			</Section>
		</>
	)
}
