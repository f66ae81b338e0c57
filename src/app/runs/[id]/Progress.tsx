'use client'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import type { Job } from '@/store/jobs'
import { Button } from '@/ui/Button'

/** Least time between two readings of the whole page while a step goes on. */
const between = 1500

/** The run's latest step, live; the page is read anew as it moves, and when it ends. */
export function useJob(runId: number, first: Job | null): Job | null {
	const [job, setJob] = useState(first)
	const router = useRouter()
	const last = useRef(0)
	useEffect(() => {
		const source = new EventSource(`/api/runs/${runId}/progress`)
		let known = ''
		source.onmessage = ({ data }: MessageEvent<string>) => {
			const next: Job | null = JSON.parse(data)
			setJob(next)
			const state = `${next?.id} ${next?.state}`
			const ended = known !== '' && state !== known
			known = state
			if (!ended && Date.now() - last.current < between) return
			last.current = Date.now()
			router.refresh()
		}
		return () => source.close()
	}, [runId, router])
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

type Props = { job: Job; onHalt: (how: 'stop' | 'pause') => void; onResume: () => void }

/** Done of total, rate and time left of a step, and the ways to pause it, let it go on, or stop it. */
export function Progress({ job, onHalt, onResume }: Props) {
	const seen = useRef<{ at: number; done: number } | null>(null)
	if (!seen.current && job.state === 'working') seen.current = { at: Date.now(), done: job.done }
	if (seen.current && job.state === 'paused') seen.current = null
	const counts = job.kind === 'make' || job.kind === 'send'
	const seconds = seen.current ? (Date.now() - seen.current.at) / 1000 : 0
	const rate = seconds > 0.8 && seen.current ? (job.done - seen.current.done) / seconds : 0
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
				{counts && rate > 0 && <span className="text-mute">{`, ${Math.round(rate)} a second, ${left} s left`}</span>}
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
