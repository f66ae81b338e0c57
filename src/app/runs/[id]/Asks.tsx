'use client'
import { useState, useTransition } from 'react'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextArea } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Hold = {
	name: string
	onClose: () => void
	onHold: (reason: string) => Promise<{ ok: true } | { ok: false; message: string }>
}

export function HoldAsk({ name, onClose, onHold }: Hold) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<Ask open onClose={onClose} title={`Hold back what goes to ${name}`}>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const reason = String(new FormData(event.currentTarget).get('reason') ?? '')
					start(async () => {
						const outcome = await answered(onHold(reason))
						if (outcome.ok) onClose()
						else setTrouble(outcome.message)
					})
				}}
			>
				<TextArea
					label="Why"
					name="reason"
					rows={3}
					required
					autoFocus
					help="The reason stands in the tally beside the difference it makes. Enter holds it back."
					onKeyDown={(event) => {
						if (event.key !== 'Enter' || event.shiftKey) return
						event.preventDefault()
						event.currentTarget.form?.requestSubmit()
					}}
				/>
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<Button kind="main" type="submit" disabled={busy}>
					Hold it back
				</Button>
			</form>
		</Ask>
	)
}

/** Asks once before what cannot be undone. */
export function SureAsk({
	open,
	title,
	words,
	yes,
	onClose,
	onYes,
}: {
	open: boolean
	title: string
	words: string
	yes: string
	onClose: () => void
	onYes: () => void
}) {
	return (
		<Ask open={open} onClose={onClose} title={title}>
			<p className="mb-4 text-mute">{words}</p>
			<div className="flex gap-2">
				<Button
					kind="main"
					autoFocus
					onClick={() => {
						onClose()
						onYes()
					}}
				>
					{yes}
				</Button>
				<Button onClick={onClose}>Not now</Button>
			</div>
		</Ask>
	)
}
