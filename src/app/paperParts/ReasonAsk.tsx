'use client'
import { useState } from 'react'
import { Button } from '@/ui/Button'
import { WhyAsk } from '@/ui/WhyAsk'

type Props = {
	button: string
	title: string
	about: string
	yes: string
	act: (reason: string) => Promise<{ ok: true } | { ok: false; message: string }>
}

/** A button that asks why before it acts. */
export function ReasonAsk({ button, ...asked }: Props) {
	const [open, setOpen] = useState(false)
	return (
		<>
			<Button onClick={() => setOpen(true)}>{button}</Button>
			{open && <WhyAsk {...asked} kind="grave" onClose={() => setOpen(false)} />}
		</>
	)
}
