import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { MadePaper } from '@/store/paperRecords'
import { Chip } from '@/ui/Chip'
import Link from '@/ui/Link'
import { Table } from '@/ui/Table'
import { standing } from './PaperLinks'

/** The papers of a record, every version, also those that were put away. `kinds` names their kinds where they may differ. */
export function VersionTable({
	papers,
	none,
	kinds,
}: {
	papers: (MadePaper & { record?: string })[]
	none: string
	kinds?: Record<string, string>
}) {
	if (papers.length === 0) return <p className="px-5 pb-4 text-mute">{none}</p>
	return (
		<Table
			label="Papers"
			rows={papers}
			rowKey={({ document_id }) => document_id}
			columns={[
				...(kinds
					? [{ key: 'kind', label: 'Kind', width: '180px', cell: ({ kind }: MadePaper) => kinds[kind] ?? kind }]
					: []),
				{
					key: 'number',
					label: 'Number',
					width: '150px',
					cell: ({ document_id, number }) => (
						<Link href={`/documents/${document_id}`} className="figures text-plum underline">
							{number ?? 'draft'}
						</Link>
					),
				},
				{ key: 'version', label: 'Version', figures: true, width: '80px', cell: ({ version }) => String(version) },
				...(papers.some(({ record }) => record !== undefined)
					? [
							{
								key: 'record',
								label: 'Made from',
								width: '140px',
								cell: ({ record }: { record?: string }) => record ?? '',
							},
						]
					: []),
				{ key: 'day', label: 'Date', width: '120px', cell: ({ day }) => dayText(day) },
				{
					key: 'total',
					label: 'Total',
					figures: true,
					width: '150px',
					cell: ({ total, currency, kind }) =>
						kind.startsWith('unpriced') ? '' : `${formatMinor(total, currency)} ${currency}`,
				},
				{
					key: 'place',
					label: 'Where it stands',
					cell: (paper) => {
						const { tone, words } = standing(paper)
						return <Chip tone={tone}>{words}</Chip>
					},
				},
			]}
		/>
	)
}
