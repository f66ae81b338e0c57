import type { Column } from './column'
import type { Sorts } from './order'
import { SortHead } from './SortHead'

/** A plain list of rows on the sheet, its head kept in view. */
export function Table<Row>({
	label,
	columns,
	rows,
	rowKey,
	sorts,
}: {
	label: string
	columns: Column<Row>[]
	rows: Row[]
	rowKey: (row: Row) => string | number
	/** Where the heads lead, for a list that is sorted by them. */
	sorts?: Sorts
}) {
	return (
		<table aria-label={label} className="w-full bg-sheet text-sm">
			<thead className="sticky top-0 z-10 bg-sheet">
				<tr className="border-y border-rule text-left text-xs text-mute">
					{columns.map((column) => (
						<th
							key={column.key}
							scope="col"
							style={{ width: column.width }}
							aria-sort={sorts?.by === column.key ? (sorts.down ? 'descending' : 'ascending') : undefined}
							className={`px-2.5 py-1.5 font-semibold first:pl-5 last:pr-5 ${column.figures ? 'text-right' : ''}`}
						>
							{sorts && column.sort ? (
								<SortHead of={column.key} sorts={sorts}>
									{column.label}
								</SortHead>
							) : (
								column.label
							)}
						</th>
					))}
				</tr>
			</thead>
			<tbody>
				{rows.map((row) => (
					<tr key={rowKey(row)} className="border-b border-rule-soft hover:bg-chart/60">
						{columns.map((column) => (
							<td
								key={column.key}
								className={`px-2.5 py-1.5 align-top first:pl-5 last:pr-5 ${column.figures ? 'figures text-right whitespace-nowrap' : ''}`}
							>
								{column.cell(row)}
							</td>
						))}
					</tr>
				))}
			</tbody>
		</table>
	)
}
