import { formatTime } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'

/** How every figure was reached, and what was changed before. */
export function Working({ view }: { view: PanelView }) {
	const parts = [...new Set(view.working.map(({ of }) => of))]
	return (
		<div className="space-y-4 text-sm">
			{view.changes.length > 0 && (
				<section className="border-l-[3px] border-plum pl-3">
					<h3 className="font-semibold">Changed before numbering</h3>
					{view.changes.map(({ id, at, clerk, reason, words, undone_at }) => (
						<p key={id} className={undone_at ? 'text-mute line-through' : ''}>
							{words}. <span className="text-mute">{`${clerk}, ${formatTime(at)}: ${reason}`}</span>
						</p>
					))}
				</section>
			)}
			{parts.map((part) => {
				const steps = view.working.filter(({ of }) => of === part)
				return (
					<section key={part}>
						<h3 className="font-semibold">{part}</h3>
						{steps[0]?.source && (
							<p className="text-xs text-mute">
								{steps[0].file ? (
									<a
										href={`/bring-in/${steps[0].file}${steps[0].row === null ? '' : `?row=${steps[0].row}`}`}
										className="underline"
									>
										{steps[0].source}
									</a>
								) : (
									steps[0].source
								)}
							</p>
						)}
						<dl>
							{steps.map(({ figure, amount, text }, place) => (
								<div key={place} className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-rule-soft py-1">
									<dt>{figure}</dt>
									<dd className="figures font-semibold">{amount}</dd>
									<dd className="col-span-2 text-mute">{text}</dd>
								</div>
							))}
						</dl>
					</section>
				)
			})}
		</div>
	)
}
