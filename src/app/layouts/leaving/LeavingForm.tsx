'use client'
import { useEffect, useState, useTransition } from 'react'
import { setHowPapersLeave } from '@/app/acts/layouts'
import { type Companion, companionRules, companions } from '@/core/companions'
import type { Leaving, Part } from '@/layout/leaving'
import type { NamesSeen } from '@/runs/layouts/leaving'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { Section } from '@/ui/Page'

type NameField = { key: string; name: string; group: string; type: string }
type Props = { kind: string; nouns: string; kept: Leaving; fields: NameField[]; seen: NamesSeen }

/** How a kind of paper leaves, seen at once with its latest papers. */
export function LeavingForm({ kind, nouns, kept, fields, seen: first }: Props) {
	const [leaving, setLeaving] = useState(kept)
	const [seen, setSeen] = useState(first)
	const [outcome, setOutcome] = useState<{ ok: boolean; words: string } | null>(null)
	const [saving, start] = useTransition()
	const put = (more: Partial<Leaving>) => {
		setLeaving({ ...leaving, ...more })
		setOutcome(null)
	}
	useEffect(() => {
		const asked = new AbortController()
		const timer = setTimeout(async () => {
			try {
				const response = await fetch('/api/layouts/names', {
					method: 'POST',
					body: JSON.stringify({ kind, leaving }),
					signal: asked.signal,
				})
				if (response.ok) setSeen(await response.json())
			} catch {
				// The next change asks again.
			}
		}, 120)
		return () => {
			clearTimeout(timer)
			asked.abort()
		}
	}, [kind, leaving])
	const beside = (format: Companion, on: boolean) =>
		put({ beside: companions.filter((one) => (one === format ? on : leaving.beside.includes(one))) })
	return (
		<>
			<Section title="Names" aside="Put together from parts, in their order; papers numbered from then on have them">
				<div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-8 px-5 pb-5 max-[1100px]:grid-cols-1">
					<div className="space-y-5">
						<Parts
							label="File"
							usual="number and customer"
							parts={leaving.file}
							fields={fields}
							onChange={(file) => put({ file })}
						/>
						<Parts
							label="Folder"
							usual="one for each run"
							help="A “/” in words begins a folder within the folder."
							parts={leaving.folder}
							fields={fields}
							onChange={(folder) => put({ folder })}
						/>
						<Parts
							label="Title of the PDF"
							usual="kind and number"
							parts={leaving.title}
							fields={fields}
							onChange={(title) => put({ title })}
						/>
					</div>
					<div>
						<p className="mb-1 text-sm font-semibold">
							{seen.looked > 0 ? `The latest ${nouns} would be` : 'An invented paper would be'}
						</p>
						<ul className="space-y-2">
							{seen.names.map(({ paper, file, title }) => (
								<li key={paper} className="border-b border-rule-soft pb-2 text-sm">
									<span className="figures block break-all !whitespace-normal">{file}</span>
									<span className="text-mute">titled {title}</span>
								</li>
							))}
						</ul>
						{seen.same.length > 0 && (
							<div className="mt-3">
								<Notice tone="stop">
									{`Of the latest ${seen.looked}, ${seen.same.reduce((sum, { papers }) => sum + papers.length, 0)} would share a file with another: ${seen.same
										.slice(0, 2)
										.map(({ file, papers }) => `${papers.slice(0, 2).join(' and ')} as ${file}`)
										.join('; ')}. Put the number among the parts.`}
								</Notice>
							</div>
						)}
					</div>
				</div>
			</Section>
			<Section title="Copies" aside="Of what is printed">
				<div className="flex max-w-3xl items-end gap-6 px-5 pb-5">
					<div className="w-40">
						<TextField
							label="How many of each"
							type="number"
							min={1}
							max={9}
							value={leaving.copies}
							onChange={(event) =>
								put({ copies: Math.min(9, Math.max(1, Math.round(Number(event.target.value)) || 1)) })
							}
							className="figures"
						/>
					</div>
					<label className="mb-2 flex items-center gap-2">
						<input
							type="checkbox"
							checked={leaving.marked}
							onChange={(event) => put({ marked: event.target.checked })}
							className="size-4 accent-plum"
						/>
						“Copy” across all but the first, and across what is printed again
					</label>
				</div>
			</Section>
			<Section
				title="Beside the PDF"
				aside="Made in the run from the same numbered paper; a customer can have it otherwise, under Accounts"
			>
				<div className="space-y-2 px-5 pb-5">
					{companions.map((format) => (
						<label key={format} className="flex items-center gap-2">
							<input
								type="checkbox"
								checked={leaving.beside.includes(format)}
								onChange={(event) => beside(format, event.target.checked)}
								className="size-4 accent-plum"
							/>
							{companionRules[format].name}
						</label>
					))}
					<label className="flex items-center gap-2 pt-1">
						<input
							type="checkbox"
							checked={leaving.attached}
							onChange={(event) => put({ attached: event.target.checked })}
							className="size-4 accent-plum"
						/>
						attached to the message with the PDF; else filed beside it alone
					</label>
				</div>
			</Section>
			<div className="flex items-center gap-3 px-5 pb-8">
				<Button
					kind="main"
					disabled={saving}
					onClick={() =>
						start(async () => {
							const result = await answered(setHowPapersLeave(kind, leaving))
							setOutcome({ ok: result.ok, words: result.ok ? `Saved for ${nouns}.` : result.message })
						})
					}
				>
					{`Save for ${nouns}`}
				</Button>
				{outcome && <Notice tone={outcome.ok ? 'tie' : 'stop'}>{outcome.words}</Notice>}
			</div>
		</>
	)
}

