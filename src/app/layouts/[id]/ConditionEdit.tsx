'use client'
import { useState } from 'react'
import { FieldPick, fieldsFor } from '@/app/layoutParts/FieldPick'
import { useMaking } from '@/app/layoutParts/making'
import type { Of } from '@/layout/fieldTypes'
import type { Condition, Test } from '@/layout/schemaParts'
import { conditionWords } from '@/layout/values'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'

const signs: [Test['is'], string][] = [
	['is', 'is'],
	['is not', 'is not'],
	['above', 'is above'],
	['below', 'is below'],
	['one of', 'is one of'],
	['empty', 'is empty'],
	['not empty', 'is not empty'],
]

type Props = {
	label: string
	none: string
	value: Condition | undefined
	of?: Of
	onChange: (value: Condition | undefined) => void
}

/** When something is shown, or which lines: all or any of tests of fields, said as a sentence. */
export function ConditionEdit({ label, none, value, of, onChange }: Props) {
	const { fields, layout } = useMaking()
	const [picking, setPicking] = useState(false)
	const any = value !== undefined && 'any' in value
	const tests = value === undefined ? [] : 'all' in value ? value.all : value.any
	const put = (next: Test[], asAny = any) =>
		onChange(next.length === 0 ? undefined : asAny ? { any: next } : { all: next })
	const change = (index: number, more: Partial<Test>) =>
		put(tests.map((test, at) => (at === index ? { ...test, ...more } : test)))
	return (
		<fieldset>
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			<p className="mb-1 text-sm text-mute">{value ? conditionWords(value, fields) : none}</p>
			{tests.length > 1 && (
				<select
					aria-label="All or any"
					className={`${inputLook} mb-1`}
					value={any ? 'any' : 'all'}
					onChange={(event) => put(tests, event.target.value === 'any')}
				>
					<option value="all">all of these</option>
					<option value="any">any of these</option>
				</select>
			)}
			{tests.map((test, index) => {
				const field = fields.get(test.field)
				return (
					<div key={index} className="mb-1.5 grid grid-cols-[1fr_auto] gap-1 rounded border border-rule-soft p-1.5">
						<select
							aria-label="Field"
							className={inputLook}
							value={test.field}
							onChange={(event) => change(index, { field: event.target.value })}
						>
							{!field && <option value={test.field}>{`${test.field}, which there is not`}</option>}
							{fieldsFor(fields, layout.kind, of).map(({ key, name, group }) => (
								<option key={key} value={key}>{`${name} (${group.toLowerCase()})`}</option>
							))}
						</select>
						<button
							type="button"
							aria-label="Take this test away"
							className="px-1.5 text-mute hover:text-brick"
							onClick={() => put(tests.filter((_, at) => at !== index))}
						>
							×
						</button>
						<select
							aria-label="How it is compared"
							className={inputLook}
							value={test.is}
							onChange={(event) => change(index, { is: event.target.value as Test['is'] })}
						>
							{signs.map(([sign, words]) => (
								<option key={sign} value={sign}>
									{words}
								</option>
							))}
						</select>
						<span />
						{test.is === 'one of' ? (
							<input
								aria-label="Values, with commas between"
								className={inputLook}
								defaultValue={(test.values ?? []).join(', ')}
								onBlur={(event) =>
									change(index, {
										values: event.target.value
											.split(',')
											.map((one) => one.trim())
											.filter(Boolean),
									})
								}
							/>
						) : test.is === 'empty' || test.is === 'not empty' ? null : field?.values ? (
							<select
								aria-label="Value"
								className={inputLook}
								value={test.value ?? ''}
								onChange={(event) => change(index, { value: event.target.value })}
							>
								<option value="">choose</option>
								{field.values.map(([one, name]) => (
									<option key={one} value={one}>
										{name}
									</option>
								))}
							</select>
						) : (
							<input
								aria-label="Value"
								className={inputLook}
								defaultValue={test.value ?? ''}
								key={`${test.field} ${test.is}`}
								onBlur={(event) =>
									event.target.value !== (test.value ?? '') && change(index, { value: event.target.value.trim() })
								}
							/>
						)}
					</div>
				)
			})}
			<Button kind="bare" onClick={() => setPicking(true)}>
				{tests.length === 0 ? 'Only when …' : 'And another test'}
			</Button>
			<FieldPick
				open={picking}
				of={of}
				onClose={() => setPicking(false)}
				onPick={(field) => {
					setPicking(false)
					const first = fields.get(field)?.values?.[0]?.[0]
					put([...tests, first ? { field, is: 'is', value: first } : { field, is: 'not empty' }])
				}}
			/>
		</fieldset>
	)
}
