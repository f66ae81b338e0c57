'use client'
import { useState } from 'react'
import { Button } from '@/ui/Button'
import { KeepBack } from '../KeepBack'

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
