'use client'
import { useState, useTransition } from 'react'
import { allAnew, anew, stand } from '@/app/acts/document'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { WhyAsk } from '@/ui/WhyAsk'

type Props = {
	/** The draft statement that is no longer true, and how many of its run are. */
	id: number
	customer: string
	runId: number
	stale: number
}

/** What is done with a draft statement whose account is otherwise by now: it is made anew, alone or with all such, or let stand. */
export function StaleActs({ id, customer, runId, stale }: Props) {
	const [asking, setAsking] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const act = (work: () => Promise<{ ok: true } | { ok: false; message: string }>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	return (
		<div className="space-y-2">
			<div className="flex flex-wrap gap-2">
				<Button kind="main" disabled={busy} onClick={() => act(() => anew(id))}>
					Make it anew
				</Button>
				{stale > 1 && (
					<Button disabled={busy} onClick={() => act(() => allAnew(runId))}>
						{`Make all ${stale} anew`}
					</Button>
				)}
				<Button disabled={busy} onClick={() => setAsking(true)}>
					Let it stand
				</Button>
			</div>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{asking && (
				<WhyAsk
					title={`Let the statement of ${customer} stand as it was gathered?`}
					help="What changes further is found again."
					yes="Let it stand"
					onClose={() => setAsking(false)}
					act={(why) => stand(id, why)}
				/>
			)}
		</div>
	)
}
