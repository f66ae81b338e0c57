import { PaperLinks } from '@/app/paperParts/PaperLinks'
import type { recordsOfFile } from '@/store/paperRecords'
import { Chip } from '@/ui/Chip'
import Link from '@/ui/Link'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'

/** The records that a sheet brought, each with its papers. */
export const SheetRecords = ({ records }: { records: ReturnType<typeof recordsOfFile> }) => (
	<ScrollBox label="Records of the sheet" height={320}>
		<Table
			label="Records"
			rows={records}
			rowKey={({ id }) => id}
			columns={[
				{ key: 'row', label: 'Row', figures: true, width: '70px', cell: ({ first_row }) => String(first_row) },
				{
					key: 'number',
					label: 'For',
					cell: ({ id, number }) => (
						<Link href={`/papers/records/${id}`} className="text-plum underline">
							{number}
						</Link>
					),
				},
				{ key: 'to', label: 'To', cell: ({ body, customer }) => body?.recipient?.name || customer },
				{
					key: 'papers',
					label: 'Its papers',
					cell: ({ papers, away_reason }) =>
						away_reason === null ? (
							<PaperLinks papers={papers} none="none yet" />
						) : (
							<Chip tone="look">{`withdrawn: ${away_reason}`}</Chip>
						),
				},
			]}
		/>
	</ScrollBox>
)
