'use client'
import { type ReactNode, useState } from 'react'
import { dayText } from '@/core/calendar'
import { readDay } from '@/core/readDay'
import { TextField } from './Field'

type Props = {
	label: string
	name?: string
	value: string
	help?: ReactNode
	required?: boolean
	onDay?: (day: string) => void
}

/** A day, shown as 31 Oct 2026 wherever the browser comes from; typed as that, as 31/10/2026 or as 2026-10-31. */
export function DayField({ label, name, value, help, required = false, onDay }: Props) {
	const [text, setText] = useState(value ? dayText(value) : '')
	const day = readDay(text, 'day first') ?? ''
	const wrong = text.trim() !== '' && day === ''
	return (
		<>
			<TextField
				label={label}
				value={text}
				required={required}
				placeholder="31 Oct 2026"
				className="figures"
				aria-invalid={wrong}
				help={wrong ? <span className="text-brick">Write a day such as 31 Oct 2026.</span> : help}
				onChange={(event) => {
					setText(event.target.value)
					onDay?.(readDay(event.target.value, 'day first') ?? '')
				}}
				onBlur={() => day && setText(dayText(day))}
			/>
			{name && <input type="hidden" name={name} value={wrong ? text : day} />}
		</>
	)
}
