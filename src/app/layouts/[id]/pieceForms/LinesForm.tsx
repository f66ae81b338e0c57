'use client'
import { useState } from 'react'
import { FieldPick } from '@/app/layoutParts/FieldPick'
import { useMaking } from '@/app/layoutParts/making'
import { recordOf } from '@/layout/fields'
import type { LinesColumn } from '@/layout/pieces/linesSchema'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { ConditionEdit } from '../ConditionEdit'
import { Colour, type FormOf, Pick, Points, SaidEdit, Tick } from '../parts'
import { RichLine } from '../Rich'

/** The repeated table: columns, order, which lines, groups, and how it looks. */
export function LinesForm({ piece, put }: FormOf<'lines'>) {
	const { fields } = useMaking()
	const [picking, setPicking] = useState<'column' | 'sort' | 'group' | null>(null)
	const [open, setOpen] = useState<string | null>(null)
	const of = recordOf[piece.of]
	const nameOf = (key: string) => fields.get(key)?.name ?? `${key}, which there is not`
	const columns = (next: LinesColumn[], words: string) => next.length > 0 && put({ columns: next }, words)
	const swap = (index: number) => {
		const next = [...piece.columns]
		const [one, other] = [next[index - 1], next[index]]
		if (one && other) next.splice(index - 1, 2, other, one)
		columns(next, 'moved a column')
	}
	return (
		<>
			<div>
				<p className="mb-1 text-sm font-semibold">Columns</p>
				<ul className="border-t border-rule-soft">
					{piece.columns.map((column, index) => {
						const head = typeof column.head === 'string' ? column.head : (column.head.en ?? '')
						const name =
							head ||
							column.cell
								.flat()
								.map((inline) => ('field' in inline ? nameOf(inline.field) : ''))
								.filter(Boolean)[0] ||
							'a column'
						return (
							<li key={column.id} className="border-b border-rule-soft">
								<div className="flex items-center gap-1">
									<button
										type="button"
										aria-expanded={open === column.id}
										className="min-w-0 flex-1 truncate py-1 text-left hover:text-plum"
										onClick={() => setOpen(open === column.id ? null : column.id)}
									>
										{name}
									</button>
									<span className="figures text-xs text-mute">
										{typeof column.width === 'number'
											? column.width
											: column.width === 'rest'
												? 'the rest'
												: `to ${column.width.most}`}
									</span>
									<button
										type="button"
										aria-label={`${name} before`}
										disabled={index === 0}
										className="px-1 text-plum disabled:opacity-30"
										onClick={() => swap(index)}
									>
										↑
									</button>
									<button
										type="button"
										aria-label={`Take ${name} away`}
										className="px-1 text-mute hover:text-brick"
										onClick={() =>
											columns(
												piece.columns.filter((own) => own !== column),
												'took a column away',
											)
										}
									>
										×
									</button>
								</div>
								{open === column.id && (
									<ColumnEdit
										column={column}
										of={of}
										onChange={(next) =>
											columns(
												piece.columns.map((own) => (own === column ? next : own)),
												'changed a column',
											)
										}
									/>
								)}
							</li>
						)
					})}
				</ul>
				<Button kind="bare" onClick={() => setPicking('column')}>
					Another column
				</Button>
			</div>
			<div>
				<p className="mb-1 text-sm font-semibold">Order</p>
				{(piece.sort ?? []).length === 0 && <p className="text-sm text-mute">as they came</p>}
				{(piece.sort ?? []).map(({ field, down }, index) => (
					<div key={index} className="flex items-center gap-2 text-sm">
						<span className="flex-1">{`${index === 0 ? 'by' : 'then by'} ${nameOf(field).toLowerCase()}`}</span>
						<select
							aria-label="Direction"
							className="rounded-sm border border-rule bg-sheet"
							value={down ? 'down' : 'up'}
							onChange={(event) =>
								put(
									{
										sort: piece.sort?.map((own, at) =>
											at === index ? { field, ...(event.target.value === 'down' ? { down: true } : {}) } : own,
										),
									},
									'changed the order of lines',
								)
							}
						>
							<option value="up">rising</option>
							<option value="down">falling</option>
						</select>
						<button
							type="button"
							aria-label="Take this key away"
							className="px-1 text-mute hover:text-brick"
							onClick={() => {
								const rest = piece.sort?.filter((_, at) => at !== index) ?? []
								put({ sort: rest.length > 0 ? rest : undefined }, 'changed the order of lines')
							}}
						>
							×
						</button>
					</div>
				))}
				<Button kind="bare" onClick={() => setPicking('sort')}>
					{piece.sort?.length ? 'Then by …' : 'Sort by …'}
				</Button>
			</div>
			<ConditionEdit
				label="Only those that"
				none="all are in sight"
				value={piece.only}
				of={of}
				onChange={(only) => put({ only }, 'chose which lines are in sight')}
			/>
			<div>
				<p className="mb-1 text-sm font-semibold">Together under</p>
				{piece.group ? (
					<div className="space-y-2">
						<p className="flex text-sm">
							<span className="flex-1">{nameOf(piece.group.by).toLowerCase()}</span>
							<button
								type="button"
								aria-label="No groups"
								className="px-1 text-mute hover:text-brick"
								onClick={() => put({ group: undefined }, 'took the groups away')}
							>
								×
							</button>
						</p>
						<RichLine
							label="Head of a group"
							of={of}
							inlines={piece.group.head}
							onChange={(head) => put({ group: { ...piece.group, head } })}
						/>
						<Tick
							label="with a subtotal of the net"
							value={piece.group.subtotal !== undefined || undefined}
							onChange={(value) => {
								const { subtotal: _, ...group } = piece.group ?? { by: '', head: [] }
								put({
									group: value
										? { ...group, subtotal: { label: 'Together', of: piece.of === 'items' ? 'item.open' : 'line.net' } }
										: group,
								})
							}}
						/>
					</div>
				) : (
					<Button kind="bare" onClick={() => setPicking('group')}>
						Group by …
					</Button>
				)}
			</div>
			<SaidEdit
				label="When there is none"
				value={piece.none ?? ''}
				onChange={(none) => put({ none: none === '' ? undefined : none })}
			/>
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Rules"
					value={piece.rules ?? 'lines'}
					options={[
						['lines', 'below each line'],
						['head', 'below the head'],
						['none', 'none'],
					]}
					onChange={(rules) => put({ rules })}
				/>
				<Colour label="Rules in" value={piece.ruleColor} none="usual" onChange={(ruleColor) => put({ ruleColor })} />
				<Colour label="Every second one on" value={piece.tint} none="no colour" onChange={(tint) => put({ tint })} />
				<Colour
					label="Ground of the head"
					value={piece.head?.fill}
					none="none"
					onChange={(fill) => put({ head: clean({ ...piece.head, fill }) })}
				/>
				<Colour
					label="Head in"
					value={piece.head?.color}
					none="usual"
					onChange={(color) => put({ head: clean({ ...piece.head, color }) })}
				/>
				<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
				<Points label="Space round a line" value={piece.pad} none="2.5" most={20} onChange={(pad) => put({ pad })} />
				<Tick label="last line stays with what follows" value={piece.keep} onChange={(keep) => put({ keep })} />
			</div>
			<FieldPick
				open={picking !== null}
				of={of}
				onClose={() => setPicking(null)}
				onPick={(field) => {
					const was = picking
					setPicking(null)
					if (was === 'sort') put({ sort: [...(piece.sort ?? []), { field }] }, 'changed the order of lines')
					if (was === 'group') put({ group: { by: field, head: [{ field }] } }, 'grouped the lines')
					if (was === 'column') {
						const type = fields.get(field)?.type
						const figure = type !== 'text' && type !== 'lines' && type !== 'day' && type !== 'picture'
						const id = `column-${piece.columns.length + 1}-${field.replace(/[^a-z]/gi, '')}`.slice(0, 40)
						const head = fields.get(field)?.name ?? ''
						const made: LinesColumn =
							type === 'picture'
								? { id, head, cell: [], width: 60, picture: { field, width: 56 } }
								: {
										id,
										head,
										cell: [[{ field, ...(type === 'money' ? { format: { money: 'none' as const } } : {}) }]],
										width: { most: 90 },
										...(figure ? { align: 'right' as const } : {}),
									}
						columns([...piece.columns, made], 'put a column in')
						setOpen(id)
					}
				}}
			/>
		</>
	)
}

