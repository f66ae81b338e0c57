type Trial = { id: number; words: string; until: string }

/** Trial prints of a run, each with the day on which it is thrown away, and the way to print its drafts once more. */
export function Trials({ trials, onPrint }: { trials: Trial[]; onPrint: (() => void) | null }) {
	if (trials.length === 0 && onPrint === null) return null
	return (
		<p className="flex flex-wrap gap-x-5 text-sm text-mute">
			{onPrint && (
				<button type="button" onClick={onPrint} className="text-plum underline">
					Print the drafts to look at
				</button>
			)}
			{trials.map(({ id, words, until }) => (
				<span key={id}>
					<a href={`/api/trial-prints/${id}`} target="_blank" rel="noreferrer" className="text-plum underline">
						Trial print
					</a>
					{`: ${words}; thrown away ${until}`}
				</span>
			))}
		</p>
	)
}
