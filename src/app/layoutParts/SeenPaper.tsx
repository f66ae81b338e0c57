'use client'
import { type ComponentProps, useState } from 'react'
import type { Layout } from '@/layout/schema'
import { Notice } from '@/ui/Notice'
import { useDrawing } from './keeping'
import { Paper, type Preview } from './Paper'
import { type RunSeen, SeenWith } from './SeenWith'

/** A layout in the making as it is seen: drawn at once after each change, with the paper that was chosen, the next one or the one before. */
export function useSeen(layout: Layout, firstPaper: number) {
	const [paper, setPaper] = useState(firstPaper)
	/** The run that is leafed through; 0 for all papers. */
	const [run, setRun] = useState(0)
	const [preview, setPreview] = useState<Preview | null>(null)
	const [faults, setFaults] = useState<string[]>([])
	useDrawing(layout, { paper, run }, setPreview, setFaults)
	return {
		...{ paper, run, preview, faults, setPaper, setRun },
		next: () => preview?.seen.after && setPaper(preview.seen.after),
		before: () => preview?.seen.before && setPaper(preview.seen.before),
	}
}

type Props = {
	kind: string
	seen: ReturnType<typeof useSeen>
	hardest: { id: number; name: string; why: string[] }[]
	/** Runs with papers of the kind, the latest first. */
	runs: RunSeen[]
} & Omit<ComponentProps<typeof Paper>, 'preview'>

/** The paper in the midst of a screen, below what it is seen with. */
export function SeenPaper({ kind, seen, hardest, runs, ...paper }: Props) {
	const { preview, faults, run, setPaper, setRun } = seen
	return (
		<section aria-label="The paper" className="scrolls min-h-0 min-w-0 border-x border-rule">
			<SeenWith
				kind={kind}
				seen={preview?.seen ?? null}
				pages={preview?.pages ?? 0}
				hardest={hardest}
				runs={runs}
				run={run}
				onPaper={setPaper}
				onRun={(id, first) => {
					setRun(id)
					if (first) setPaper(first)
				}}
			/>
			{faults.map((fault) => (
				<div key={fault} className="px-4 pt-3">
					<Notice tone="stop">{fault}</Notice>
				</div>
			))}
			<Paper preview={preview} {...paper} />
		</section>
	)
}
