'use client'
import { useState, useTransition } from 'react'
import { decide, markPrinted } from '@/app/acts/document'
import { Button } from '@/ui/Button'

/** A person's word on a message that was refused or is unsure. */
export function Decide({ id, unsure }: { id: number; unsure: boolean }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const say = (decision: 'again' | 'sent') =>
		start(async () => {
			const outcome = await decide(id, decision)
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	return (
		<span className="flex flex-wrap items-center gap-2">
			<Button disabled={busy} onClick={() => say('again')}>
				To be sent again
			</Button>
			{unsure && (
				<Button disabled={busy} onClick={() => say('sent')}>
					It arrived
				</Button>
			)}
			{trouble && <span className="text-brick">{trouble}</span>}
		</span>
	)
}

export function Printed({ id }: { id: number }) {
	const [busy, start] = useTransition()
	return (
		<Button disabled={busy} onClick={() => start(async () => void (await markPrinted([id])))}>
			Printed and posted
		</Button>
	)
}
