'use client'
import { useState, useTransition } from 'react'
import { holdWaitingOrder, withdraw } from '@/app/acts/bringIn'
import type { Outcome } from '@/core/outcome'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** Holds a waiting order back from runs, lets it go in again, or withdraws it for good; each with why. */
export function KeepBack({
	order,
	onClose,
}: {
	order: { id: number; number: string; held: string } | null
	onClose: () => void
}) {
	const [reason, setReason] = useState('')
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const does = (work: () => Promise<Outcome>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
			if (!outcome.ok) return
			setReason('')
			onClose()
		})
	const id = order?.id ?? 0
	return (
		<Ask open={order !== null} onClose={onClose} title={`Order ${order?.number ?? ''}`}>
			<form
				className="space-y-4"
				onSubmit={(event) => {
					event.preventDefault()
					if (order?.held === '') does(() => holdWaitingOrder(id, reason))
				}}
			>
				{order?.held && <p>Held back: {order.held}</p>}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<TextField
					label="Why"
					value={reason}
					onChange={(event) => setReason(event.target.value)}
					help="Held back, it waits and no run takes it. Withdrawn, it waits no more; its file can bring it in again."
				/>
				<div className="flex gap-2">
					{order?.held ? (
						<Button kind="main" disabled={busy} onClick={() => does(() => holdWaitingOrder(id, null))}>
							Let it go in again
						</Button>
					) : (
						<Button kind="main" type="submit" disabled={busy || reason.trim() === ''}>
							Hold it back
						</Button>
					)}
					<Button kind="grave" disabled={busy || reason.trim() === ''} onClick={() => does(() => withdraw(id, reason))}>
						Withdraw it
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}
