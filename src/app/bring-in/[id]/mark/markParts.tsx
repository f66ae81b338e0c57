'use client'
import type { ReactNode } from 'react'
import { dayText, isDay } from '@/core/calendar'
import type { Spot } from '@/intake/formats/report/marks'
import type { NameTried } from '@/intake/tryMarks'

export const small = 'rounded border border-rule bg-sheet px-1 py-0.5 text-sm hover:border-mute'

export function Part({ title, about, children }: { title: string; about?: ReactNode; children?: ReactNode }) {
	return (
		<section aria-label={title}>
			<h2 className="mb-1 text-[14px] font-semibold">
				{title} <span className="font-normal text-mute">{about}</span>
			</h2>
			{children}
		</section>
	)
}

export const Table = ({ label, children }: { label: string; children: ReactNode }) => (
	<table aria-label={label} className="mt-1 w-full table-fixed border border-rule bg-sheet">
		<tbody>{children}</tbody>
	</table>
)

export const SpotWords = ({ spot }: { spot: Spot }) => (
	<>
		where a line has {spot.like === 'shape' ? 'such as ' : ''}
		<q>{spot.text.slice(0, 30)}</q> {spot.at === null ? 'anywhere' : `at column ${spot.at + 1}`}
	</>
)

/** How a spot is known, and that it is none. */
export function SpotSet({ name, spot, onSet }: { name: string; spot: Spot; onSet: (spot: Spot | null) => void }) {
	return (
		<span className="inline-flex flex-wrap items-baseline gap-x-3">
			<button
				type="button"
				className="text-plum underline"
				onClick={() => onSet({ ...spot, like: spot.like === 'shape' ? 'text' : 'shape' })}
			>
				{spot.like === 'shape' ? 'just these letters' : 'any of this shape'}
			</button>
			{spot.at !== null && (
				<button type="button" className="text-plum underline" onClick={() => onSet({ ...spot, at: null })}>
					anywhere in the line
				</button>
			)}
			<Drop name={name} onClick={() => onSet(null)} />
		</span>
	)
}

export const Drop = ({ name, onClick }: { name: string; onClick: () => void }) => (
	<button type="button" className="text-plum underline" onClick={onClick} aria-label={`Take away the mark of ${name}`}>
		take away
	</button>
)

export function NumberSet({
	words,
	value,
	label,
	onSet,
}: {
	words: string
	value: number
	label: string
	onSet: (value: number) => void
}) {
	return (
		<label className="flex items-center gap-1">
			{words}
			<input
				type="number"
				min={0}
				max={500}
				aria-label={label}
				value={value}
				onChange={(event) => {
					const next = Number(event.target.value)
					if (Number.isInteger(next) && next >= 0 && next <= 500) onSet(next)
				}}
				className={`${small} figures`}
				style={{ width: '3.6rem' }}
			/>
		</label>
	)
}

/** How much of a name was read. */
export function Count({ tried }: { tried: NameTried | undefined }) {
	if (!tried) return null
	const { filled, empty, unread, field } = tried
	if (unread > 0) return <span className="text-brick">{unread} not read</span>
	if (field === null) return <span className="text-mute">not used</span>
	return <span className="text-mute">{empty > 0 ? `${empty} empty` : filled}</span>
}

/** A sample as it is taken. */
export function Sample({ tried }: { tried: NameTried | undefined }) {
	const { was = '', is = '' } = tried?.sample ?? {}
	const shown = is === '' ? was : isDay(is) ? dayText(is) : is
	return <span className="figures block truncate">{shown}</span>
}
