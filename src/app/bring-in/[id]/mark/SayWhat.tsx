'use client'
import { Command } from 'cmdk'
import type { Marks } from '@/intake/formats/report/marks'
import type { Field } from '@/intake/kinds/field'
import { Ask } from '@/ui/Ask'

type Props = {
	open: boolean
	fields: readonly Field[]
	marks: Marks
	orders: boolean
	onClose: () => void
	onSay: (key: string) => void
}

/** Says what was picked on the page is: a field, found as one types. */
export function SayWhat({ open, fields, marks, orders, onClose, onSay }: Props) {
	const marked = new Set([
		...marks.values.flatMap(({ names }) => names),
		...(marks.rows?.columns.map(({ name }) => name) ?? []),
	])
	const item = 'flex justify-between gap-4 rounded-sm px-2 py-1.5 aria-selected:bg-plum-wash'
	return (
		<Ask open={open} onClose={onClose} title="What is it?">
			<Command label="What is it?">
				<Command.Input
					placeholder="Part of a field’s name"
					className="w-full rounded border border-rule bg-sheet px-2 py-1.5"
				/>
				<Command.List className="mt-2 max-h-80 overflow-auto">
					<Command.Empty className="px-2 py-2 text-mute">
						No field has this name. Fields of the firm’s own are made under Company.
					</Command.Empty>
					{fields.map(({ key, label, needed }) => (
						<Command.Item key={key} value={label} onSelect={() => onSay(key)} className={item}>
							<span>
								{label}
								{needed && <span className="text-mute"> (needed)</span>}
							</span>
							{marked.has(label) && <span className="text-mute">marked; this takes its place</span>}
						</Command.Item>
					))}
					{orders && (
						<Command.Item value="Total of all" onSelect={() => onSay('total of all')} className={item}>
							<span>Total of all</span>
							<span className="text-mute">what the whole report comes to</span>
						</Command.Item>
					)}
				</Command.List>
			</Command>
		</Ask>
	)
}
