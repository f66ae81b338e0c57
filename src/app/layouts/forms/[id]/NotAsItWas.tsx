'use client'
import type { Change } from '@/forms/carryOver'
import type { Note } from '@/forms/form'
import type { Region } from '@/layout/flow'

type Props = {
	notes: readonly Note[]
	pieceOf: Record<string, string>
	regions: readonly Region[]
	changes: readonly Change[]
	/** What keeps the layout from being released as it stands. */
	stops: readonly string[]
	onShow: (piece: string) => void
}

/** What of the form could not be carried over as it was, beside the page on which it stands; and marks that the newer form has no more. */
export function NotAsItWas({ notes, pieceOf, regions, changes, stops, onShow }: Props) {
	const pageOf = (note: Note): number => {
		const piece = pieceOf[note.block]
		return (piece && regions.find((region) => region.piece === piece)?.page) || 0
	}
	const pages = [...new Set(notes.map(pageOf))].sort((a, b) => a - b)
	const gone = changes.filter((change) => change.is === 'gone')
	if (notes.length + gone.length + stops.length === 0)
		return <p className="px-3 py-2 text-sm text-mute">All of the form is carried over as it was.</p>
	return (
		<div className="px-3 py-2 text-sm">
			{stops.length > 0 && (
				<section className="mb-2">
					<h3 className="font-semibold text-brick">Before it can be released</h3>
					{stops.map((words) => (
						<p key={words} className="border-b border-rule-soft py-1">
							{words}
						</p>
					))}
				</section>
			)}
			{gone.length > 0 && (
				<p className="mb-2 text-ochre">
					{`No more in this form: ${gone.map(({ name }) => name).join(', ')}. What ${gone.length === 1 ? 'it was' : 'they were'} given is not lost with the form before.`}
				</p>
			)}
			{pages.map((page) => (
				<section key={page} className="mb-2">
					<h3 className="font-semibold text-mute">{`Page ${page + 1}: not as it was`}</h3>
					<ul>
						{notes
							.filter((note) => pageOf(note) === page)
							.map((note) => (
								<li key={`${note.block} ${note.words}`} className="border-b border-rule-soft py-1">
									{pieceOf[note.block] ? (
										<button
											type="button"
											className="text-left hover:underline"
											onClick={() => onShow(pieceOf[note.block] ?? '')}
										>
											{note.words}
										</button>
									) : (
										note.words
									)}
								</li>
							))}
					</ul>
				</section>
			))}
		</div>
	)
}
