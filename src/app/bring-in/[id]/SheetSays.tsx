import type { Review } from '@/runs/bringIn/review'
import type { SheetRecord } from '@/store/outcomes'
import { Chip } from '@/ui/Chip'
import { Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'

type Brief = { name: string; rows: number; otherwise: number; email: string; issued: boolean }
const briefOf = ({ brief }: SheetRecord): Brief => ({
	...{ name: '', rows: 0, otherwise: 0, email: '', issued: false },
	...JSON.parse(brief),
})

/** What rows of a sheet would become: each paper with its rows, whom it goes to, and what is to be known of it. */
export function SheetSays({ records, review }: { records: SheetRecord[]; review: Review }) {
	const many = (review.standings.new ?? 0) + (review.standings.changed ?? 0)
	if (records.length === 0) return null
	return (
		<Section title="What it would bring" aside={`${many === 1 ? 'one paper' : `${many} papers`} can be made of it`}>
			<ScrollBox label="Papers of the sheet" height={300}>
				<Table
					label="What the rows become"
					rows={records}
					rowKey={({ first_row }) => first_row}
					columns={[
						{ key: 'key', label: 'A paper for', cell: ({ key }) => key },
						{ key: 'name', label: 'To', cell: (record) => briefOf(record).name },
						{
							key: 'email',
							label: 'Sent to',
							cell: (record) =>
								briefOf(record).email || <span className="text-mute">its customer’s address, else printed</span>,
						},
						{
							key: 'rows',
							label: 'Rows',
							figures: true,
							width: '70px',
							cell: (record) => String(briefOf(record).rows),
						},
						{
							key: 'note',
							label: '',
							cell: (record) => {
								const { otherwise, issued } = briefOf(record)
								return (
									<>
										{otherwise > 0 && (
											<Chip tone="look">{`${otherwise === 1 ? 'one row writes' : `${otherwise} rows write`} the key otherwise`}</Chip>
										)}
										{issued && <Chip tone="quiet">one was issued of an earlier sheet; it stays</Chip>}
									</>
								)
							},
						},
					]}
				/>
			</ScrollBox>
		</Section>
	)
}
