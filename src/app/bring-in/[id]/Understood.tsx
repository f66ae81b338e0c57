'use client'
import { useState, useTransition } from 'react'
import { setKind, setReading } from '@/app/acts/bringIn'
import { dayText } from '@/core/calendar'
import type { Outcome } from '@/core/outcome'
import type { SheetWay } from '@/core/paperKind'
import { readDay } from '@/core/readDay'
import type { FileKind } from '@/intake/kinds'
import { type Decided, discountForms, type QuestionName, type Reading } from '@/intake/reading'
import type { FieldView } from '@/runs/bringIn/view'
import { answered } from '@/ui/answered'
import { Chip } from '@/ui/Chip'
import { inputLook } from '@/ui/Field'
import { type Head, Heads } from '@/ui/Heads'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'
import { discountQuestions, discountWords } from '../discounts'

type Props = {
	id: number
	reading: Reading
	kinds: readonly FileKind[]
	fields: FieldView[]
	/** What may be chosen of the format: its sheets, say. */
	choices: { setting: string; words: string; options: string[]; value: string }[]
	decided: Decided | null
	fixed: boolean
	/** Kinds of paper that are made from sheets. */
	papers: { id: number; name: string; each: SheetWay }[]
}

const heads: Head[] = [
	['Field', 'w-[190px] py-1.5 pl-5'],
	['Its column', 'w-[210px] px-2'],
	['What stands there: what is taken', 'px-2'],
	['Where nothing stands', 'w-[150px] pr-5 pl-2'],
]

/** Fields that are shown also where the file has no column for them. */
const usual = new Set(['item', 'unitPrice', 'currency', 'name', 'description', 'email'])
const byWords: Record<string, string> = {
	values: 'by its values',
	answer: 'as answered',
	nothing: 'nothing says otherwise',
}
const eachWords: Record<SheetWay, string> = {
	row: 'one a row',
	key: 'one for all rows of the same key',
	whole: 'one for the whole sheet',
}
const optionWords: Record<string, string> = { '\t': 'tabs', ',': 'commas', ';': 'semicolons', '|': 'bars' }

