'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { stopFile } from '@/app/acts/bringIn'
import { Button } from '@/ui/Button'
import { useAsked } from '@/ui/useAsked'

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
	useAsked<State>(first.going ? `/api/files/${id}/state` : null, (next) => {
		setState(next)
		if (next.going) return 350
		// Until the page knows it too: one reading of it may not arrive.
		router.refresh()
		return 1500
	})
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
