'use client'
import { useState, useTransition } from 'react'
import { holdMessageOf, writeMessage } from '@/app/acts/document'
import type { PanelView } from '@/runs/panel'
import { Button } from '@/ui/Button'
import { TextArea, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** Ways to change a message before it goes: hold it to be read, and write it for this customer alone. */
export function MessageEdit({ view }: { view: PanelView }) {
	const [writing, setWriting] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const { document, message } = view
	if (message?.state !== 'not written yet') return null
	const held = document.message_held === 1
	const act = (work: () => Promise<{ ok: true } | { ok: false; message: string }>) =>
		start(async () => {
			const outcome = await work()
			setTrouble(outcome.ok ? '' : outcome.message)
			if (outcome.ok) setWriting(false)
		})
	if (writing)
		return (
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const form = new FormData(event.currentTarget)
					act(() =>
						writeMessage(document.id, {
							subject: String(form.get('subject') ?? ''),
							body: String(form.get('body') ?? ''),
						}),
					)
				}}
			>
				<TextField label="Subject of this message" name="subject" defaultValue={message.subject} required autoFocus />
				<TextArea
					label="Text of this message"
					name="body"
					rows={14}
					defaultValue={message.body}
					required
					help={
						document.number === null
							? 'Write it once it is numbered, so that its number stands in it'
							: 'For this message only'
					}
				/>
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit" disabled={busy}>
						Keep this message
					</Button>
					<Button onClick={() => setWriting(false)}>Not now</Button>
				</div>
			</form>
		)
	return (
		<div className="space-y-2">
			{held && <Notice tone="look">Held to be read before it goes.</Notice>}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="flex flex-wrap gap-2">
				{document.number !== null && <Button onClick={() => setWriting(true)}>Write it for them alone</Button>}
				<Button disabled={busy} onClick={() => act(() => holdMessageOf(document.id, !held))}>
					{held ? 'Read: let it go' : 'Hold it to be read'}
				</Button>
			</div>
		</div>
	)
}
