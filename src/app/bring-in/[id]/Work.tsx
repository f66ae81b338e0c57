'use client'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { stopFile } from '@/app/acts/bringIn'
import { Button } from '@/ui/Button'

type State = { going: boolean; kind: string; done: number; total: number }
const doing: Record<string, string> = {
	'read file': 'Reading',
	'take file': 'Working out what it brings',
	'accept file': 'Putting it into the books',
	'take file back': 'Taking it back',
}

/** What the runner is doing with the file, asked now and then while it goes; then the page is read anew. */
export function Work({ id, first }: { id: number; first: State }) {
	const [state, setState] = useState(first)
	const router = useRouter()
	useEffect(() => {
		if (!first.going) return
		let timer = 0
		let over = false
		const ask = async () => {
			try {
				const answer = await fetch(`/api/files/${id}/state`)
				const next: State = await answer.json()
				if (over) return
				setState(next)
				if (!next.going) return router.refresh()
			} catch {
				// The line is broken for a moment; it is asked again.
			}
			timer = window.setTimeout(ask, document.hidden ? 3000 : 350)
		}
		timer = window.setTimeout(ask, 200)
		return () => {
			over = true
			window.clearTimeout(timer)
		}
	}, [first.going, id, router])
	if (!first.going) return null
	const { kind, done, total } = state
	return (
		<div role="status" className="flex items-center gap-4 border-y border-rule bg-sheet px-5 py-2.5">
			<span>
				{doing[kind] ?? 'Waiting for the runner'}
				{done > 0 && (
					<span className="figures">
						{' '}
						{done.toLocaleString('en-GB')}
						{total > 0 ? ` of ${total.toLocaleString('en-GB')}` : ''}
					</span>
				)}
			</span>
			<progress
				className="h-2 w-40 accent-plum"
				value={total > 0 ? done : undefined}
				max={total || 1}
				aria-label="How far it is"
			/>
			{kind !== 'take file back' && <Button onClick={() => void stopFile(id)}>Stop</Button>}
		</div>
	)
}
