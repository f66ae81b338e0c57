'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { dropPaperDraft, fileOrSend, issuePaper } from '@/app/acts/papers'
import { MakePaper } from '@/app/paperParts/MakePaper'
import { ReasonAsk } from '@/app/paperParts/ReasonAsk'
import type { PaperFacts } from '@/runs/papers/facts'
import { isGoing, type Job } from '@/store/jobState'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { useAsked } from '@/ui/useAsked'
import { useKeys } from '@/ui/useKeys'
import { AcceptAsk } from './AcceptAsk'

type Props = PaperFacts & { id: number; run: number; number: string | null; email: string }

/** What is done with a paper of the firm's own kind: issued and sent, or filed; accepted; made again; dropped while it is a draft. */
export function PaperActs({ id, run, number, email, open, alone, place, record, kind, gone, accept }: Props) {
	const [accepting, setAccepting] = useState(false)
	const [said, setSaid] = useState<{ ok: boolean; words: string } | null>(null)
	const [busy, start] = useTransition()
	const router = useRouter()
	// Its file is made a moment later, by the runner, and may be sent after that.
	const [making, setMaking] = useState(false)
	useAsked<Job | null>(making ? `/api/runs/${run}/job` : null, (job) => {
		router.refresh()
		if (isGoing(job) && job?.state !== 'paused') return 500
		setMaking(false)
		return null
	})
	const issue = (how: 'send' | 'file') =>
		start(async () => {
			const outcome = await answered(issuePaper(id, how))
			setSaid({ ok: outcome.ok, words: outcome.ok ? (outcome.words ?? '') : outcome.message })
			if (outcome.ok) setMaking(true)
		})
	const file = (only: boolean) =>
		start(async () => {
			const outcome = await answered(fileOrSend(id, only))
			if (!outcome.ok) setSaid({ ok: false, words: outcome.message })
		})
	const mayAccept = accept !== null && accept.why === '' && accept.lines.some(({ order }) => order === null)
	const maySend = ['made', 'to print', 'to read'].includes(place)
	useKeys({
		s: () => alone && !busy && issue('send'),
		f: () => alone && !busy && issue('file'),
		a: () => mayAccept && setAccepting(true),
	})
	return (
		<>
			{open && (
				<ReasonAsk
					button="Drop the draft"
					title="Drop this draft?"
					about="It has no number yet. The draft is put away with its notes; what it was made from is without it again."
					yes="Drop the draft"
					act={(reason) => dropPaperDraft(id, record.id, reason)}
				/>
			)}
			{!kind.away && gone === '' && (
				<MakePaper makeable={[{ name: 'another version', hint: 'V', record: record.id }]} />
			)}
			{alone && (
				<>
					<Button hint="F" disabled={busy} onClick={() => issue('file')}>
						Issue and file
					</Button>
					<Button kind="main" hint="S" disabled={busy} onClick={() => issue('send')}>
						{email === '' ? 'Issue, to print' : 'Issue and send'}
					</Button>
				</>
			)}
			{number !== null && maySend && (
				<Button disabled={busy} onClick={() => file(true)}>
					File, do not send
				</Button>
			)}
			{place === 'filed' && (
				<Button disabled={busy} onClick={() => file(false)}>
					Send it after all
				</Button>
			)}
			{mayAccept && (
				<Button kind="main" hint="A" onClick={() => setAccepting(true)}>
					Accepted
				</Button>
			)}
			{accept && (
				<AcceptAsk
					id={id}
					name={`${kind.name} ${number}`}
					view={accept}
					open={accepting}
					onClose={() => setAccepting(false)}
				/>
			)}
			<Ask open={said !== null && !said.ok} onClose={() => setSaid(null)} title="It was not done">
				<Notice tone="stop">{said?.words ?? ''}</Notice>
			</Ask>
			{said?.ok && said.words && (
				<span role="status" className="self-center text-sm text-kelp">
					{said.words}
				</span>
			)}
		</>
	)
}
