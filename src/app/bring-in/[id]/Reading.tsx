'use client'
import { useState, useTransition } from 'react'
import { setKind, setReading } from '@/app/acts/bringIn'
import { dayText } from '@/core/calendar'
import { readDay } from '@/core/readDay'
import { type FileKind, fileKinds } from '@/intake/kinds'
import type { Reading as ReadingShape } from '@/intake/reading'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = {
	id: number
	reading: ReadingShape
	fixed: boolean
	fields: { key: string; label: string; required: boolean }[]
	head: string[]
	samples: string[][]
}

/** How the file is read, each part of which can be corrected until it is accepted. */
export function Reading({ id, reading, fixed, fields, head, samples }: Props) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const change = (part: Partial<ReadingShape>) =>
		start(async () => {
			const outcome = await setReading(id, part)
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	const match = (key: string, place: number) => {
		const columns = Object.fromEntries(
			Object.entries(reading.columns).filter(([other, column]) => other !== key && column !== place),
		)
		change({ columns: place >= 0 ? { ...columns, [key]: place } : columns })
	}
	const off = fixed || busy
	return (
		<div className="border-t border-rule bg-sheet">
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="flex flex-wrap gap-x-8 gap-y-2 border-b border-rule-soft px-5 py-2.5 text-sm">
				<Pick
					label="The file holds"
					value={reading.kind}
					options={fileKinds}
					off={off}
					onPick={(kind: FileKind) => start(async () => void (await setKind(id, kind)))}
				/>
				<Pick
					label="Days are written"
					value={reading.dayFormat}
					options={['year first', 'day first', 'month first']}
					off={off}
					onPick={(dayFormat) => change({ dayFormat })}
				/>
				<Pick
					label="Decimals are parted by"
					value={reading.decimalMark}
					options={['.', ',']}
					words={{ '.': 'a point', ',': 'a comma' }}
					off={off}
					onPick={(decimalMark) => change({ decimalMark })}
				/>
				{reading.kind === 'open items' && (
					<>
						<AsOf key={reading.asOf} value={reading.asOf} off={off} onDay={(asOf) => change({ asOf })} />
						<Pick
							label="Issued here and not in it"
							value={reading.ours}
							options={['kept open', 'taken as settled']}
							off={off}
							onPick={(ours) => change({ ours })}
						/>
					</>
				)}
				{reading.kind === 'payments' && (
					<Pick
						label="Payments are applied to"
						value={reading.to}
						options={['named then oldest', 'named', 'oldest', 'nothing']}
						words={{
							named: 'the numbers in their reference',
							'named then oldest': 'the numbers in their reference, then the oldest due',
							oldest: 'the oldest due',
							nothing: 'nothing yet',
						}}
						off={off}
						onPick={(to) => change({ to })}
					/>
				)}
			</div>
			<table aria-label="Matching of columns" className="w-full table-fixed text-sm">
				<tbody>
					{fields.map(({ key, label, required }) => {
						const place = reading.columns[key]
						return (
							<tr key={key} className="border-b border-rule-soft">
								<th scope="row" className="w-[200px] py-1 pl-5 text-left font-normal">
									{label}
									{required && <span className={place === undefined ? 'text-brick' : 'text-mute'}> (needed)</span>}
								</th>
								<td className="w-[240px] py-1">
									<select
										aria-label={`Column for ${label}`}
										className={inputLook}
										value={place ?? -1}
										disabled={off}
										onChange={(event) => match(key, Number(event.target.value))}
									>
										<option value={-1}>no column</option>
										{head.map((name, index) => (
											<option key={index} value={index}>
												{name}
											</option>
										))}
									</select>
								</td>
								<td className="figures truncate py-1 pr-5 pl-4 text-mute">
									{place === undefined ? '' : (samples[place] ?? []).join('   ·   ')}
								</td>
							</tr>
						)
					})}
				</tbody>
			</table>
		</div>
	)
}

/** The day that everything in the file was open on; kept when it is a whole day. */
function AsOf({ value, off, onDay }: { value: string; off: boolean; onDay: (day: string) => void }) {
	const [text, setText] = useState(value ? dayText(value) : '')
	const keep = () => {
		const day = readDay(text, 'day first') ?? ''
		if (day !== '' && day !== value) onDay(day)
	}
	return (
		<label className="flex items-center gap-2 whitespace-nowrap">
			Open as of
			<input
				value={text}
				disabled={off}
				placeholder="31 Oct 2026"
				onChange={(event) => setText(event.target.value)}
				onBlur={keep}
				onKeyDown={(event) => event.key === 'Enter' && keep()}
				className={`${inputLook} figures w-32`}
			/>
		</label>
	)
}

type PickProps<T extends string> = {
	label: string
	value: T
	options: readonly T[]
	words?: Partial<Record<T, string>>
	off: boolean
	onPick: (value: T) => void
}

function Pick<T extends string>({ label, value, options, words, off, onPick }: PickProps<T>) {
	return (
		<label className="flex items-center gap-2 whitespace-nowrap">
			{label}
			<select
				className={`${inputLook} w-auto`}
				value={value}
				disabled={off}
				onChange={(event) => {
					const picked = options.find((option) => option === event.target.value)
					if (picked) onPick(picked)
				}}
			>
				{options.map((option) => (
					<option key={option} value={option}>
						{words?.[option] ?? option}
					</option>
				))}
			</select>
		</label>
	)
}
