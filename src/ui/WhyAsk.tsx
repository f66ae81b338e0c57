'use client'
import { useState, useTransition } from 'react'
import { Ask } from './Ask'
import { answered } from './answered'
import { Button } from './Button'
import { TextField } from './Field'
import { Notice } from './Notice'

type Props = {
	title: string
	/** What the act means, where that is not plain. */
	about?: string
	/** What is asked for, where it is not why. */
	label?: string
	help?: string
	yes: string
	/** `grave` for what is not easily undone. */
	kind?: 'main' | 'grave'
	onClose: () => void
	act: (reason: string) => Promise<{ ok: true } | { ok: false; message: string }>
}

/** Asks why before something is done; stays, with the reason, where that is refused. Enter does it. */
export function WhyAsk({ title, about, label = 'Why', help, yes, kind = 'main', onClose, act }: Props) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<Ask open onClose={onClose} title={title}>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const reason = String(new FormData(event.currentTarget).get('reason') ?? '')
					start(async () => {
						const outcome = await answered(act(reason))
						if (outcome.ok) onClose()
						else setTrouble(outcome.message)
					})
				}}
			>
				{about && <p className="text-mute">{about}</p>}
				<TextField label={label} name="reason" required autoFocus {...(help ? { help } : {})} />
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