/** How the file is understood: each field, its column, the values taken beside what stands there. Every part can be corrected. */
export function Understood({ id, reading, kinds, fields, choices, decided, fixed, papers }: Props) {
	const [trouble, setTrouble] = useState('')
	const [all, setAll] = useState(false)
	const [busy, start] = useTransition()
	const does = (work: () => Promise<Outcome>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	const change = (part: Partial<Reading>) => does(() => setReading(id, part))
	const match = (key: string, place: number) => {
		const columns = Object.fromEntries(
			Object.entries(reading.columns).filter(([other, column]) => other !== key && column !== place),
		)
		change({ columns: place >= 0 ? { ...columns, [key]: place } : columns })
	}
	const noteOf = (name: QuestionName) =>
		decided?.questions.some((question) => question.name === name)
			? 'asked above'
			: byWords[decided?.by[name] ?? 'nothing']
	const awake = useAwake()
	const off = fixed || busy || !awake
	const shown = fields.filter(
		({ key, place, needed, default: given }) => all || needed || usual.has(key) || place !== null || given !== '',
	)
	return (
		<div className="border-t border-rule bg-sheet">
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="flex flex-wrap items-center gap-x-7 gap-y-2 border-b border-rule-soft px-5 py-2.5 text-sm">
				<Pick
					label="The file holds"
					value={reading.kind}
					options={kinds}
					words={{ rows: 'rows for papers' }}
					off={off}
					onPick={(kind) => does(() => setKind(id, kind))}
				/>
				{(reading.format === 'csv' || reading.format === 'report') && (
					<Pick
						label="Read as"
						value={reading.format}
						options={['csv', 'report']}
						words={{ csv: 'delimited text', report: 'a text report' }}
						off={off}
						onPick={(format) => change({ format, settings: {}, headRow: null })}
					/>
				)}
				{choices.map(({ setting, words, options, value }) => (
					<Pick
						key={setting}
						label={words}
						value={value}
						options={options}
						words={optionWords}
						off={off}
						onPick={(picked) => change({ settings: { ...reading.settings, [setting]: picked } })}
					/>
				))}
				<HeadRow reading={reading} off={off} onRow={(headRow) => change({ headRow })} />
				<Pick
					label="Days"
					value={decided?.days ?? 'day first'}
					options={['day first', 'month first', 'year first']}
					off={off}
					note={noteOf('days')}
					onPick={(days) => change({ days })}
				/>
				<Pick
					label="Before the decimals"
					value={decided?.decimal ?? 'point'}
					options={['point', 'comma']}
					words={{ point: 'a point', comma: 'a comma' }}
					off={off}
					note={noteOf('decimal')}
					onPick={(decimal) => change({ decimal })}
				/>
				{discountQuestions.map(
					([name, field, label]) =>
						reading.columns[field] !== undefined && (
							<Pick
								key={name}
								label={label}
								value={decided?.[name] ?? 'percent'}
								options={discountForms}
								words={discountWords}
								off={off}
								note={noteOf(name)}
								onPick={(form) => change({ [name]: form })}
							/>
						),
				)}
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
						<Pick
							label="Signs of its figures"
							value={reading.signs ?? 'as they stand'}
							options={['as they stand', 'by kind']}
							words={{ 'as they stand': 'as they stand', 'by kind': 'by kind: credits and payments have none' }}
							off={off}
							onPick={(signs) => change({ signs })}
						/>
					</>
				)}
				{reading.kind === 'rows' && (
					<Pick
						label="For"
						value={String(reading.paperKind)}
						options={['0', ...papers.map((paper) => String(paper.id))]}
						words={{
							'0': papers.length > 0 ? 'which paper?' : 'no kind is made from sheets yet',
							...Object.fromEntries(
								papers.map((paper) => [String(paper.id), `${paper.name}: ${eachWords[paper.each]}`]),
							),
						}}
						off={off}
						onPick={(paper) => change({ paperKind: Number(paper) })}
					/>
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
			<table aria-label="As understood" className="w-full table-fixed text-sm">
				<Heads of={heads} look="border-b border-rule-soft" />
				<tbody>
					{shown.map((field) => (
						<tr key={field.key} className="border-b border-rule-soft">
							<th scope="row" className="py-1 pl-5 text-left font-normal">
								{field.label}
								{field.needed && (
									<span className={field.place === null && field.default === '' ? 'text-brick' : 'text-mute'}>
										{' '}
										(needed)
									</span>
								)}{' '}
								{field.guessed && <Chip tone="look">a guess</Chip>}
							</th>
							<td className="px-2 py-1">
								<select
									aria-label={`Column for ${field.label}`}
									className={inputLook}
									value={field.place ?? -1}
									disabled={off}
									onChange={(event) => match(field.key, Number(event.target.value))}
								>
									<option value={-1}>no column</option>
									{reading.head.map((name, index) => (
										<option key={index} value={index}>
											{name || `column ${index + 1}`}
										</option>
									))}
								</select>
								{field.more.length > 0 && (
									<p className="truncate text-xs text-mute">{`and ${field.more.join(', ')}`}</p>
								)}
							</td>
							<td className="truncate px-2 py-1">
								{field.samples.map(({ was, is, why }) => (
									<span key={was} className="figures mr-4">
										<span className="text-mute">{was}</span>
										{why !== '' ? <span className="text-brick"> refused</span> : is !== was && <span>{`: ${is}`}</span>}
									</span>
								))}
							</td>
							<td className="py-1 pr-5 pl-2">
								<Fallback
									key={field.default}
									label={field.label}
									value={field.default}
									off={off}
									onSet={(text) => change({ defaults: { ...reading.defaults, [field.key]: text } })}
								/>
							</td>
						</tr>
					))}
				</tbody>
			</table>
			{shown.length < fields.length && (
				<button type="button" className="px-5 py-2 text-sm text-plum underline" onClick={() => setAll(true)}>
					{`Show ${fields.length - shown.length} more fields that it has no column for`}
				</button>
			)}
		</div>
	)
}

/** What counts where nothing stands, set when it is left. */
function Fallback({
	label,
	value,
	off,
	onSet,
}: {
	label: string
	value: string
	off: boolean
	onSet: (text: string) => void
}) {
	const [text, setText] = useState(value)
	const keep = () => text.trim() !== value && onSet(text.trim())
	return (
		<input
			aria-label={`Where ${label} is empty`}
			value={text}
			disabled={off}
			onChange={(event) => setText(event.target.value)}
			onBlur={keep}
			onKeyDown={(event) => event.key === 'Enter' && keep()}
			className={`${inputLook} py-1`}
		/>
	)
}

function HeadRow({ reading, off, onRow }: { reading: Reading; off: boolean; onRow: (row: number | null) => void }) {
	const [text, setText] = useState(reading.headRow === null ? '' : String(reading.headRow))
	// These name their columns themselves.
	if (reading.format === 'json' || reading.format === 'report') return null
	const keep = () => {
		const row = text.trim() === '' ? null : Number(text)
		if (row !== reading.headRow && (row === null || (Number.isInteger(row) && row > 0 && row <= 60))) onRow(row)
	}
	return (
		<label className="flex items-center gap-2 whitespace-nowrap">
			Names stand in row
			<input
				value={text}
				disabled={off}
				placeholder="none"
				onChange={(event) => setText(event.target.value)}
				onBlur={keep}
				onKeyDown={(event) => event.key === 'Enter' && keep()}
				style={{ width: '4rem' }}
				className={`${inputLook} figures py-1`}
			/>
		</label>
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
				style={{ width: '8rem' }}
				className={`${inputLook} figures py-1`}
			/>
		</label>
	)
}

type PickProps<T extends string> = {
	label: string
	value: T
	options: readonly T[]
	words?: Partial<Record<string, string>>
	note?: string | undefined
	off: boolean
	onPick: (value: T) => void
}

function Pick<T extends string>({ label, value, options, words, note, off, onPick }: PickProps<T>) {
	return (
		<label className="flex items-center gap-2 whitespace-nowrap">
			{label}
			<select
				className={`${inputLook} w-auto py-1`}
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
			{note && <span className="text-mute">{note}</span>}
		</label>
	)
}
