'use client'
import { useTransition } from 'react'
import { markPrinted } from '@/app/acts/document'
import { Button } from '@/ui/Button'

export function Printed({ id }: { id: number }) {
	const [busy, start] = useTransition()
	return (
		<Button disabled={busy} onClick={() => start(async () => void (await markPrinted([id])))}>
			Printed and posted
		</Button>
	)
}