/** Parts of a name in their order: fields and free words. */
function Parts({
	label,
	usual,
	help,
	parts,
	fields,
	onChange,
}: {
	label: string
	usual: string
	help?: string
	parts: Part[]
	fields: NameField[]
	onChange: (parts: Part[]) => void
}) {
	const groups = [...new Set(fields.map(({ group }) => group))]
	const swap = (at: number) => {
		const next = [...parts]
		const [moved] = next.splice(at, 1)
		if (moved) next.splice(at - 1, 0, moved)
		onChange(next)
	}
	const named = (key: string) => {
		const field = fields.find((own) => own.key === key)
		return field ? `${field.group}: ${field.name}` : key
	}
	const set = (at: number, part: Part) => onChange(parts.map((own, place) => (place === at ? part : own)))
	return (
		<fieldset>
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			{parts.length === 0 && <p className="text-sm text-mute">{`as usual: ${usual}`}</p>}
			<ol className="space-y-1">
				{parts.map((part, at) => (
					<li key={at} className="flex items-center gap-2">
						{'text' in part && part.text.trim() === '' && <span className="text-sm text-mute">a space</span>}
						{'text' in part ? (
							<input
								aria-label={`${label}, words ${at + 1}`}
								className={`${inputLook} figures flex-1`}
								value={part.text}
								maxLength={60}
								placeholder="words"
								onChange={(event) => event.target.value !== '' && set(at, { text: event.target.value })}
							/>
						) : (
							<>
								<span className="flex-1 rounded border border-rule bg-plum-wash px-2 py-1.5">{named(part.field)}</span>
								{fields.find(({ key }) => key === part.field)?.type === 'day' && (
									<select
										aria-label={`${label}, how part ${at + 1} is written`}
										className={`${inputLook} !w-32`}
										value={part.format?.day ?? 'iso'}
										onChange={(event) =>
											set(at, { ...part, format: { day: event.target.value === 'month' ? 'month' : 'iso' } })
										}
									>
										<option value="iso">2026-10-31</option>
										<option value="month">its month</option>
									</select>
								)}
							</>
						)}
						<button
							type="button"
							aria-label={`${label}: part ${at + 1} before`}
							disabled={at === 0}
							className="px-1 text-plum disabled:opacity-30"
							onClick={() => swap(at)}
						>
							↑
						</button>
						<button
							type="button"
							aria-label={`${label}: take part ${at + 1} away`}
							className="px-1 text-mute hover:text-brick"
							onClick={() => onChange(parts.filter((_, place) => place !== at))}
						>
							×
						</button>
					</li>
				))}
			</ol>
			<div className="mt-1.5 flex items-center gap-3 text-sm">
				<select
					aria-label={`${label}: another field`}
					className={`${inputLook} !w-56`}
					value=""
					disabled={parts.length >= 12}
					onChange={(event) => event.target.value && onChange([...parts, { field: event.target.value }])}
				>
					<option value="">put a field in …</option>
					{groups.map((group) => (
						<optgroup key={group} label={group}>
							{fields
								.filter((field) => field.group === group)
								.map(({ key, name }) => (
									<option key={key} value={key}>
										{name}
									</option>
								))}
						</optgroup>
					))}
				</select>
				<Button kind="bare" disabled={parts.length >= 12} onClick={() => onChange([...parts, { text: ' ' }])}>
					Words
				</Button>
			</div>
			{help && parts.length > 0 && <p className="mt-1 text-xs text-mute">{help}</p>}
		</fieldset>
	)
}
