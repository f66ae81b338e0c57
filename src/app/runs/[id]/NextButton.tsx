'use client'
import { type Numbering, numberingName, numberings } from '@/core/numbering'
import type { NextAct } from '@/runs/tally/tally'
import { Button } from '@/ui/Button'
import { counted } from './counted'

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
	const words = {
		number: toNumber || `Number ${counted(count, noun, nouns)}`,
		make: `Make ${counted(count, 'PDF')}`,
		send: mail === 'practice' ? `Send ${count} in practice` : `Send ${counted(count, noun, nouns)}`,
		read: `Read ${counted(count, 'message')} held`,
		print: `Note ${count} as printed and posted`,
		decide: `Decide on ${count} in the Postroom`,
		await: `See ${counted(count, 'message')} put off`,
		solve: `Look at ${count} stopped`,
		close: 'Close the run',
	}[act]
	return (
		<Button kind="main" hint="G" onClick={onGo} disabled={off}>
			{words}
		</Button>
	)
}
