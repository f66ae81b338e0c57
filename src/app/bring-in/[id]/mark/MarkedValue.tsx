'use client'
import type { ValueMark } from '@/intake/formats/report/marks'
import type { NameTried, Tried } from '@/intake/tryMarks'
import { Count, Drop, NumberSet, Sample } from './markParts'

/** A value that each document has, or the whole report: what is read as it, and how it is found. */
export function MarkedValue({
	mark,
	tried,
	total,
	onSet,
	onDrop,
}: {
	mark: ValueMark
	tried: NameTried | undefined
	total: Tried['total']
	onSet: (mark: ValueMark) => void
	onDrop: () => void
}) {
	const [name = ''] = mark.names
	const width = mark.to === null ? null : mark.to - mark.from
	return (
		<>
			<tr className="border-t border-rule-soft">
				<th scope="row" className="w-[38%] px-2 py-1 text-left font-normal">
					{name}
					{mark.lines > 1 && <span className="text-mute"> {mark.lines} lines</span>}
				</th>
				<td className="px-1">{total ? <span className="figures">{total.figure}</span> : <Sample tried={tried} />}</td>
				<td className="w-[76px] px-2 text-right">{!total && <Count tried={tried} />}</td>
			</tr>
			<tr>
				<td colSpan={3} className="px-2 pb-1">
					<details>
						<summary className="text-xs text-mute">
							{mark.label
								? `after “${mark.label.text}”`
								: mark.line === 0
									? 'at its place where it begins'
									: `at its place, ${mark.line} ${mark.line === 1 ? 'line' : 'lines'} down`}
						</summary>
						<div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
							{mark.label && (
								<button
									type="button"
									className="text-plum underline"
									onClick={() =>
										onSet({ ...mark, label: mark.label && { ...mark.label, at: mark.label.at === null ? 0 : null } })
									}
								>
									{mark.label.at === null ? 'wherever these words stand' : 'find these words anywhere'}
								</button>
							)}
							<NumberSet
								words="from"
								value={mark.from}
								label={`${name} from`}
								onSet={(from) => onSet({ ...mark, from })}
							/>
							<NumberSet
								words="wide"
								value={width ?? 0}
								label={`${name} wide`}
								onSet={(wide) => onSet({ ...mark, to: wide === 0 ? null : mark.from + wide })}
							/>
							<span className="text-mute">0: all to its right</span>
							<Drop name={name} onClick={onDrop} />
						</div>
					</details>
				</td>
			</tr>
		</>
	)
}
