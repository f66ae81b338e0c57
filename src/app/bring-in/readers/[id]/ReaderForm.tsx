'use client'
import { useState, useTransition } from 'react'
import { changeReader } from '@/app/acts/bringIn'
import { discountForms, type Reading } from '@/intake/reading'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Choice, inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { Section } from '@/ui/Page'
import { useAwake } from '@/ui/useAwake'
import { discountQuestions, discountWords } from '../../discounts'

type Props = {
	id: number
	name: string
	version: number
	reading: Reading
	fields: { key: string; label: string; needed: boolean }[]
}
const byFile = 'as its values say'

/** Changes a reader without a file of it. */
export function ReaderForm({ id, name: before, version, reading, fields }: Props) {
	const [name, setName] = useState(before)
	const [columns, setColumns] = useState(reading.columns)
	const [defaults, setDefaults] = useState(reading.defaults)
	const [days, setDays] = useState(reading.days)
	const [decimal, setDecimal] = useState(reading.decimal)
	const [forms, setForms] = useState({ discount: reading.discount, orderDiscount: reading.orderDiscount })
	const [told, setTold] = useState<{ ok: boolean; words: string } | null>(null)
	const [busy, start] = useTransition()
	const awake = useAwake()
	const fieldAt = (place: number) => Object.entries(columns).find(([, at]) => at === place)?.[0] ?? ''
	const set = (place: number, key: string) => {
		const others = Object.entries(columns).filter(([other, at]) => other !== key && at !== place)
		setColumns(Object.fromEntries(key === '' ? others : [...others, [key, place]]))
	}
	const missing = fields.filter(({ key, needed }) => needed && columns[key] === undefined && !defaults[key])
	const save = () =>
		start(async () => {
			const { ours, to } = reading
			const given = Object.fromEntries(Object.entries(defaults).filter(([, value]) => value.trim() !== ''))
			const outcome = await answered(
				changeReader(id, version, {
					name,
					columns,
					defaults: given,
					days,
					decimal,
					...forms,
					ours,
					to,
				}),
			)
			setTold({ ok: outcome.ok, words: outcome.ok ? (outcome.words ?? 'Saved.') : outcome.message })
		})
	return (
		<form
			aria-label="The reader"
			onSubmit={(event) => {
				event.preventDefault()
				save()
			}}
		>
			{told && <Notice tone={told.ok ? 'tie' : 'stop'}>{told.words}</Notice>}
			{missing.length > 0 && (
				<Notice tone="look">
					It has no column for {missing.map(({ label }) => label).join(', ')}: each file of it will ask for that.
				</Notice>
			)}
			<div className="grid max-w-[860px] grid-cols-4 gap-4 px-5 py-3">
				<TextField label="Name" value={name} onChange={(event) => setName(event.target.value)} />
				<Choice
					label="Days"
					value={days ?? ''}
					options={[
						['', byFile],
						['day first', 'day first'],
						['month first', 'month first'],
						['year first', 'year first'],
					]}
					onChange={(event) =>
						setDays(
							(['day first', 'month first', 'year first'] as const).find((one) => one === event.target.value) ?? null,
						)
					}
				/>
				<Choice
					label="Before the decimals"
					value={decimal ?? ''}
					options={[
						['', byFile],
						['point', 'a point'],
						['comma', 'a comma'],
					]}
					onChange={(event) =>
						setDecimal((['point', 'comma'] as const).find((one) => one === event.target.value) ?? null)
					}
				/>
				{discountQuestions.map(
					([name, field, label]) =>
						fields.some(({ key }) => key === field) && (
							<Choice
								key={name}
								label={label}
								value={forms[name] ?? ''}
								options={[['', byFile], ...discountForms.map((form): [string, string] => [form, discountWords[form]])]}
								onChange={(event) =>
									setForms({ ...forms, [name]: discountForms.find((one) => one === event.target.value) ?? null })
								}
							/>
						),
				)}
			</div>
			<Section
				title="Its columns"
				aside={
					reading.format === 'report'
						? 'Where each stands on the page is changed on a file of it'
						: 'By the names that its files give them'
				}
			>
				<table
					aria-label="Columns of the reader"
					className="w-full max-w-[860px] table-fixed border-y border-rule bg-sheet text-sm"
				>
					<tbody>
						{reading.head.map((column, place) => (
							<tr key={place} className="border-b border-rule-soft">
								<th scope="row" className="py-1 pl-5 text-left font-normal">
									{column || `column ${place + 1}`}
								</th>
								<td className="px-2 py-1">
									<select
										aria-label={`${column || `column ${place + 1}`} is`}
										className={`${inputLook} py-1`}
										value={fieldAt(place)}
										onChange={(event) => set(place, event.target.value)}
									>
										<option value="">not used</option>
										{fields.map(({ key, label }) => (
											<option key={key} value={key}>
												{label}
											</option>
										))}
									</select>
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</Section>
			<Section title="Where nothing stands" aside="What counts for a field without a column, or with an empty cell">
				<div className="grid max-w-[860px] grid-cols-4 gap-x-4 gap-y-2 px-5 pb-3">
					{fields
						.filter(({ key, needed }) => needed || columns[key] !== undefined || (defaults[key] ?? '') !== '')
						.map(({ key, label }) => (
							<TextField
								key={key}
								label={label}
								value={defaults[key] ?? ''}
								onChange={(event) => setDefaults({ ...defaults, [key]: event.target.value })}
							/>
						))}
				</div>
			</Section>
			<div className="px-5 pb-5">
				<Button kind="main" type="submit" disabled={busy || !awake}>
					Save the reader
				</Button>
			</div>
		</form>
	)
}
