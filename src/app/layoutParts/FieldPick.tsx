'use client'
import { Command } from 'cmdk'
import { useEffect, useRef } from 'react'
import { hasField } from '@/layout/fields'
import type { Field, FieldType, Of } from '@/layout/fieldTypes'
import { Ask } from '@/ui/Ask'
import { inputLook } from '@/ui/Field'
import { useMaking } from './making'

/** Fields that can stand somewhere: those of the whole paper, and of a table's records. */
export function fieldsFor(
	fields: ReadonlyMap<string, Field>,
	kind: Field['kinds'] extends readonly (infer Kind)[] | undefined ? Kind : never,
	of: Of | undefined,
): Field[] {
	return [...fields.values()].filter((field) => hasField(field, kind) && (field.of === 'paper' || field.of === of))
}

/** What a field is, in a word. */
const typeNames: Record<FieldType, string> = {
	...{ text: 'text', lines: 'lines', number: 'number', count: 'number', price: 'price' },
	...{ money: 'money', percent: 'percent', day: 'day', picture: 'picture' },
}

/** Every word that is looked for is in it; a name that begins with it comes first. */
function matches(value: string, search: string): number {
	const [own, wanted] = [value.toLowerCase(), search.trim().toLowerCase()]
	if (!wanted.split(/\s+/).every((word) => own.includes(word))) return 0
	return own.startsWith(`${wanted} `) ? 1 : own.startsWith(wanted) ? 0.8 : 0.4
}

/** A list of fields with search, by where they come from, each with its value on the paper in view. */
export function FieldPick({
	open,
	of,
	onPick,
	onClose,
}: {
	open: boolean
	of?: Of | undefined
	onPick: (key: string) => void
	onClose: () => void
}) {
	const { fields, examples, layout } = useMaking()
	return (
		<Ask open={open} onClose={onClose} title="Which field?">
			<FieldList fields={fieldsFor(fields, layout.kind, of)} examples={examples} onPick={onPick} tall="max-h-96" />
		</Ask>
	)
}

/** What is looked for in a field. */
const lookedFor = ({ name, group, key }: Field): string => `${name} ${group} ${key}`

/** The list itself. @param chosen the field that counts now, at which the list begins */
export function FieldList({
	fields,
	examples,
	onPick,
	tall,
	chosen,
	onLeave,
}: {
	fields: readonly Field[]
	examples: Record<string, string>
	onPick: (key: string) => void
	tall: string
	chosen?: string | undefined
	/** Escape in what is looked for. */
	onLeave?: () => void
}) {
	const groups = [...new Set(fields.map(({ group }) => group))]
	const first = fields.find(({ key }) => key === chosen)
	const list = useRef<HTMLDivElement>(null)
	const begins = first?.key
	useEffect(() => {
		const frame = requestAnimationFrame(() => {
			const own = begins && list.current?.querySelector<HTMLElement>('[data-selected=true]')
			if (own && list.current) list.current.scrollTop = own.offsetTop - list.current.clientHeight / 2
		})
		return () => cancelAnimationFrame(frame)
	}, [begins])
	return (
		<Command
			label="Field"
			filter={matches}
			{...(first ? { defaultValue: lookedFor(first) } : {})}
			className="flex min-h-0 flex-col"
		>
			<Command.Input
				placeholder="part of its name"
				className={inputLook}
				onKeyDown={(event) => {
					if (event.key !== 'Escape' || !onLeave) return
					event.preventDefault()
					event.currentTarget.blur()
					onLeave()
				}}
			/>
			<Command.List ref={list} className={`scrolls relative mt-2 ${tall}`}>
				<Command.Empty className="py-2 text-mute">No field has that in its name.</Command.Empty>
				{groups.map((group) => (
					<Command.Group key={group} heading={group} className="text-xs text-mute">
						{fields
							.filter((field) => field.group === group)
							.map((field) => (
								<Command.Item
									key={field.key}
									value={lookedFor(field)}
									onSelect={() => onPick(field.key)}
									className={`flex cursor-pointer items-baseline gap-3 rounded-sm px-1 py-1 text-sm text-ink data-[selected=true]:bg-plum-wash ${field.key === chosen ? 'font-semibold' : ''}`}
								>
									<span className={tall === 'flex-1' ? 'min-w-0 flex-1' : 'w-44 shrink-0'}>{field.name}</span>
									{tall !== 'flex-1' && (
										<span className="w-14 shrink-0 text-xs text-mute">{typeNames[field.type]}</span>
									)}
									<span className="figures min-w-0 flex-1 truncate text-mute" title={examples[field.key]}>
										{examples[field.key] || 'empty here'}
									</span>
								</Command.Item>
							))}
					</Command.Group>
				))}
			</Command.List>
		</Command>
	)
}
