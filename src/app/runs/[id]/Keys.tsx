'use client'
import type { BenchView } from '@/runs/bench/view'
import { KeyHint } from '@/ui/KeyHint'
import { KeysAsk } from '@/ui/KeysAsk'

const keys: [keys: string[], words: string][] = [
	[['J', 'K'], 'next, previous'],
	[['N'], 'next flagged'],
	[['Space'], 'looks right'],
	[['H'], 'hold back, release'],
	[['E'], 'change'],
	[['W'], 'working'],
	[['O'], 'open'],
	[['/'], 'filter'],
	[['G'], 'go on'],
	[['?'], 'keys'],
]

/** Those that stand on their buttons too: a narrow window leaves them to these. */
const onButtons = ['H', 'E', 'G']

/** Keys that stand on their buttons, or belong to every screen. */
const moreKeys: typeof keys = [
	[['P'], 'the paper as wide as the screen, and back'],
	[['D'], 'divide it, or leave lines for the next run'],
	[['M'], 'put another draft on it'],
	[['Ctrl K'], 'find anything in the books'],
]

export function KeyBar({ rows }: { rows: BenchView[] }) {
	const flagged = rows.filter(({ place, level }) => place === 'to number' && level === 'look')
	return (
		<footer className="flex gap-4 overflow-hidden max-[1100px]:gap-2.5 border-t border-rule px-5 py-1.5 text-xs whitespace-nowrap text-mute">
			{keys.map(([names, words]) => (
				<span
					key={words}
					className={`flex items-center gap-1 ${onButtons.includes(names[0] ?? '') ? 'max-[1100px]:hidden' : ''}`}
				>
					{names.map((name) => (
						<KeyHint key={name}>{name}</KeyHint>
					))}
					{words}
				</span>
			))}
			{flagged.length > 0 && (
				<span className="ml-auto">
					{flagged.filter(({ looked: seen }) => seen).length} of {flagged.length} flagged looked at
				</span>
			)}
		</footer>
	)
}

export const BenchKeysAsk = (props: { open: boolean; onClose: () => void }) => (
	<KeysAsk {...props} keys={[...keys, ...moreKeys]} />
)
