'use client'
import { useState } from 'react'
import { KeepBack } from '@/app/KeepBack'
import { Button } from '@/ui/Button'

/** What can be done with an order that waits. */
export function OrderActs({ order }: { order: { id: number; number: string; held: string } }) {
	const [open, setOpen] = useState(false)
	return (
		<>
			<Button onClick={() => setOpen(true)}>{order.held ? 'Held back' : 'Hold or withdraw'}</Button>
			<KeepBack order={open ? order : null} onClose={() => setOpen(false)} />
		</>
	)
}
