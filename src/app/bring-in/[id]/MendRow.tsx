'use client'
import { useState, useTransition } from 'react'
import { correct } from '@/app/acts/bringIn'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

export type WholeRow = { row: number; why: string; cells: { place: number; name: string; value: string }[] }

/** A row whose cells may stand in the wrong places is mended as a whole: all of it is in view, and what is changed counts. */
export function MendRow({ file, whole, onClose }: { file: number; whole: WholeRow | null; onClose: () => void }) {
	return (
		<Ask open={whole !== null} onClose={onClose} title={`Row ${whole?.row ?? ''}`} wide>
			{whole && <Cells key={whole.row} file={file} whole={whole} onClose={onClose} />}
		</Ask>
	)
}

function Cells({ file, whole, onClose }: { file: number; whole: WholeRow; onClose: () => void }) {
	const [values, setValues] = useState(() => new Map(whole.cells.map(({ place, value }) => [place, value])))
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const changed = whole.cells.filter(({ place, value }) => (values.get(place) ?? '').trim() !== value)
	return (
		<form
			className="space-y-3"
			onSubmit={(event) => {
				event.preventDefault()
				start(async () => {
					for (const { place, value } of changed) {
						const now = values.get(place) ?? ''
						const outcome = await answered(correct(file, { row: whole.row, place, field: '', was: value, now }))
						if (!outcome.ok) return setTrouble(outcome.message)
					}
					onClose()
				})
			}}
		>
			<p className="text-mute">{whole.why}</p>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="scrolls grid max-h-[50vh] grid-cols-2 gap-x-4 gap-y-2">
				{whole.cells.map(({ place, name }) => (
					<label key={place} className="text-sm">
						{name || `column ${place + 1}`}
						<input
							value={values.get(place) ?? ''}
							onChange={(event) => setValues(new Map(values).set(place, event.target.value))}
							className={`${inputLook} figures py-0.5`}
						/>
					</label>
				))}
			</div>
			<div className="flex gap-2">
				<Button kind="main" type="submit" disabled={busy || changed.length === 0}>
					Set the row so
				</Button>
				<Button onClick={onClose}>Not now</Button>
			</div>
		</form>
	)
}
