'use client'
import { useEffect, useRef, useState } from 'react'
import type { LayoutFinding } from '@/layout/check'
import { type Band, bands, type OutlineRow, type Spot } from '@/layout/edit'
import { Button } from '@/ui/Button'

const bandNames: Record<Band, string> = { head: 'Head of pages', body: 'Running down the pages', foot: 'Foot of pages' }

type Props = {
	rows: OutlineRow[]
	chosen: string | null
	findings: LayoutFinding[]
	onChoose: (id: string | null) => void
	/** The chosen one was chosen once more: it is to be written on the paper. */
	onWrite: (id: string) => void
	onMove: (id: string, to: Spot) => void
	onAdd: () => void
}

/** The pieces down the paper; one is chosen by click or arrow, and dragged to another place. */
export function Outline({ rows, chosen, findings, onChoose, onWrite, onMove, onAdd }: Props) {
	const [over, setOver] = useState<string | null>(null)
	const current = useRef<HTMLLIElement>(null)
	useEffect(() => {
		if (chosen) current.current?.scrollIntoView({ block: 'nearest' })
	}, [chosen])
	const drop = (target: OutlineRow | Band) => (event: React.DragEvent) => {
		event.preventDefault()
		setOver(null)
		const id = event.dataTransfer.getData('text/plain')
		if (!id) return
		if (typeof target === 'string') onMove(id, { band: target, within: null, stack: 0, index: 0 })
		else onMove(id, spotBelow(rows, target))
	}
	return (
		<nav aria-label="Pieces" className="scrolls min-h-0 py-2">
			<button
				type="button"
				aria-current={chosen === null ? 'true' : undefined}
				onClick={() => onChoose(null)}
				className={`block w-full border-l-[3px] px-2.5 py-1 text-left ${chosen === null ? 'border-plum bg-plum-wash font-semibold' : 'border-transparent hover:bg-sheet'}`}
			>
				The whole paper
			</button>
			{bands.map((band) => (
				<section key={band} aria-label={bandNames[band]}>
					<h2
						className={`px-3 pt-2 pb-1 text-xs font-semibold text-mute ${over === band ? 'border-b-2 border-plum' : ''}`}
						onDragOver={(event) => {
							event.preventDefault()
							setOver(band)
						}}
						onDrop={drop(band)}
					>
						{bandNames[band]}
					</h2>
					<ul>
						{rows
							.filter((row) => row.band === band)
							.map((row) => {
								const own = findings.filter(({ piece, code }) => piece === row.piece.id && code !== 'empty')
								const stops = own.some(({ level }) => level === 'stop')
								const here = row.piece.id === chosen
								return (
									<li
										key={row.piece.id}
										ref={here ? current : null}
										draggable
										onDragStart={(event) => event.dataTransfer.setData('text/plain', row.piece.id)}
										onDragOver={(event) => {
											event.preventDefault()
											setOver(row.piece.id)
										}}
										onDragLeave={() => setOver(null)}
										onDrop={drop(row)}
										className={`border-b ${over === row.piece.id ? 'border-b-2 border-plum' : 'border-rule-soft'}`}
									>
										<button
											type="button"
											aria-current={here ? 'true' : undefined}
											onClick={() => (here ? onWrite : onChoose)(row.piece.id)}
											style={{ paddingLeft: `${0.75 + row.depth * 0.8}rem` }}
											className={`block w-full border-l-[3px] py-1 pr-2 text-left ${here ? 'border-plum bg-plum-wash font-semibold' : 'border-transparent hover:bg-sheet'}`}
										>
											<span className="flex items-baseline gap-1.5">
												<span className="min-w-0 flex-1 truncate">{row.name}</span>
												{own.length > 0 && (
													<span
														className={`rounded-sm px-1 text-xs ${stops ? 'bg-brick-wash text-brick' : 'bg-ochre-wash text-ochre'}`}
													>
														{stops ? 'stop' : 'look'}
													</span>
												)}
											</span>
											{row.about && <span className="block truncate text-xs font-normal text-mute">{row.about}</span>}
										</button>
									</li>
								)
							})}
					</ul>
				</section>
			))}
			<div className="px-3 py-3">
				<Button hint="A" onClick={onAdd}>
					Put a piece in
				</Button>
			</div>
		</nav>
	)
}

/** The place right below a row: in its own stack, behind it. */
function spotBelow(rows: OutlineRow[], target: OutlineRow): Spot {
	const { piece, band, depth } = target
	if (piece.type === 'box') return { band, within: piece.id, stack: 0, index: 0 }
	if (piece.type === 'beside') return { band, within: piece.id, stack: 0, index: 0 }
	const at = rows.indexOf(target)
	// The container is the nearest row above that stands less deep.
	for (let index = at - 1; index >= 0; index--) {
		const row = rows[index]
		if (!row || row.band !== band) break
		if (row.depth < depth) {
			const stacks =
				row.piece.type === 'box'
					? [row.piece.pieces]
					: row.piece.type === 'beside'
						? row.piece.columns.map(({ pieces }) => pieces)
						: []
			const stack = stacks.findIndex((pieces) => pieces.some(({ id }) => id === piece.id))
			const place = stacks[stack]?.findIndex(({ id }) => id === piece.id) ?? 0
			return { band, within: row.piece.id, stack: Math.max(0, stack), index: place + 1 }
		}
	}
	const siblings = rows.filter((row) => row.band === band && row.depth === 0)
	return { band, within: null, stack: 0, index: siblings.indexOf(target) + 1 }
}
