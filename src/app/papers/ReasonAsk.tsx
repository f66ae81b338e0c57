'use client'
import { useState, useTransition } from 'react'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Outcome = { ok: true; words?: string } | { ok: false; message: string }

/** A button that asks why before it acts. */
export function ReasonAsk({
	button,
	title,
	about,
	yes,
	act,
}: {
	button: string
	title: string
	about: string
	yes: string
	act: (reason: string) => Promise<Outcome>
}) {
	const [open, setOpen] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const close = () => {
		setOpen(false)
		setTrouble('')
	}
	return (
		<>
			<Button onClick={() => setOpen(true)}>{button}</Button>
			<Ask open={open} onClose={close} title={title}>
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						const reason = String(new FormData(event.currentTarget).get('reason') ?? '')
						start(async () => {
							const outcome = await answered(act(reason))
							if (outcome.ok) close()
							else setTrouble(outcome.message)
						})
					}}
				>
					<p className="text-mute">{about}</p>
					<TextField label="Why" name="reason" required />
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<div className="flex gap-2">
						<Button kind="grave" type="submit" disabled={busy}>
							{yes}
						</Button>
						<Button onClick={close}>Not now</Button>
					</div>
				</form>
			</Ask>
		</>
	)
}
