'use client'
import { useState, useTransition } from 'react'
import { columnsTaken } from '@/app/acts/papers'
import type { OwnType } from '@/core/ownFields'
import type { SheetWay } from '@/core/paperKind'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'

type Column = { place: number; name: string; samples: string[]; type: OwnType }
type Taken = { of: 'sheet' | 'row' | 'none'; type: 'text' | 'number' | 'day' }

/** What becomes of the columns that the books have no field for: each a field of the paper or of its rows, with a type, or nothing. */
export function TakeColumns({ id, way, columns }: { id: number; way: SheetWay | null; columns: Column[] }) {
	const usual = way === 'row' ? 'sheet' : 'row'
	const [taken, setTaken] = useState<Record<number, Taken>>(() =>
		Object.fromEntries(
			columns.map(({ place, type }) => [place, { of: usual, type: type === 'picture' ? 'text' : type }]),
		),
	)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const awake = useAwake()
	const set = (place: number, part: Partial<Taken>) =>
		setTaken((before) => ({ ...before, [place]: { of: usual, type: 'text', ...before[place], ...part } }))
	if (way === null) return <p className="px-5 pb-4 text-mute">Say first which paper the rows are for.</p>
	const many = Object.values(taken).filter(({ of }) => of !== 'none').length
	return (
		<div className="px-5 pb-4">
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<ul className="mb-3 grid max-w-4xl gap-1">
				{columns.map(({ place, name, samples }) => (
					<li key={place} className="grid grid-cols-[170px_170px_130px_minmax(0,1fr)] items-center gap-3">
						<span className="truncate font-semibold">{name}</span>
						<select
							aria-label={`What ${name} becomes`}
							className={`${inputLook} py-1`}
							value={taken[place]?.of}
							onChange={(event) => set(place, { of: event.target.value as Taken['of'] })}
						>
							<option value="sheet">once for the paper</option>
							{way !== 'row' && <option value="row">for each row</option>}
							<option value="none">left out</option>
						</select>
						<select
							aria-label={`Type of ${name}`}
							className={`${inputLook} py-1`}
							value={taken[place]?.type}
							disabled={taken[place]?.of === 'none'}
							onChange={(event) => set(place, { type: event.target.value as Taken['type'] })}
						>
							<option value="text">text</option>
							<option value="number">number</option>
							<option value="day">day</option>
						</select>
						<span className="figures truncate text-sm text-mute">{samples.join(' · ')}</span>
					</li>
				))}
			</ul>
			<Button
				disabled={busy || !awake || many === 0}
				onClick={() =>
					start(async () => {
						const outcome = await answered(
							columnsTaken(
								id,
								Object.entries(taken).map(([place, one]) => ({ place: Number(place), ...one })),
							),
						)
						setTrouble(outcome.ok ? '' : outcome.message)
					})
				}
			>
				{many === 1 ? 'Take this column' : `Take these ${many} columns`}
			</Button>
		</div>
	)
}
