'use client'
import { useState } from 'react'
import { useMaking } from '@/app/layoutParts/making'
import { type Language, languageNames, type Said } from '@/layout/languages'
import type { Piece, PieceType } from '@/layout/schema'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** A number of points, or nothing; taken when it is left. */
export function Points({
	label,
	value,
	none,
	onChange,
	least = 0,
	most = 900,
}: {
	label: string
	value: number | undefined
	none?: string
	onChange: (value: number | undefined) => void
	least?: number
	most?: number
}) {
	const put = (text: string) => {
		const typed = Number(text.replace(',', '.'))
		if (text.trim() === '') onChange(undefined)
		else if (Number.isFinite(typed)) onChange(Math.min(most, Math.max(least, Math.round(typed * 100) / 100)))
	}
	return (
		<label className="block text-sm">
			<span className="mb-0.5 block font-semibold">{label}</span>
			<input
				className={`${inputLook} figures`}
				inputMode="decimal"
				key={String(value)}
				defaultValue={value ?? ''}
				placeholder={none ?? ''}
				onBlur={(event) => event.target.value !== String(value ?? '') && put(event.target.value)}
				onKeyDown={(event) => event.key === 'Enter' && put(event.currentTarget.value)}
			/>
		</label>
	)
}

export function Pick<Value extends string>({
	label,
	value,
	options,
	onChange,
}: {
	label: string
	value: Value
	options: readonly (readonly [Value, string])[]
	onChange: (value: Value) => void
}) {
	return (
		<label className="block text-sm">
			<span className="mb-0.5 block font-semibold">{label}</span>
			<select className={inputLook} value={value} onChange={(event) => onChange(event.target.value as Value)}>
				{options.map(([one, words]) => (
					<option key={one} value={one}>
						{words}
					</option>
				))}
			</select>
		</label>
	)
}

/** A colour of the palette. */
export function Colour({
	label,
	value,
	none,
	onChange,
}: {
	label: string
	value: string | undefined
	none: string
	onChange: (value: string | undefined) => void
}) {
	const { layout } = useMaking()
	const hex = layout.palette.find(({ name }) => name === value)?.color
	return (
		<label className="block text-sm">
			<span className="mb-0.5 flex items-center gap-1.5 font-semibold">
				{label}
				{hex && (
					<span className="inline-block size-3 rounded-sm border border-rule" style={{ background: `#${hex}` }} />
				)}
			</span>
			<select className={inputLook} value={value ?? ''} onChange={(event) => onChange(event.target.value || undefined)}>
				<option value="">{none}</option>
				{layout.palette.map(({ name }) => (
					<option key={name} value={name}>
						{name}
					</option>
				))}
			</select>
		</label>
	)
}

export function Tick({
	label,
	value,
	onChange,
}: {
	label: string
	value: boolean | undefined
	onChange: (value: true | undefined) => void
}) {
	return (
		<label className="flex items-center gap-2 text-sm">
			<input
				type="checkbox"
				checked={value === true}
				onChange={(event) => onChange(event.target.checked || undefined)}
			/>
			{label}
		</label>
	)
}

/** A fixed word or sentence, in as many languages as are wanted. */
export function SaidEdit({ label, value, onChange }: { label: string; value: Said; onChange: (value: Said) => void }) {
	const [open, setOpen] = useState(false)
	const record: Partial<Record<Language, string>> = typeof value === 'string' ? {} : value
	const plain = typeof value === 'string' ? value : (record.en ?? Object.values(record)[0] ?? '')
	const put = (language: Language, text: string) => {
		const base: Partial<Record<Language, string>> = typeof value === 'string' ? { en: value } : { ...value }
		if (text === '') delete base[language]
		else base[language] = text
		onChange(base)
	}
	return (
		<div className="text-sm">
			<span className="mb-0.5 flex items-baseline justify-between">
				<span className="font-semibold">{label}</span>
				<button type="button" className="text-xs text-plum hover:underline" onClick={() => setOpen(!open)}>
					{open
						? 'one language'
						: typeof value === 'string'
							? 'other languages'
							: `in ${Object.keys(value).length} languages`}
				</button>
			</span>
			{open ? (
				<div className="grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1">
					{(Object.entries(languageNames) as [Language, string][]).map(([language, name]) => (
						<label key={language} className="contents">
							<span className="text-mute">{name}</span>
							<input
								className={inputLook}
								key={record[language] ?? ''}
								defaultValue={typeof value === 'string' ? (language === 'en' ? value : '') : (record[language] ?? '')}
								onBlur={(event) => event.target.value !== (record[language] ?? '') && put(language, event.target.value)}
							/>
						</label>
					))}
				</div>
			) : (
				<input
					aria-label={label}
					className={inputLook}
					key={plain}
					defaultValue={plain}
					onBlur={(event) => {
						if (event.target.value === plain) return
						if (typeof value === 'string') onChange(event.target.value)
						else put('en', event.target.value)
					}}
				/>
			)}
		</div>
	)
}

/** Brings a picture or a letter paper into the books, to stand on every paper of the layout. */
export function ChooseFile({
	label,
	accept,
	onFile,
}: {
	label: string
	accept: string
	onFile: (sha256: string) => void
}) {
	const [trouble, setTrouble] = useState('')
	return (
		<div>
			<label className="block text-sm">
				<span className="mb-0.5 block font-semibold">{label}</span>
				<input
					type="file"
					accept={accept}
					className="text-sm"
					onChange={async (event) => {
						const file = event.target.files?.[0]
						if (!file) return
						const response = await fetch('/api/layouts/pictures', {
							method: 'POST',
							headers: { 'content-type': file.type },
							body: file,
						})
						const answer: { sha256?: string; message?: string } = await response.json()
						setTrouble(answer.message ?? '')
						if (answer.sha256) onFile(answer.sha256)
					}}
				/>
			</label>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
		</div>
	)
}

/** Puts other settings in a piece; the words say what changed. */
/** What the form of a piece's settings is given. */
export type FormOf<T extends PieceType> = { piece: Extract<Piece, { type: T }>; put: Put }
export type Put = (more: Record<string, unknown>, words?: string) => void
export const aligns = [
	['left', 'left'],
	['center', 'in the middle'],
	['right', 'right'],
] as const
