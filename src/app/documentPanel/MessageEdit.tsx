'use client'
import { useState, useTransition } from 'react'
import { holdMessageOf, writeMessage } from '@/app/acts/document'
import type { PanelView } from '@/runs/bench/panel'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextArea, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { BothStates } from './BothStates'
import type { Apart } from './meeting'
import { useSeen } from './useSeen'

/** Ways to change a message before it goes: hold it to be read, and write it for this customer alone. */
export function MessageEdit({ view }: { view: PanelView }) {
	const [writing, setWriting] = useState<PanelView | null>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const { document, message } = view
	if (writing) return <Writing view={writing} onClose={() => setWriting(null)} />
	if (message?.state !== 'not written yet') return null
	const held = document.message_held === 1
	const hold = () =>
		start(async () => {
			const outcome = await answered(holdMessageOf(document.id, !held, view.seen))
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	return (
		<div className="space-y-2">
			{held && (
				<Notice tone={document.changed ? 'stop' : 'look'}>
					{document.changed
						? `No longer true: ${document.changed}. Read it and let it go all the same, or make its statement void and gather another.`
						: 'Held to be read before it goes.'}
				</Notice>
			)}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="flex flex-wrap gap-2">
				{document.number !== null && <Button onClick={() => setWriting(view)}>Write it for them alone</Button>}
				<Button disabled={busy} onClick={hold}>
					{held ? 'Read: let it go' : 'Hold it to be read'}
				</Button>
			</div>
		</div>
	)
}

/** The message of one document as it is being written; it stays until it is kept, also where another wrote meanwhile. */
function Writing({ view: first, onClose }: { view: PanelView; onClose: () => void }) {
	const { opened, trouble, now, keep } = useSeen(first)
	const [apart, setApart] = useState<Apart[]>([])
	const [busy, start] = useTransition()
	const { document } = opened
	const save = (form: FormData) =>
		start(async () => {
			const typed = { subject: String(form.get('subject') ?? ''), body: String(form.get('body') ?? '') }
			const kept = await keep((seen) => writeMessage(document.id, typed, seen))
			if (kept.outcome.ok) return onClose()
			const before = opened.message
			const next = kept.now?.message
			if (next)
				setApart(
					(['subject', 'body'] as const).flatMap((field) => {
						const [was, mine, theirs] = [before?.[field] ?? '', typed[field], next[field]]
						return mine === was && theirs === was
							? []
							: [{ field: field === 'body' ? 'text' : field, opened: was, typed: mine, now: theirs }]
					}),
				)
		})
	return (
		<form
			className="space-y-3"
			onSubmit={(event) => {
				event.preventDefault()
				save(new FormData(event.currentTarget))
			}}
		>
			<TextField
				label="Subject of this message"
				name="subject"
				defaultValue={first.message?.subject ?? ''}
				required
				autoFocus
			/>
			<TextArea
				label="Text of this message"
				name="body"
				rows={14}
				defaultValue={first.message?.body ?? ''}
				required
				help="For this message only"
			/>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<BothStates apart={apart} />
			<div className="flex gap-2">
				<Button kind="main" type="submit" disabled={busy}>
					{now ? 'Keep mine over theirs' : 'Keep this message'}
				</Button>
				<Button onClick={onClose}>Not now</Button>
			</div>
		</form>
	)
}
