'use client'
import { totalRows } from '@/layout/pieces/totals'
import { Colour, type FormOf, Pick, Points } from '../parts'

const rowNames: Record<(typeof totalRows)[number], string> = {
	subtotal: 'Goods and services',
	discounts: 'Discounts',
	charges: 'Freight and charges',
	net: 'Net',
	taxes: 'Tax, a row a rate',
	total: 'Total',
	prepaid: 'Paid before',
	due: 'Amount due',
}

/** Which rows stand below the table, and how. */
export function TotalsForm({ piece, put }: FormOf<'totals'>) {
	const shown = piece.rows.map(({ row }) => row)
	const changeRow = (row: (typeof totalRows)[number], more: Record<string, unknown>) =>
		put({
			rows: piece.rows.map((own) =>
				own.row === row
					? Object.fromEntries(Object.entries({ ...own, ...more }).filter(([, value]) => value !== undefined))
					: own,
			),
		})
	return (
		<>
			<p className="text-sm font-semibold">Rows</p>
			<ul>
				{totalRows.map((row) => {
					const own = piece.rows.find((one) => one.row === row)
					return (
						<li key={row} className="flex items-center gap-2 border-b border-rule-soft py-1 text-sm">
							<label className="flex flex-1 items-center gap-2">
								<input
									type="checkbox"
									checked={shown.includes(row)}
									onChange={(event) => {
										const rows = event.target.checked
											? totalRows.flatMap(
													(one) => piece.rows.find((kept) => kept.row === one) ?? (one === row ? [{ row }] : []),
												)
											: piece.rows.filter((one) => one.row !== row)
										if (rows.length > 0) put({ rows })
									}}
								/>
								{rowNames[row]}
							</label>
							{own && (
								<>
									<label className="flex items-center gap-1">
										<input
											type="checkbox"
											checked={own.bold === true}
											onChange={(event) => changeRow(row, { bold: event.target.checked || undefined })}
										/>
										bold
									</label>
									<label className="flex items-center gap-1">
										<input
											type="checkbox"
											checked={own.money === 'sign'}
											onChange={(event) => changeRow(row, { money: event.target.checked ? 'sign' : undefined })}
										/>
										£
									</label>
								</>
							)}
						</li>
					)
				})}
			</ul>
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Tax"
					value={piece.taxes ?? 'rows'}
					options={[
						['rows', 'as rows'],
						['table', 'as a table above'],
						['sum', 'as one sum'],
					]}
					onChange={(taxes) => put({ taxes })}
				/>
				<Pick
					label="Labels"
					value={piece.labels ?? 'right'}
					options={[
						['right', 'beside amounts'],
						['left', 'at the left edge'],
					]}
					onChange={(labels) => put({ labels })}
				/>
				<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
				<Colour label="Colour" value={piece.color} none="usual" onChange={(color) => put({ color })} />
			</div>
		</>
	)
}
