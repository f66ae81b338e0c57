'use client'
import { namesFor } from '@/intake/formats/report/marking'
import type { ColumnMark, Marks, RowMarks } from '@/intake/formats/report/marks'
import { withoutName } from '@/intake/formats/report/pointing'
import { columnsNamed } from '@/intake/formats/report/rowMarking'
import type { Field } from '@/intake/kinds/field'
import type { NameTried } from '@/intake/tryMarks'
import { Count, Drop, NumberSet, Sample, small, Table } from './markParts'

/** The rows that repeat: their columns, how many lines each takes, and what tells one. */
export function MarkedRows({
	marks,
	rows,
	fields,
	byName,
	onSet,
}: {
	marks: Marks
	rows: RowMarks
	fields: readonly Field[]
	byName: ReadonlyMap<string, NameTried>
	onSet: (marks: Marks) => void
}) {
	const setRows = (next: RowMarks) => onSet({ ...marks, rows: next })
	const change = (place: number, part: Partial<ColumnMark>) =>
		setRows({ ...rows, columns: rows.columns.map((one, at) => (at === place ? { ...one, ...part } : one)) })
	const rename = (column: ColumnMark, label: string) => {
		const field = fields.find((one) => one.label === label)
		const [name = label] = field ? namesFor(field, 1, fields) : []
		onSet(columnsNamed(marks, column.name, name))
	}
	return (
		<>
			<Table label="Columns of the rows">
				{rows.columns.map((column, place) => (
					<ColumnRow
						key={column.name}
						column={column}
						fields={fields}
						tried={byName.get(column.name)}
						several={rows.height > 1}
						onName={(label) => rename(column, label)}
						onChange={(part) => change(place, part)}
						onDrop={() => onSet(withoutName(marks, [column.name]))}
					/>
				))}
			</Table>
			<div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
				<NumberSet
					words="Each takes"
					value={rows.height}
					label="Lines that each row takes"
					onSet={(height) => height >= 1 && height <= 4 && setRows({ ...rows, height })}
				/>
				{rows.height === 1 ? 'line' : 'lines'}
				<label className="flex items-center gap-1">
					One is where
					<select
						className={small}
						value={rows.key[0] ?? ''}
						onChange={(event) => setRows({ ...rows, key: event.target.value === '' ? [] : [event.target.value] })}
					>
						<option value="">anything</option>
						{rows.columns.map(({ name }) => (
							<option key={name}>{name}</option>
						))}
					</select>
					stands
				</label>
				<button type="button" className="text-plum underline" onClick={() => onSet({ ...marks, rows: null })}>
					take the rows away
				</button>
			</div>
		</>
	)
}

function ColumnRow({
	column,
	fields,
	tried,
	several,
	onName,
	onChange,
	onDrop,
}: {
	column: ColumnMark
	fields: readonly Field[]
	tried: NameTried | undefined
	several: boolean
	onName: (label: string) => void
	onChange: (part: Partial<ColumnMark>) => void
	onDrop: () => void
}) {
	const { name, from, to, wraps, line } = column
	const isField = fields.some(({ label }) => label === name)
	return (
		<>
			<tr className="border-t border-rule-soft">
				<th scope="row" className="w-[46%] px-2 py-1 text-left font-normal">
					<select
						aria-label={`Column ${from + 1} is`}
						className={`${small} w-full`}
						value={name}
						onChange={(event) => onName(event.target.value)}
					>
						{!isField && <option value={name}>{name} (not used)</option>}
						{fields.map(({ key, label }) => (
							<option key={key}>{label}</option>
						))}
					</select>
				</th>
				<td className="px-1">
					<Sample tried={tried} />
				</td>
				<td className="w-[76px] px-2 text-right">
					<Count tried={tried} />
				</td>
			</tr>
			<tr>
				<td colSpan={3} className="px-2 pb-1">
					<details>
						<summary className="text-xs text-mute">
							{wraps ? 'runs on where the others are empty; ' : ''}
							{several ? `line ${line + 1}, ` : ''}columns {from + 1} to {to ?? 'the end'}
						</summary>
						<div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
							<NumberSet
								words="from"
								value={from + 1}
								label={`${name} from column`}
								onSet={(next) => next >= 1 && onChange({ from: next - 1 })}
							/>
							<NumberSet
								words="to"
								value={to ?? 0}
								label={`${name} to column`}
								onSet={(next) => onChange({ to: next === 0 ? null : next })}
							/>
							<span className="text-mute">0: the end</span>
							<label className="flex items-center gap-1">
								<input
									type="checkbox"
									checked={wraps}
									onChange={(event) => onChange({ wraps: event.target.checked })}
								/>
								its text runs on
							</label>
							<Drop name={name} onClick={onDrop} />
						</div>
					</details>
				</td>
			</tr>
		</>
	)
}
