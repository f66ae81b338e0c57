'use client'
import { useState } from 'react'
import { FieldPick } from '@/app/layoutParts/FieldPick'
import { useMaking } from '@/app/layoutParts/making'
import { mainRecords } from '@/layout/edit'
import type { Reckoned } from '@/layout/reckoned'
import type { Layout } from '@/layout/schema'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { ConditionEdit } from './ConditionEdit'
import { Pick, Points } from './parts'
import { RichLine } from './Rich'

type How = Reckoned['how']['is']
const hows: readonly (readonly [How, string])[] = [
	['sum', 'the sum over lines of'],
	['count', 'how many lines there are'],
	['least', 'the least over lines of'],
	['most', 'the most over lines of'],
	['times', 'times'],
	['plus', 'plus'],
	['minus', 'minus'],
	['share', 'as a percent of'],
	['joined', 'text put together from'],
]

/** Fields that the layout puts together itself, from lists. */
export function ReckonedEdit({ onChange }: { onChange: (layout: Layout, words: string) => void }) {
	const { layout, examples } = useMaking()
	const [open, setOpen] = useState<string | null>(null)
	const put = (reckoned: Reckoned[], words: string) => onChange({ ...layout, reckoned }, words)
	return (
		<div>
			<p className="mb-1 text-sm font-semibold">Reckoned fields</p>
			<ul className="border-t border-rule-soft">
				{layout.reckoned.map((own) => (
					<li key={own.key} className="border-b border-rule-soft">
						<div className="flex items-baseline gap-2">
							<button
								type="button"
								aria-expanded={open === own.key}
								className="flex-1 py-1 text-left hover:text-plum"
								onClick={() => setOpen(open === own.key ? null : own.key)}
							>
								{own.name}
							</button>
							<span className="figures text-xs text-mute">{examples[`reckoned.${own.key}`]}</span>
							<button
								type="button"
								aria-label={`Take ${own.name} away`}
								className="px-1 text-mute hover:text-brick"
								onClick={() =>
									put(
										layout.reckoned.filter((one) => one !== own),
										'took a reckoned field away',
									)
								}
							>
								×
							</button>
						</div>
						{open === own.key && (
							<One
								own={own}
								onChange={(next) =>
									put(
										layout.reckoned.map((one) => (one === own ? next : one)),
										'changed a reckoned field',
									)
								}
							/>
						)}
					</li>
				))}
			</ul>
			<form
				className="mt-1 flex gap-1"
				action={(form) => {
					const name = String(form.get('name') ?? '').trim()
					const key = name
						.toLowerCase()
						.replace(/[^a-z0-9]+/g, '-')
						.replace(/^-|-$/g, '')
						.slice(0, 40)
					if (!/^[a-z]/.test(key) || layout.reckoned.some((one) => one.key === key)) return
					put(
						[...layout.reckoned, { key, name, how: { is: 'sum', of: mainRecords(layout.kind).figure } }],
						`reckoned ${name}`,
					)
					setOpen(key)
				}}
			>
				<input
					name="name"
					aria-label="Name of another reckoned field"
					placeholder="its name"
					maxLength={60}
					className={inputLook}
				/>
				<Button type="submit">Add</Button>
			</form>
		</div>
	)
}

function One({ own, onChange }: { own: Reckoned; onChange: (own: Reckoned) => void }) {
	const { fields, layout } = useMaking()
	const [picking, setPicking] = useState<'of' | 'by' | null>(null)
	const { how } = own
	const records = mainRecords(layout.kind)
	const put = (next: Reckoned['how']) => onChange({ ...own, how: next })
	const of = 'of' in how && how.is !== 'count' ? how.of : records.figure
	const choose = (is: How) => {
		if (is === 'count') put({ is, of: records.source })
		else if (is === 'joined') put({ is, parts: [{ field: 'number' }] })
		else if (is === 'sum' || is === 'least' || is === 'most') put({ is, of })
		else put({ is, of, by: { figure: '1' }, decimals: 2 })
	}
	const over = how.is === 'sum' || how.is === 'least' || how.is === 'most'
	const pair = how.is === 'times' || how.is === 'plus' || how.is === 'minus' || how.is === 'share'
	const nameOf = (key: string) => fields.get(key)?.name ?? key
	return (
		<div className="space-y-2 pb-2">
			<Pick label="It is" value={how.is} options={hows} onChange={choose} />
			{how.is === 'joined' && (
				<RichLine label="Its parts" inlines={how.parts} onChange={(parts) => put({ ...how, parts })} />
			)}
			{(over || pair) && <Button onClick={() => setPicking('of')}>{nameOf(of)}</Button>}
			{pair && (
				<div className="flex items-end gap-2">
					<label className="block flex-1 text-sm">
						<span className="mb-0.5 block font-semibold">By the figure</span>
						<input
							className={`${inputLook} figures`}
							key={'figure' in how.by ? how.by.figure : ''}
							defaultValue={'figure' in how.by ? how.by.figure : ''}
							onBlur={(event) =>
								/^-?\d{1,12}(\.\d{1,6})?$/.test(event.target.value) &&
								put({ ...how, by: { figure: event.target.value } })
							}
						/>
					</label>
					<Button onClick={() => setPicking('by')}>{'field' in how.by ? nameOf(how.by.field) : 'or a field'}</Button>
				</div>
			)}
			{pair && (
				<Points
					label="Decimals"
					value={how.decimals}
					most={6}
					onChange={(decimals) => put({ ...how, decimals: Math.round(decimals ?? 0) })}
				/>
			)}
			{(over || how.is === 'count') && (
				<ConditionEdit
					label="Only those that"
					none="all count"
					value={how.only}
					of={records.of}
					onChange={(only) => put(only ? { ...how, only } : (({ only: _, ...rest }) => rest)(how))}
				/>
			)}
			<FieldPick
				open={picking !== null}
				of={records.of}
				onClose={() => setPicking(null)}
				onPick={(field) => {
					const was = picking
					setPicking(null)
					if (was === 'by' && pair) put({ ...how, by: { field } })
					else if (over || pair) put({ ...how, of: field })
				}}
			/>
		</div>
	)
}
