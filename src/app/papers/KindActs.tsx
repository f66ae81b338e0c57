'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { beginPapers, kindAway, kindBack } from '@/app/acts/papers'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { WhyAsk } from '@/ui/WhyAsk'

/** Takes a kind back that was taken away. */
export function KindBack({ id, name }: { id: number; name: string }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<>
			<Button
				disabled={busy}
				aria-label={`Take ${name} back`}
				onClick={() =>
					start(async () => {
						const outcome = await answered(kindBack(id))
						setTrouble(outcome.ok ? '' : outcome.message)
					})
				}
			>
				Take back
			</Button>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
		</>
	)
}

/** What is done with a kind as a whole: a run over all records that have no paper of it yet, and taking it away. */
export function KindActs({
	kind,
	today,
}: {
	kind: { id: number; name: string; several: string; without: number }
	today: string
}) {
	const [asking, setAsking] = useState<'run' | 'away' | null>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const router = useRouter()
	const close = () => {
		setAsking(null)
		setTrouble('')
	}
	useKeys({ g: () => kind.without > 0 && setAsking('run') })
	return (
		<>
			<Button onClick={() => setAsking('away')}>Take the kind away</Button>
			<Button hint="G" disabled={kind.without === 0} onClick={() => setAsking('run')}>
				{kind.without === 0 ? 'Nothing is without one' : `Draft for ${kind.without} without one`}
			</Button>
			<Ask open={asking === 'run'} onClose={close} title={`Draft ${kind.several}`}>
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						const form = new FormData(event.currentTarget)
						start(async () => {
							const outcome = await answered(beginPapers(kind.id, String(form.get('upTo')), String(form.get('day'))))
							if (outcome.ok && outcome.id) router.push(`/runs/${outcome.id}`)
							else if (!outcome.ok) setTrouble(outcome.message)
						})
					}}
				>
					<p className="text-mute">
						One for each that has none yet. They are drafts: looked at, changed and held back as invoices are, and
						issued when you say so.
					</p>
					<div className="grid grid-cols-2 gap-4">
						<DayField label="Records up to" name="upTo" value={today} required />
						<DayField label="Date of the papers" name="day" value={today} required />
					</div>
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<div className="flex gap-2">
						<Button kind="main" type="submit" disabled={busy}>
							Draft them
						</Button>
						<Button onClick={close}>Not now</Button>
					</div>
				</form>
			</Ask>
			{asking === 'away' && (
				<WhyAsk
					title={`Take ${kind.name} away?`}
					about="None is made any more. What was issued stays as it is, with its name, its number and its layout. It can be taken back."
					yes={`Take ${kind.name} away`}
					kind="grave"
					onClose={close}
					act={async (reason) => {
						const outcome = await kindAway(kind.id, reason)
						if (outcome.ok) router.push('/papers')
						return outcome
					}}
				/>
			)}
		</>
	)
}
