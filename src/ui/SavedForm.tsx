'use client'
import { type ReactNode, useState, useTransition } from 'react'
import { answered } from './answered'
import { Button } from './Button'
import { Notice } from './Notice'
import { useAwake } from './useAwake'

type Outcome = { ok: true; words?: string } | { ok: false; message: string }

/** A form that keeps what was typed when it is refused, and says what came of it. */
export function SavedForm({
	save,
	label,
	saved,
	children,
	resets = false,
}: {
	save: (form: FormData) => Promise<Outcome>
	label: string
	saved: string
	children: ReactNode
	resets?: boolean
}) {
	const [outcome, setOutcome] = useState<Outcome | null>(null)
	const [saving, start] = useTransition()
	const awake = useAwake()
	return (
		<form
			className="space-y-4"
			onSubmit={(event) => {
				event.preventDefault()
				const form = event.currentTarget
				start(async () => {
					const result = await answered(save(new FormData(form)))
					setOutcome(result)
					if (result.ok && resets) form.reset()
				})
			}}
		>
			{children}
			<div className="flex items-center gap-3">
				<Button kind="main" type="submit" disabled={saving || !awake}>
					{label}
				</Button>
				{outcome && (
					<Notice tone={outcome.ok ? 'tie' : 'stop'}>{outcome.ok ? (outcome.words ?? saved) : outcome.message}</Notice>
				)}
			</div>
		</form>
	)
}
