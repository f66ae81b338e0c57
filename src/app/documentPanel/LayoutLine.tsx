'use client'
import { useState } from 'react'
import { giveDraftsLayout, giveRunLayout } from '@/app/acts/layouts'
import type { PanelView } from '@/runs/bench/panel'
import Link from '@/ui/Link'

/** By which layout and version the paper is drawn; a draft can be given another, or with it all drafts of its kind in the run. */
export function LayoutLine({ view }: { view: PanelView }) {
	const { layout, document, words } = view
	const [trouble, setTrouble] = useState('')
	const [all, setAll] = useState(false)
	const give = async (value: string) => {
		const wanted = value === '' ? null : Number(value)
		const outcome = all
			? await giveRunLayout(document.run_id, document.kind, wanted)
			: await giveDraftsLayout([document.id], wanted)
		setTrouble(outcome.ok ? '' : outcome.message)
	}
	if (layout.id === 0) return null
	return (
		<div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
			<span className="text-mute">Layout</span>
			{layout.others.length === 0 ? (
				<Link href={`/layouts/${layout.id}?paper=${document.id}`} className="text-plum hover:underline">
					{`${layout.name}, version ${layout.version}`}
				</Link>
			) : (
				<>
					<select
						aria-label="Layout of this draft"
						className="rounded-sm border border-rule bg-sheet px-1 py-0.5"
						value={layout.own ? layout.id : ''}
						onChange={(event) => give(event.target.value)}
					>
						<option value="">
							{layout.own ? 'what they usually get' : `${layout.name}, version ${layout.version}, as usual`}
						</option>
						{layout.others.map(({ id, name }) => (
							<option key={id} value={id}>
								{name}
							</option>
						))}
					</select>
					<label className="flex items-center gap-1.5 text-mute">
						<input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
						{`all draft ${words.noun}s of this run`}
					</label>
				</>
			)}
			{trouble && <span className="text-brick">{trouble}</span>}
		</div>
	)
}
