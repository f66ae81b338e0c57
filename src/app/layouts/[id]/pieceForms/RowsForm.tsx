'use client'
import { useState } from 'react'
import { Button } from '@/ui/Button'
import { ConditionEdit } from '../ConditionEdit'
import { type FormOf, SaidEdit } from '../parts'
import { RichLine } from '../Rich'

/** Rows of facts or of a slip: each opened to its label, value and when it is shown. */
export function RowsForm({ piece, put }: FormOf<'facts' | 'slip'>) {
	const [open, setOpen] = useState<number | null>(null)
	const { rows } = piece
	const change = (index: number, more: Partial<(typeof rows)[number]>) =>
		put({
			rows: rows.map((row, at) =>
				at === index
					? (Object.fromEntries(
							Object.entries({ ...row, ...more }).filter(([, value]) => value !== undefined),
						) as typeof row)
					: row,
			),
		})
	const labelOf = ({ label }: (typeof rows)[number]) =>
		typeof label === 'string' ? label : (label.en ?? Object.values(label)[0] ?? '')
	return (
		<div>
			<p className="mb-1 text-sm font-semibold">Rows</p>
			<ul className="border-t border-rule-soft">
				{rows.map((row, index) => (
					<li key={index} className="border-b border-rule-soft">
						<div className="flex items-center">
							<button
								type="button"
								aria-expanded={open === index}
								className="flex-1 py-1 text-left hover:text-plum"
								onClick={() => setOpen(open === index ? null : index)}
							>
								{labelOf(row) || 'without a label'}
							</button>
							<button
								type="button"
								aria-label={`${labelOf(row)} up`}
								disabled={index === 0}
								className="px-1 text-plum disabled:opacity-30"
								onClick={() =>
									put({
										rows: rows.map((own, at) =>
											at === index - 1 ? row : at === index ? (rows[index - 1] ?? own) : own,
										),
									})
								}
							>
								↑
							</button>
							<button
								type="button"
								aria-label={`Take ${labelOf(row)} away`}
								className="px-1 text-mute hover:text-brick"
								onClick={() => put({ rows: rows.filter((_, at) => at !== index) })}
							>
								×
							</button>
						</div>
						{open === index && (
							<div className="space-y-2 pb-2">
								<SaidEdit label="Label" value={row.label} onChange={(label) => change(index, { label })} />
								<RichLine label="Value" inlines={row.value} onChange={(value) => change(index, { value })} />
								<ConditionEdit
									label="Shown"
									none="where it has a value"
									value={row.when}
									onChange={(when) => change(index, { when })}
								/>
							</div>
						)}
					</li>
				))}
			</ul>
			<Button
				kind="bare"
				onClick={() => {
					put({ rows: [...rows, { label: 'Label', value: [{ field: 'day' }] }] })
					setOpen(rows.length)
				}}
			>
				Another row
			</Button>
		</div>
	)
}
