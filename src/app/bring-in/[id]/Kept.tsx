'use client'
import { useState, useTransition } from 'react'
import { saveAsReader, takeIn } from '@/app/acts/bringIn'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'
import { MakeMissing, type Missing } from './MakeMissing'

/** Rows that were left out, with why; each can be looked at again. */
export function LeftOut({ id, rows }: { id: number; rows: { row: number; reason: string; clerk: string }[] }) {
	const [acting, start] = useTransition()
	const awake = useAwake()
	const busy = acting || !awake
	return (
		<ul className="border-t border-rule-soft bg-sheet text-sm">
			{rows.map(({ row, reason, clerk }) => (
				<li key={row} className="flex items-center gap-4 border-b border-rule-soft px-5 py-1">
					<span className="figures w-16 text-right">{row}</span>
					<span className="flex-1">
						{reason} <span className="text-mute">({clerk})</span>
					</span>
					<Button kind="bare" disabled={busy} onClick={() => start(async () => void (await takeIn(id, [row])))}>
						Look at it again
					</Button>
				</li>
			))}
		</ul>
	)
}

/** Items and tax codes that lines name and the books do not have. */
export function Unknown({
	id,
	home,
	unknown,
}: {
	id: number
	home: string
	unknown: { what: 'item' | 'tax code'; value: string; rows: number; first: number }[]
}) {
	const [making, setMaking] = useState<Missing | null>(null)
	return (
		<>
			<ul className="border-t border-rule-soft bg-sheet text-sm">
				{unknown.map(({ what, value, rows, first }) => (
					<li key={`${what} ${value}`} className="flex items-center gap-4 border-b border-rule-soft px-5 py-1">
						<span className="w-24 text-mute">{what}</span>
						<span className="figures w-56 truncate">{value}</span>
						<span className="flex-1 text-mute">
							{rows === 1 ? `in row ${first}` : `in ${rows} rows, first in row ${first}`}
						</span>
						<Button kind="bare" onClick={() => setMaking({ what, value })}>{`Make ${what} ${value}`}</Button>
					</li>
				))}
			</ul>
			<MakeMissing file={id} missing={making} home={home} onClose={() => setMaking(null)} />
		</>
	)
}

/** Keeps the way that the file is read as a reader, by a name. */
export function SaveReader({ id, name }: { id: number; name: string }) {
	const [text, setText] = useState(name)
	const [said, setSaid] = useState<{ ok: boolean; words: string } | null>(null)
	const [acting, start] = useTransition()
	const awake = useAwake()
	const busy = acting || !awake
	return (
		<form
			className="flex flex-wrap items-center gap-3 px-5 pb-4"
			onSubmit={(event) => {
				event.preventDefault()
				start(async () => {
					const outcome = await answered(saveAsReader(id, text))
					setSaid(outcome.ok ? { ok: true, words: 'Kept' } : { ok: false, words: outcome.message })
				})
			}}
		>
			<input
				aria-label="Name of the reader"
				value={text}
				onChange={(event) => setText(event.target.value)}
				style={{ width: '18rem' }}
				className={inputLook}
			/>
			<Button type="submit" disabled={busy || text.trim() === ''}>
				Keep this reader
			</Button>
			{said && <Notice tone={said.ok ? 'tie' : 'stop'}>{said.words}</Notice>}
		</form>
	)
}
