'use client'
import { formatTime } from '@/core/format'

/** What was done in a closed run, the first first. */
export function RunRecord({ record }: { record: { at: string; clerk: string; words: string }[] }) {
	return (
		<section aria-label="What was done in this run" className="px-5 pb-3">
			<ol
				// biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reached by keyboard
				tabIndex={0}
				className="scrolls max-h-24 rounded border border-rule bg-sheet px-3.5 py-1.5 text-sm"
			>
				{record.map(({ at, clerk, words }) => (
					<li key={at + words} className="py-0.5">
						<span className="figures text-mute">{formatTime(at)}</span> <span className="font-semibold">{clerk}</span>{' '}
						{words}
					</li>
				))}
			</ol>
		</section>
	)
}
