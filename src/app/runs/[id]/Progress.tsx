'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { isGoing, type Job } from '@/store/jobState'
import { Button } from '@/ui/Button'
import { useAsked } from '@/ui/useAsked'

/** Least time between two readings of the whole page, ms. */
const between = 1500
/** How often a step is asked after while it goes or the page is behind it, and else, ms. */
const pace = { going: 350, else: 5000 }

const nameOf = (job: Job | null) => `${job?.id}-${job?.state}`

/**
 * A run's latest step, live. The page is read anew as it moves, and for as long as the page knows another step than the latest: one
 * reading may be of the moment before, or not arrive.
 * @param inView the step as the page knows it
 */
export function useJob(runId: number, inView: Job | null): Job | null {
	const [job, setJob] = useState(inView)
	const router = useRouter()
	const last = useRef({ at: Number.NEGATIVE_INFINITY, of: '' })
	useAsked<Job | null>(`/api/runs/${runId}/job?after=${nameOf(inView)}`, (next) => {
		setJob(next)
		const behind = nameOf(next) !== nameOf(inView)
		const going = isGoing(next) && next?.state !== 'paused'
		const moved = behind && last.current.of !== nameOf(next)
		if (moved || ((behind || going) && performance.now() - last.current.at >= between)) {
			last.current = { at: performance.now(), of: nameOf(next) }
			router.refresh()
		}
		return behind || going ? pace.going : pace.else
	})
	return job
}

const doing: Partial<Record<Job['kind'], string>> = {
	gather: 'Gathering',
	number: 'Numbering',
	make: 'Making PDFs',
	send: 'Sending',
	'look again': 'Looking again',
	'trial print': 'Printing the drafts',
}

/** Over so long a rate is taken, ms. */
const window = 15_000

const paceWords = (rate: number) =>
	rate >= 1 ? `${Math.round(rate)} a second` : `${Math.max(1, Math.round(rate * 60))} a minute`
const timeWords = (seconds: number) => (seconds < 90 ? `${seconds} s` : `${Math.round(seconds / 60)} min`)

type Props = { job: Job; onHalt: (how: 'stop' | 'pause') => void; onResume: () => void }

/** Done of total, rate and time left of a step, and the ways to pause it, let it go on, or stop it. */
export function Progress({ job, onHalt, onResume }: Props) {
	const seen = useRef<{ at: number; done: number }[]>([])
	const counts = job.kind === 'make' || job.kind === 'send'
	const now = performance.now()
	if (job.state !== 'working') seen.current = []
	else if (seen.current.at(-1)?.done !== job.done) seen.current.push({ at: now, done: job.done })
	// What it did in the last seconds says what it will do; what it did at first does not.
	while (seen.current.length > 2 && now - (seen.current[1]?.at ?? now) > window) seen.current.shift()
	const [first] = seen.current
	const rate = first && now - first.at > 800 ? ((job.done - first.done) * 1000) / (now - first.at) : 0
	const left = rate > 0 ? Math.ceil((job.total - job.done) / rate) : null
	return (
		<div className="flex items-center gap-3" role="status" aria-live="polite">
			<span className="whitespace-nowrap">
				{job.state === 'stopping'
					? 'Stopping after this batch'
					: job.state === 'pausing'
						? 'Pausing after this batch'
						: job.state === 'paused'
							? 'Paused:'
							: doing[job.kind]}
				{counts && job.total > 0 && (
					<span className="figures">
						{' '}
						{job.done} of {job.total}
					</span>
				)}
				{counts && left !== null && (
					<span className="text-mute">{`, ${paceWords(rate)}, ${timeWords(left)} left`}</span>
				)}
			</span>
			<progress
				className="h-2 w-32 accent-plum"
				value={counts && job.total > 0 ? job.done : undefined}
				max={job.total || 1}
				aria-label={doing[job.kind]}
			/>
			{counts && job.state === 'paused' && (
				<Button kind="main" hint="G" onClick={onResume}>
					Go on
				</Button>
			)}
			{counts && (job.state === 'working' || job.state === 'waiting') && (
				<Button onClick={() => onHalt('pause')}>Pause</Button>
			)}
			{counts && job.state !== 'stopping' && <Button onClick={() => onHalt('stop')}>Stop</Button>}
		</div>
	)
}