const clean = (value: object): object | undefined => {
	const kept = Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined))
	return Object.keys(kept).length > 0 ? kept : undefined
}

function ColumnEdit({
	column,
	of,
	onChange,
}: {
	column: LinesColumn
	of: (typeof recordOf)[string] | undefined
	onChange: (column: LinesColumn) => void
}) {
	const put = (more: Partial<Record<keyof LinesColumn, unknown>>) =>
		onChange(
			Object.fromEntries(
				Object.entries({ ...column, ...more }).filter(([, value]) => value !== undefined),
			) as LinesColumn,
		)
	const how = typeof column.width === 'number' ? 'fixed' : column.width === 'rest' ? 'rest' : 'most'
	return (
		<div className="space-y-2 pb-3">
			<SaidEdit label="Heading" value={column.head} onChange={(head) => put({ head })} />
			{column.cell.map((inlines, index) => (
				<RichLine
					key={index}
					label={index === 0 ? 'What stands in it' : `Line ${index + 1}`}
					of={of}
					inlines={inlines}
					onChange={(next) => put({ cell: column.cell.map((own, at) => (at === index ? next : own)) })}
				/>
			))}
			<Button kind="bare" onClick={() => put({ cell: [...column.cell, []] })}>
				A line below
			</Button>
			<div className="grid grid-cols-2 gap-2">
				<label className="block text-sm">
					<span className="mb-0.5 block font-semibold">Width</span>
					<select
						className={inputLook}
						value={how}
						onChange={(event) =>
							put({
								width: event.target.value === 'rest' ? 'rest' : event.target.value === 'fixed' ? 80 : { most: 90 },
							})
						}
					>
						<option value="most">as it needs, up to</option>
						<option value="fixed">always</option>
						<option value="rest">what is left</option>
					</select>
				</label>
				{typeof column.width !== 'string' && (
					<Points
						label="Points"
						value={typeof column.width === 'number' ? column.width : column.width.most}
						least={10}
						most={500}
						onChange={(value) => value && put({ width: typeof column.width === 'number' ? value : { most: value } })}
					/>
				)}
				<Pick
					label="Set"
					value={column.align ?? 'left'}
					options={[
						['left', 'left'],
						['center', 'in the middle'],
						['right', 'right'],
					]}
					onChange={(align) => put({ align })}
				/>
				<Points label="Size" value={column.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
				<Colour label="Colour" value={column.color} none="usual" onChange={(color) => put({ color })} />
				<Tick label="bold" value={column.bold} onChange={(bold) => put({ bold })} />
				{column.picture && (
					<Points
						label="Picture, wide"
						value={column.picture.width}
						least={8}
						most={300}
						onChange={(width) => put({ picture: width ? { ...column.picture, width } : undefined })}
					/>
				)}
			</div>
			<ConditionEdit label="Shown" none="always" value={column.when} onChange={(when) => put({ when })} />
		</div>
	)
}
