'use client'
import { useMaking } from '@/app/layoutParts/making'
import type { Format, Inline } from '@/layout/schemaParts'
import { Choice, TextField } from '@/ui/Field'

type Chip = Extract<Inline, { field: string }>

/** How a field is written where it stands, and what stands there when it is empty. */
export function ChipSettings({ inline, onChange }: { inline: Chip; onChange: (inline: Chip) => void }) {
	const { fields, examples } = useMaking()
	const field = fields.get(inline.field)
	const { format, empty, before, after, ...rest } = inline
	const put = (next: Format) => {
		const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as Format
		onChange({ ...inline, format: Object.keys(kept).length > 0 ? kept : undefined })
	}
	const said = (key: 'empty' | 'before' | 'after', text: string) => {
		const next: Chip = {
			...rest,
			...(format ? { format } : {}),
			...(empty !== undefined ? { empty } : {}),
			...(before !== undefined ? { before } : {}),
			...(after !== undefined ? { after } : {}),
		}
		if (text === '') delete next[key]
		else next[key] = text
		onChange(next)
	}
	const textOf = (value: Chip['empty']) => (typeof value === 'string' ? value : (value?.en ?? ''))
	return (
		<fieldset className="mt-2 space-y-2 rounded border border-rule p-2">
			<legend className="px-1 text-sm">
				<span className="font-semibold text-plum">{field?.name ?? inline.field}</span>{' '}
				<span className="figures text-mute">{examples[inline.field]}</span>
			</legend>
			{field?.type === 'day' && (
				<Choice
					label="Written as"
					value={format?.day ?? ''}
					options={[
						['', '31 Oct 2026'],
						['figures', '31/10/2026'],
						['iso', '2026-10-31'],
						['long', 'Saturday 31 October 2026'],
						['month', 'October 2026'],
					]}
					onChange={(event) => put({ ...format, day: (event.target.value || undefined) as Format['day'] })}
				/>
			)}
			{field?.type === 'money' && (
				<Choice
					label="Written"
					value={format?.money ?? ''}
					options={[
						['', 'with its sign, £1.00'],
						['code', 'with its code, GBP 1.00'],
						['none', 'as a figure, 1.00'],
					]}
					onChange={(event) => put({ ...format, money: (event.target.value || undefined) as Format['money'] })}
				/>
			)}
			{field && ['money', 'number', 'price', 'percent', 'count'].includes(field.type) && (
				<Choice
					label="Decimals"
					value={format?.decimals === undefined ? '' : String(format.decimals)}
					options={[
						['', 'as it has them'],
						...['0', '1', '2', '3', '4'].map((count): [string, string] => [count, count]),
					]}
					onChange={(event) =>
						put({ ...format, decimals: event.target.value === '' ? undefined : Number(event.target.value) })
					}
				/>
			)}
			<label className="flex items-center gap-2 text-sm">
				<input
					type="checkbox"
					checked={format?.upper === true}
					onChange={(event) => put({ ...format, upper: event.target.checked || undefined })}
				/>
				in capitals
			</label>
			<div className="grid grid-cols-2 gap-2">
				<TextField label="Before it" value={textOf(before)} onChange={(event) => said('before', event.target.value)} />
				<TextField label="After it" value={textOf(after)} onChange={(event) => said('after', event.target.value)} />
			</div>
			<TextField
				label="When it is empty"
				value={textOf(empty)}
				onChange={(event) => said('empty', event.target.value)}
				help="Nothing: then its words are left out with it."
			/>
		</fieldset>
	)
}
