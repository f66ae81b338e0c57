'use client'
import { useState } from 'react'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import type { Preview } from './Paper'

type Props = {
	kind: string
	seen: Preview['seen'] | null
	pages: number
	hardest: { id: number; name: string; why: string[] }[]
	runs: RunSeen[]
	/** The run that is leafed through; 0 for all papers. */
	run: number
	onPaper: (id: number) => void
	onRun: (run: number, first: number | null) => void
}
/** A run with its first paper of the kind. */
export type RunSeen = { id: number; day: string; papers: number; first: number }
type Found = { id: number; number: string | null; customer_name: string; day: string }

/** The paper that the layout is seen with: any of the books, found by number or customer, those beside it, or a hard one. */
export function SeenWith({ kind, seen, pages, hardest, runs, run, onPaper, onRun }: Props) {
	const [open, setOpen] = useState<'find' | 'hardest' | null>(null)
	const [found, setFound] = useState<Found[]>([])
	const find = async (text: string) => {
		const response = await fetch(`/api/layouts/papers?kind=${kind}&find=${encodeURIComponent(text)}`)
		if (response.ok) setFound(await response.json())
	}
	const take = (id: number) => {
		onPaper(id)
		setOpen(null)
	}
	return (
		<div className="flex flex-wrap items-center gap-1.5 border-b border-rule px-3 py-2 text-sm">
			<Button
				onClick={() => {
					setOpen('find')
					void find('')
				}}
			>
				<span className="figures block max-w-40 truncate font-semibold max-[1100px]:max-w-28">{seen?.name ?? '…'}</span>
			</Button>
			<Button hint="K" disabled={!seen?.before} onClick={() => seen?.before && onPaper(seen.before)}>
				<span aria-hidden>‹</span>
				<span className="sr-only">The paper before</span>
			</Button>
			<Button hint="J" disabled={!seen?.after} onClick={() => seen?.after && onPaper(seen.after)}>
				<span aria-hidden>›</span>
				<span className="sr-only">The next paper</span>
			</Button>
			<span className="whitespace-nowrap text-mute">{pages === 1 ? '1 page' : `${pages} pages`}</span>
			<select
				aria-label="Leaf through"
				className="w-28 rounded border border-rule bg-sheet px-1 py-1.5 text-sm max-[1100px]:w-24"
				value={run}
				onChange={(event) => {
					const id = Number(event.target.value)
					onRun(id, runs.find((one) => one.id === id)?.first ?? null)
				}}
			>
				<option value={0}>of all papers</option>
				{runs.map(({ id, day, papers }) => (
					<option key={id} value={id}>
						{`of run ${id}, ${day}: ${papers}`}
					</option>
				))}
			</select>
			<Button kind="bare" onClick={() => setOpen('hardest')}>
				Hardest
			</Button>
			<Ask open={open === 'find'} onClose={() => setOpen(null)} title="See it with which paper?">
				<input
					aria-label="Number or customer"
					placeholder="number or customer"
					className={inputLook}
					onChange={(event) => void find(event.target.value)}
				/>
				<ul className="scrolls mt-2 max-h-80">
					{found.map(({ id, number, customer_name, day }) => (
						<li key={id}>
							<button
								type="button"
								className="flex w-full gap-3 px-1 py-1 text-left hover:bg-plum-wash"
								onClick={() => take(id)}
							>
								<span className="figures w-28">{number ?? 'draft'}</span>
								<span className="min-w-0 flex-1 truncate">{customer_name}</span>
								<span className="figures text-mute">{day}</span>
							</button>
						</li>
					))}
					{found.length === 0 && (
						<li className="py-1 text-mute">None of this kind. It is seen with an invented one.</li>
					)}
				</ul>
			</Ask>
			<Ask open={open === 'hardest'} onClose={() => setOpen(null)} title="The hardest papers of the books">
				<ul className="scrolls max-h-96">
					{hardest.map(({ id, name, why }) => (
						<li key={id}>
							<button
								type="button"
								className="block w-full px-1 py-1 text-left hover:bg-plum-wash"
								onClick={() => take(id)}
							>
								<span className="font-semibold">{name}</span>{' '}
								<span className="text-sm text-mute">{why.join(', ')}</span>
							</button>
						</li>
					))}
				</ul>
			</Ask>
		</div>
	)
}
