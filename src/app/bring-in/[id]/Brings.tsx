import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { hereBefore, type Review } from '@/runs/bringIn/review'
import type { SheetRecord } from '@/store/outcomes'
import { Chip } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import { Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'

/** What accepting a file of customers, items or tax codes would change, field by field. */
export function RecordsSay({ records, review, kind }: { records: SheetRecord[]; review: Review; kind: string }) {
	const { added = 0, 'changed fields': changed = 0, same = 0 } = review.standings
	const rows = records.filter(({ standing }) => standing !== 'same' && standing !== hereBefore)
	const columns: Column<SheetRecord>[] = [
		{
			key: 'what',
			label: 'What',
			width: '90px',
			cell: ({ standing }) => (
				<Chip tone={standing === 'added' ? 'quiet' : 'look'}>{standing === 'added' ? 'new' : 'changes'}</Chip>
			),
		},
		{ key: 'key', label: 'Number', width: '160px', cell: ({ key }) => <span className="figures">{key}</span> },
		{ key: 'name', label: 'Name', width: '240px', cell: ({ brief }) => JSON.parse(brief).name },
		{
			key: 'changes',
			label: 'What changes',
			cell: ({ brief }) => {
				const { changes }: { changes: { field: string; was: string; now: string }[] } = JSON.parse(brief)
				return changes.map(({ field, was, now }) => (
					<p key={field}>
						{field}: <span className="text-mute">{was}</span> → {now}
					</p>
				))
			},
		},
	]
	return (
		<Section
			title={`${added} new, ${changed} changed`}
			aside={`${same} are the same. What the file has no column for stays as it is.`}
		>
			<ScrollBox label={`What changes of ${kind}`} height={260}>
				<Table
					label={`What changes of ${kind}`}
					columns={columns}
					rows={rows.slice(0, 300)}
					rowKey={({ seq }) => seq}
				/>
			</ScrollBox>
		</Section>
	)
}

type PaymentBrief = {
	customer: string
	day: string
	currency: string
	amount: number
	applied: { number: string; amount: number }[]
	over: number
	words: string
}

/** What each payment would be applied to, before anything is entered. */
export function PaymentsSay({ records }: { records: SheetRecord[] }) {
	const rows = records.map((record) => ({ ...record, ...(JSON.parse(record.brief) as PaymentBrief) }))
	return (
		<Section
			title="What each payment is applied to"
			aside={
				rows.some(({ standing }) => standing === hereBefore)
					? 'What was entered before stays as it is'
					: 'Nothing is entered yet'
			}
		>
			<ScrollBox label="What each payment is applied to" height={320}>
				<Table
					label="Payments"
					rows={rows.slice(0, 500)}
					rowKey={({ seq }) => seq}
					columns={[
						{ key: 'row', label: 'Row', figures: true, width: '64px', cell: ({ first_row }) => first_row },
						{
							key: 'day',
							label: 'Date',
							width: '130px',
							cell: ({ day }) => <span className="figures">{dayText(day)}</span>,
						},
						{ key: 'customer', label: 'Customer', width: '230px', cell: ({ customer }) => customer },
						{ key: 'reference', label: 'Reference', cell: ({ key }) => <span className="figures">{key}</span> },
						{
							key: 'amount',
							label: 'Amount',
							figures: true,
							width: '120px',
							cell: ({ amount, currency }) => formatMinor(amount, currency),
						},
						{
							key: 'currency',
							label: '',
							width: '54px',
							cell: ({ currency }) => <span className="figures">{currency}</span>,
						},
						{
							key: 'to',
							label: 'Applied to',
							cell: ({ applied, over, currency, words, standing }) =>
								standing === hereBefore ? (
									<span className="text-mute">entered already</span>
								) : standing === 'again' ? (
									<Chip tone="look">{words}</Chip>
								) : (
									<span>
										{applied.map(({ number, amount }) => (
											<span key={number} className="mr-3">
												<span className="figures">{number}</span>{' '}
												<span className="figures text-mute">{formatMinor(amount, currency)}</span>
											</span>
										))}
										{over > 0 && <span className="text-ochre">{formatMinor(over, currency)} unapplied</span>}
									</span>
								),
						},
					]}
				/>
			</ScrollBox>
		</Section>
	)
}
