'use client'
import type { PanelView } from '@/runs/bench/panel'
import type { BenchView } from '@/runs/bench/view'
import { Button } from '@/ui/Button'
import { isDraft } from './BenchList'
import { StaleActs } from './StaleActs'

type FlagsProps = {
	view: PanelView
	row: BenchView
	onLooked: () => void
	onHeld: () => void
	onChange: () => void
	onDivide: () => void
	onMerge: () => void
	onUndo: () => void
	/** How many drafts of the run are no longer true. */
	stale: number
}

export function Flags({ view, row, onLooked, onHeld, onChange, onDivide, onMerge, onUndo, stale }: FlagsProps) {
	const { findings, changes } = view
	const standing = changes.find(({ undone_at }) => undone_at === null)
	if (!isDraft(row)) return null
	return (
		<div className="scrolls max-h-[40%] shrink-0 space-y-2 border-t border-rule px-4 py-3 text-sm">
			{row.held && (
				<p>
					<span className="font-semibold text-brick">Held back.</span> {row.held}
				</p>
			)}
			{standing && (
				<p>
					<span className="font-semibold text-plum">Changed.</span> {standing.words}. {standing.reason}{' '}
					<Button kind="bare" onClick={onUndo}>
						Take it back
					</Button>
				</p>
			)}
			{findings.map(({ code, level, text }) => (
				<p key={code + text}>
					<span className={`font-semibold ${level === 'stop' ? 'text-brick' : 'text-ochre'}`}>
						{level === 'stop' ? 'Stop.' : 'Look.'}
					</span>{' '}
					{text}
				</p>
			))}
			{row.stale && (
				<StaleActs key={row.id} id={row.id} customer={row.customer} runId={view.document.run_id} stale={stale} />
			)}
			<div className="flex flex-wrap gap-2">
				{row.level === 'look' && (
					<Button hint="Space" onClick={onLooked}>
						{row.looked ? 'Look at it again' : 'Looks right'}
					</Button>
				)}
				<Button hint="H" onClick={onHeld}>
					{row.held ? 'Release' : 'Hold back'}
				</Button>
				{!view.why && (
					<Button hint="E" onClick={onChange}>
						Change
					</Button>
				)}
				{view.bills && view.lines.length > 1 && (
					<Button hint="D" onClick={onDivide}>
						Divide
					</Button>
				)}
				{view.beside.length > 0 && (
					<Button hint="M" onClick={onMerge}>
						Put together
					</Button>
				)}
			</div>
		</div>
	)
}
