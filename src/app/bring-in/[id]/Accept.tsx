'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { accept, drop } from '@/app/acts/bringIn'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'

export function Accept({ id, words, ready }: { id: number; words: string; ready: boolean }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const router = useRouter()
	return (
		<>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<Button
				onClick={() =>
					start(async () => {
						await drop(id)
						router.push('/bring-in')
					})
				}
				disabled={busy}
			>
				Leave it out
			</Button>
			<Button
				kind="main"
				disabled={!ready || busy}
				onClick={() =>
					start(async () => {
						const outcome = await accept(id)
						if (!outcome.ok) setTrouble(outcome.message)
					})
				}
			>
				{words}
			</Button>
		</>
	)
}
