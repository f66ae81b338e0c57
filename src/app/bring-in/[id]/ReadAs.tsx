'use client'
import { useTransition } from 'react'
import { setReading } from '@/app/acts/bringIn'
import { Button } from '@/ui/Button'
import { useAwake } from '@/ui/useAwake'

/** What was taken for a report and is a table whose cells are parted by a mark is read as that. */
export function ReadAsText({ id }: { id: number }) {
	const [busy, start] = useTransition()
	const awake = useAwake()
	return (
		<Button
			kind="bare"
			disabled={busy || !awake}
			onClick={() => start(async () => void (await setReading(id, { format: 'csv', settings: {}, headRow: null })))}
		>
			Read it as delimited text instead
		</Button>
	)
}
