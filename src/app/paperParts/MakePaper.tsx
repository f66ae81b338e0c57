'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { paperOfOrder, paperOfRecord } from '@/app/acts/papers'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'

/** A paper that can be made: of a record of its own, or of an order by a kind. `hint` is its key. */
type Makeable = { name: string; hint: string } & ({ record: number } | { kind: number; order: number })

/** Makes papers one at a time, each by one button or key. Where one stands already, it asks what becomes of it. */
export function MakePaper({ makeable, main = false }: { makeable: Makeable[]; main?: boolean }) {
	const [asked, setAsked] = useState<{ of: Makeable; words: string; draft: boolean } | null>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const router = useRouter()
	const make = (of: Makeable, again: 'replace' | 'both' | null) =>
		start(async () => {
			const outcome =
				'record' in of ? await paperOfRecord(of.record, again) : await paperOfOrder(of.kind, of.order, again)
			setTrouble('')
			setAsked(null)
			if (outcome.ok) router.push(`/documents/${outcome.id}`)
			else if (outcome.ask) setAsked({ of, words: outcome.message, draft: outcome.ask === 'draft' })
			else setTrouble(outcome.message)
		})
	useKeys(Object.fromEntries(makeable.map((of) => [of.hint.toLowerCase(), () => !busy && make(of, null)])))
	return (
		<>
			{makeable.map((of) => (
				<Button
					key={of.name}
					kind={main ? 'main' : 'plain'}
					hint={of.hint}
					disabled={busy}
					onClick={() => make(of, null)}
				>{`Make ${of.name.toLowerCase()}`}</Button>
			))}
			<Ask
				open={asked !== null || trouble !== ''}
				onClose={() => (trouble ? setTrouble('') : setAsked(null))}
				title={trouble ? 'It cannot be made' : 'There is one already'}
			>
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				{asked && (
					<>
						<p className="mb-4">{asked.words}</p>
						<div className="flex gap-2">
							{asked.draft && (
								<Button kind="main" disabled={busy} onClick={() => make(asked.of, 'replace')}>
									Replace the draft
								</Button>
							)}
							<Button kind={asked.draft ? 'plain' : 'main'} disabled={busy} onClick={() => make(asked.of, 'both')}>
								{asked.draft ? 'Keep both' : 'Make another version'}
							</Button>
							<Button onClick={() => setAsked(null)}>Not now</Button>
						</div>
					</>
				)}
			</Ask>
		</>
	)
}
