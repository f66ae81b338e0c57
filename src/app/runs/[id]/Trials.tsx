export type Trial = { id: number; words: string; until: string }

/** Trial prints of a run, each with the day on which it is thrown away. */
export function Trials({ trials }: { trials: Trial[] }) {
	if (trials.length === 0) return null
	return (
		<p className="flex flex-wrap gap-x-5 text-sm text-mute">
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
