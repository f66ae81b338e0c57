'use client'
import { useState } from 'react'
import { setLateTerms, setStages } from '@/app/acts/firm'
import { dayText } from '@/core/calendar'
import { amountText } from '@/core/currency'
import type { LateTerms } from '@/core/lateCharge'
import { leastsText } from '@/core/leasts'
import type { Stage } from '@/core/stages'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

type Row = Stage & { key: number }

/** The stages of past-due letters, one after the other: when each goes, what it is worth a letter for, and whether a person reads it first. */
export function StagesForm({ stages, promiseDays, home }: { stages: Stage[]; promiseDays: number; home: string }) {
	const [rows, setRows] = useState<Row[]>(() => stages.map((stage, key) => ({ ...stage, key })))
	const [next, setNext] = useState(stages.length)
	const add = () => {
		setRows([...rows, { name: `Stage ${rows.length + 1}`, days: 14, least: 0, read: false, key: next }])
		setNext(next + 1)
	}
	return (
		<div className="max-w-4xl px-5 py-4">
			<SavedForm save={setStages} label="Save the stages" saved="Saved. Statements gathered from here on go by them.">
				<table className="w-full text-sm">
					<thead>
						<tr className="border-b border-rule text-left text-xs text-mute">
							<th className="w-8 py-1 font-semibold"> </th>
							<th className="py-1 font-semibold">Name</th>
							<th className="py-1 font-semibold">Goes</th>
							<th className="py-1 font-semibold">{`Least, ${home}`}</th>
							<th className="py-1 font-semibold">Read first</th>
							<th> </th>
						</tr>
					</thead>
					<tbody>
						{rows.map((row, place) => (
							<tr key={row.key} className="border-b border-rule-soft align-middle">
								<td className="figures py-1 text-mute">{place + 1}</td>
								<td className="py-1 pr-3">
									<TextField
										label={`Name of stage ${place + 1}`}
										hideLabel
										name={`name${place}`}
										defaultValue={row.name}
										required
									/>
								</td>
								<td className="py-1 pr-3">
									<span className="flex items-center gap-2">
										<span className="w-20">
											<TextField
												label={`Days of stage ${place + 1}`}
												hideLabel
												name={`days${place}`}
												type="number"
												min={1}
												defaultValue={row.days}
												className="figures"
												required
											/>
										</span>
										<span className="text-mute">
											{place === 0 ? 'days past due' : `days after “${rows[place - 1]?.name}” went`}
										</span>
									</span>
								</td>
								<td className="w-32 py-1 pr-3">
									<TextField
										label={`Least of stage ${place + 1}`}
										hideLabel
										name={`least${place}`}
										defaultValue={leastsText(row, home)}
										className="figures"
									/>
								</td>
								<td className="py-1">
									<input
										type="checkbox"
										name={`read${place}`}
										aria-label={`A person reads each of stage ${place + 1} before it goes`}
										defaultChecked={row.read}
										className="size-4 accent-plum"
									/>
								</td>
								<td className="py-1 text-right">
									<button
										type="button"
										className="text-plum hover:underline"
										onClick={() => setRows(rows.filter(({ key }) => key !== row.key))}
									>
										Take it out
									</button>
								</td>
							</tr>
						))}
					</tbody>
				</table>
				{rows.length === 0 && <p className="text-mute">No stage: no past-due letter goes.</p>}
				<div className="flex items-end gap-4">
					<Button onClick={add}>Add a stage</Button>
					<div className="w-56">
						<TextField
							label="A promise holds for at most, days"
							name="promiseDays"
							type="number"
							min={1}
							defaultValue={promiseDays}
							className="figures"
						/>
					</div>
				</div>
			</SavedForm>
		</div>
	)
}

/** What is charged on what is past due, when a run of statements is asked to propose it. */
export function LateForm({ terms, home, today }: { terms: LateTerms; home: string; today: string }) {
	const last = terms.rates.at(-1)
	return (
		<div className="max-w-4xl px-5 py-4">
			<SavedForm
				save={setLateTerms}
				label="Save the late charges"
				saved="Saved. Statements propose them when they are asked to."
			>
				<div className="grid grid-cols-6 gap-4">
					<TextField
						label="Percent"
						name="percent"
						defaultValue={last?.percent ?? ''}
						className="figures"
						help="Empty: none from that day on"
					/>
					<Choice
						label="for each"
						name="per"
						defaultValue={terms.per}
						options={[
							['year', 'year'],
							['month', 'month'],
						]}
					/>
					<DayField
						label="from"
						name="from"
						value={last ? last.from : ''}
						help={`None: for all days. Today is ${dayText(today)}`}
					/>
					<Choice
						label="A year is"
						name="year"
						defaultValue={terms.year}
						options={[
							['365', '365 days'],
							['actual', '365, in leap years 366'],
						]}
					/>
					<TextField
						label="Days of grace"
						name="grace"
						type="number"
						min={0}
						defaultValue={terms.grace}
						className="figures"
						help="After the due date"
					/>
					<TextField
						label={`At least, ${home}`}
						name="minimum"
						defaultValue={amountText(BigInt(terms.minimum), home)}
						className="figures"
						help="Once an item"
					/>
				</div>
				{terms.rates.length > 1 && (
					<p className="text-sm text-mute">
						{terms.rates
							.map(
								({ from, percent }) =>
									`${percent === '' ? 'none' : `${percent}%`}${from ? ` from ${dayText(from)}` : ''}`,
							)
							.join(', ')}
						. Each day is charged at its own rate.
					</p>
				)}
			</SavedForm>
		</div>
	)
}
