'use client'
import { type ReactNode, useState, useTransition } from 'react'
import { Ask } from './Ask'
import { answered } from './answered'
import { Button } from './Button'
import { Notice } from './Notice'

/** Gives what was typed in a field. */
type Typed = (field: string) => string

type Props = {
	title: string
	yes: string
	/** `grave` for what is not easily undone. */
	kind?: 'main' | 'grave'
	onClose: () => void
	act: (typed: Typed) => Promise<{ ok: true } | { ok: false; message: string }>
	/** Its fields. */
	children: ReactNode
}

/** A question with fields; stays, with what was typed, where that is refused. Enter does it. */
export function FieldsAsk({ title, yes, kind = 'main', onClose, act, children }: Props) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<Ask open onClose={onClose} title={title}>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const form = new FormData(event.currentTarget)
					start(async () => {
						const outcome = await answered(act((field) => String(form.get(field) ?? '')))
						if (outcome.ok) onClose()
						else setTrouble(outcome.message)
					})
				}}
			>
				{children}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind={kind} type="submit" disabled={busy}>
						{yes}
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}
