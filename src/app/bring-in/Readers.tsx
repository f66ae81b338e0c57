'use client'
import { useState, useTransition } from 'react'
import { copyOfReader, takeReaderAway } from '@/app/acts/bringIn'
import type { Outcome } from '@/core/outcome'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'

type ReaderRow = { id: number; name: string; kind: string; columns: string; version: number; madeBy: string }

/** The saved ways to read a source: changed, copied, taken away. */
export function Readers({ readers }: { readers: ReaderRow[] }) {
	const [trouble, setTrouble] = useState('')
	const [acting, start] = useTransition()
	const awake = useAwake()
	const busy = acting || !awake
	const does = (work: () => Promise<Outcome>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	return (
		<>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<ul className="border-t border-rule-soft bg-sheet text-sm">
				{readers.map((reader) => (
					<li key={reader.id} className="flex items-center gap-4 border-b border-rule-soft px-5 py-1">
						<span className="w-56 truncate font-semibold">{reader.name}</span>
						<span className="w-28 text-mute">{reader.kind}</span>
						<span className="min-w-0 flex-1 truncate text-mute">{reader.columns}</span>
						<span className="text-mute">
							{reader.madeBy}
							{reader.version > 1 && `, version ${reader.version}`}
						</span>
						<Link href={`/bring-in/readers/${reader.id}`} className={buttonLook('bare')}>
							Change
						</Link>
						<Button kind="bare" disabled={busy} onClick={() => does(() => copyOfReader(reader.id))}>
							Copy
						</Button>
						<Button kind="bare" disabled={busy} onClick={() => does(() => takeReaderAway(reader.id))}>
							Take away
						</Button>
					</li>
				))}
			</ul>
		</>
	)
}
