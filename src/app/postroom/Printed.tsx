'use client'
import { useState, useTransition } from 'react'
import { markPrinted } from '@/app/acts/document'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'

export function Printed({ id }: { id: number }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const note = () =>
		start(async () => {
			const outcome = await answered(markPrinted([id]))
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	return (
		<div className="space-y-2">
			<Button disabled={busy} onClick={note}>
				Printed and posted
			</Button>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
		</div>
	)
}
