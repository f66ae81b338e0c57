'use client'
import { type KeyboardEvent, type Ref, useEffect, useId, useState } from 'react'
import type { Choice } from '@/store/find'
import { inputLook } from '@/ui/Field'

type Props = {
	what: 'customer' | 'item'
	label: string
	value: string
	invalid: boolean
	describedBy?: string | undefined
	placeholder?: string
	inputRef?: Ref<HTMLInputElement>
	onType: (text: string) => void
	/** What was chosen of the list, or is the only one that fits when the field is left. */
	onChoose: (choice: Choice) => void
	/** Enter where nothing is open. */
	onEnter: () => void
}

/** A field in which a customer or an item is found as one types: arrows go through what fits, Enter or Tab takes it. */
export function Finder({
	what,
	label,
	value,
	invalid,
	describedBy,
	placeholder,
	inputRef,
	onType,
	onChoose,
	onEnter,
}: Props) {
	const [found, setFound] = useState<{ words: string; choices: Choice[] }>({ words: '', choices: [] })
	const [open, setOpen] = useState(false)
	const [at, setAt] = useState(0)
	const list = useId()
	useEffect(() => {
		if (!open || value.trim() === '') return
		const stop = new AbortController()
		const later = window.setTimeout(() => {
			fetch(`/api/order-form/find?what=${what}&q=${encodeURIComponent(value)}`, { signal: stop.signal })
				.then((answer) => (answer.ok ? answer.json() : []))
				.then((choices: Choice[]) => {
					setFound({ words: value, choices })
					setAt(0)
				})
				.catch(() => {})
		}, 60)
		return () => {
			window.clearTimeout(later)
			stop.abort()
		}
	}, [open, value, what])
	// What was found for other words is not offered for these.
	const choices = open && value.trim() !== '' && found.words === value ? found.choices : []
	const take = (choice: Choice) => {
		setOpen(false)
		onChoose(choice)
	}
	const onKey = (event: KeyboardEvent) => {
		const chosen = choices[at]
		if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
			if (choices.length === 0) return setOpen(true)
			event.preventDefault()
			setAt((at + (event.key === 'ArrowDown' ? 1 : choices.length - 1)) % choices.length)
		} else if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
			event.preventDefault()
			if (chosen) take(chosen)
			else {
				setOpen(false)
				onEnter()
			}
		} else if (event.key === 'Escape' && open) {
			event.stopPropagation()
			setOpen(false)
		}
	}
	const settle = () => {
		setOpen(false)
		// Left with a code typed out, or with but one that fits, that is taken.
		const same = choices.find(({ code }) => code.toLowerCase() === value.trim().toLowerCase())
		const only = choices.length === 1 ? choices[0] : choices[at]
		const chosen = same ?? (at > 0 || choices.length === 1 ? only : undefined)
		if (chosen && chosen.code !== value) onChoose(chosen)
	}
	return (
		<div className="relative">
			<input
				ref={inputRef}
				role="combobox"
				data-way
				aria-label={label}
				aria-expanded={choices.length > 0}
				aria-controls={list}
				aria-autocomplete="list"
				aria-activedescendant={choices.length > 0 ? `${list}-${at}` : undefined}
				aria-invalid={invalid}
				aria-describedby={describedBy}
				autoComplete="off"
				placeholder={placeholder}
				value={value}
				onChange={(event) => {
					setOpen(true)
					onType(event.target.value)
				}}
				onKeyDown={onKey}
				onBlur={settle}
				className={`${inputLook} figures py-1 ${invalid ? 'border-brick' : ''}`}
			/>
			{choices.length > 0 && (
				<div
					id={list}
					role="listbox"
					aria-label={`What fits ${label}`}
					className="absolute top-full left-0 z-20 w-[460px] border border-ink bg-sheet py-1"
				>
					{choices.map((choice, place) => (
						// biome-ignore lint/a11y/useKeyWithClickEvents: the field above has the keys
						<div
							key={choice.code}
							id={`${list}-${place}`}
							role="option"
							aria-selected={place === at}
							tabIndex={-1}
							onMouseDown={(event) => event.preventDefault()}
							onClick={() => take(choice)}
							className="flex cursor-pointer gap-3 px-2 py-1 text-sm aria-selected:bg-plum-wash"
						>
							<span className="figures w-[84px] shrink-0">{choice.code}</span>
							<span className="min-w-0 flex-1 truncate">{choice.name}</span>
							<span className="figures shrink-0 text-mute">{choice.about}</span>
						</div>
					))}
				</div>
			)}
		</div>
	)
}
