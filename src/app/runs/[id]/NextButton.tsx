'use client'
import { type Numbering, numberingName, numberings } from '@/core/numbering'
import { nextSteps } from '@/core/places'
import type { NextAct } from '@/runs/tally/tally'
import { Button } from '@/ui/Button'

type NumberingProps = { value: Numbering; off: boolean; onChoose: (by: Numbering) => void }

/** What the drafts are numbered by; choosing puts them in that order at once. */
export function NumberingChoice({ value, off, onChoose }: NumberingProps) {
	if (off) return null
	return (
		<label className="flex items-center gap-1.5 text-sm whitespace-nowrap text-mute">
			in order of
			<select
				value={value}
				onChange={(event) => {
					const by = numberings.find((one) => one === event.target.value)
					if (by) onChoose(by)
				}}
				className="rounded border border-rule bg-sheet px-1.5 py-1 text-ink hover:border-mute"
			>
				{numberings.map((by) => (
					<option key={by} value={by}>
						{numberingName[by]}
					</option>
				))}
			</select>
		</label>
	)
}

type NextProps = {
	next: NextAct
	toNumber: string
	words: { noun: string; nouns: string }
	mail: string
	off: boolean
	onGo: () => void
}

export function NextButton({ next, toNumber, words: { noun, nouns }, mail, off, onGo }: NextProps) {
	const { act, count } = next
	if (act === 'none') return null
	const own = nextSteps[act].button({ count, noun, nouns, mail })
	const words = act === 'number' ? toNumber || own : own
	return (
		<Button kind="main" hint="G" onClick={onGo} disabled={off}>
			{words}
		</Button>
	)
}
