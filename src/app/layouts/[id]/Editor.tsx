'use client'
import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useState } from 'react'
import { stepLayout } from '@/app/acts/layouts'
import { type Making, MakingContext } from '@/app/layoutParts/making'
import { SeenPaper, useSeen } from '@/app/layoutParts/SeenPaper'
import type { RunSeen } from '@/app/layoutParts/SeenWith'
import type { OwnField } from '@/core/ownFields'
import {
	copyPiece,
	insertPiece,
	movePiece,
	newPiece,
	outline,
	pieceOf,
	removePiece,
	replacePiece,
	type Spot,
	spotOf,
	stepPiece,
} from '@/layout/edit'
import { pieceTypes } from '@/layout/pieceTypes'
import type { Layout, Piece, PieceType } from '@/layout/schema'
import { fieldsOf } from '@/layout/values'
import { Button, buttonLook } from '@/ui/Button'
import { KeyHint } from '@/ui/KeyHint'
import { KeysFooter } from '@/ui/KeysFooter'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { type Asking, EditorAsks, type LayoutMade, type Version } from './EditorAsks'
import { Outline } from './Outline'
import { PieceSettings } from './PieceSettings'
import { useKept } from './useKept'
import { WholeSettings } from './WholeSettings'
import { WriteHere } from './WriteHere'

type Props = {
	/** `form` is the newest form that it was made of. */
	row: LayoutMade & { noun: string; form: number | null }
	/** What is in the making, or the latest version. */
	kept: Layout
	/** Where it stands, by a number that it never has twice. */
	at: number
	steps: { first: number; last: number; words: string } | null
	versions: Version[]
	firstPaper: number
	hardest: { id: number; name: string; why: string[] }[]
	/** The firm's own fields. */
	ownFields: OwnField[]
	/** Runs with papers of the kind, the latest first. */
	runs: RunSeen[]
}

/** The table at which a layout is made. Every change is drawn at once and kept by itself as a step that can be taken back. */
export function Editor({ row, kept, at, steps, versions, firstPaper, hardest, ownFields, runs }: Props) {
	const [chosen, setChosen] = useState<string | null>(null)
	/** Whether the chosen piece's words are being written on the paper. */
	const [writing, setWriting] = useState(false)
	const [asking, setAsking] = useState<Asking>(null)
	const router = useRouter()
	const { layout, change, elsewhere, saving, trouble, setTrouble } = useKept(row.id, kept, at)
	const seen = useSeen(layout, firstPaper)
	const { paper, preview } = seen
	const write = (id: string) => {
		setChosen(id)
		setWriting(pieceOf(layout, id)?.type === 'words')
	}
	const choose = (id: string | null) => {
		setChosen(id)
		setWriting(false)
	}

	const { reckoned } = layout
	// By what they say, not by which answer brought them: a box of words is made anew where the fields are, and loses its cursor.
	const said = JSON.stringify({ reckoned, ownFields })
	const fields = useMemo(() => {
		const kept: { reckoned: typeof reckoned; ownFields: typeof ownFields } = JSON.parse(said)
		return fieldsOf(kept, kept.ownFields)
	}, [said])
	const rows = useMemo(() => outline(layout, fields), [layout, fields])
	const piece = chosen === null ? null : pieceOf(layout, chosen)
	const changePiece = (next: Piece, words: string) => change(replacePiece(layout, next.id, next), words)
	const step = async (by: 1 | -1) => {
		await elsewhere(() => stepLayout(row.id, saving.at(), by))
	}
	const walk = (by: 1 | -1) => {
		const at = rows.findIndex((one) => one.piece.id === chosen)
		const next = rows[at === -1 ? (by === 1 ? 0 : rows.length - 1) : at + by]
		if (next) choose(next.piece.id)
	}
	const move = (by: 1 | -1) => {
		if (chosen)
			change(
				stepPiece(layout, chosen, by),
				`moved ${pieceTypes[piece?.type ?? 'words'].name.toLowerCase()} ${by === 1 ? 'down' : 'up'}`,
			)
	}
	const remove = () => {
		if (!chosen || !piece) return
		change(removePiece(layout, chosen), `took ${pieceTypes[piece.type].name.toLowerCase()} away`)
		setChosen(null)
	}
	const copy = () => {
		if (!chosen || !piece) return
		const made = copyPiece(layout, chosen)
		change(made.layout, `copied ${pieceTypes[piece.type].name.toLowerCase()}`)
		setChosen(made.id)
	}
	const add = (type: PieceType) => {
		const made = newPiece(type, layout)
		const spot = piece && chosen ? spotOf(layout, chosen) : null
		// Into an empty box, else below the chosen piece, else at the end of what flows.
		const inside: Spot | null =
			piece?.type === 'box' && spot ? { band: spot.band, within: piece.id, stack: 0, index: piece.pieces.length } : null
		const empty = piece?.type === 'beside' && spot ? piece.columns.findIndex(({ pieces }) => pieces.length === 0) : -1
		const column: Spot | null =
			empty >= 0 && spot && piece ? { band: spot.band, within: piece.id, stack: empty, index: 0 } : null
		const below: Spot = spot
			? { ...spot, index: spot.index + 1 }
			: { band: 'body', within: null, stack: 0, index: layout.body.length }
		change(insertPiece(layout, inside ?? column ?? below, made), `put ${pieceTypes[type].name.toLowerCase()} in`)
		setChosen(made.id)
		setAsking(null)
	}
	useKeys({
		ArrowDown: () => walk(1),
		ArrowUp: () => walk(-1),
		a: () => setAsking('add'),
		c: copy,
		Delete: remove,
		z: () => step(-1),
		y: () => step(1),
		Escape: () => (writing ? setWriting(false) : choose(null)),
		Enter: () => piece?.type === 'words' && setWriting(true),
		j: seen.next,
		k: seen.before,
		p: () => router.push(`/layouts/${row.id}/proof`),
		g: () => steps && setAsking('release'),
		'?': () => setAsking('keys'),
	})
	useEffect(() => {
		const onKey = (event: KeyboardEvent) => {
			if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
			if (
				event.target instanceof HTMLElement &&
				event.target.closest('input, textarea, select, [contenteditable], [role=dialog]')
			)
				return
			event.preventDefault()
			move(event.key === 'ArrowDown' ? 1 : -1)
		}
		document.addEventListener('keydown', onKey)
		return () => document.removeEventListener('keydown', onKey)
	})
	const making: Making = { layout, fields, examples: preview?.examples ?? {}, change }
	const findings = preview?.findings ?? []
	return (
		<MakingContext value={making}>
			<div className="flex h-full min-h-0 flex-col">
				<header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-4 py-2.5">
					<h1 className="text-xl font-semibold">
						<button type="button" className="hover:underline" title="Rename" onClick={() => setAsking('name')}>
							{row.name}
						</button>
					</h1>
					<p className="min-w-0 truncate text-mute">
						{`${row.noun}, ${steps ? `version ${row.version + 1} in the making` : `version ${row.version}`}${row.used ? `; ${row.version} is in use by ${row.used}` : ''}`}
					</p>
					<div className="ml-auto flex gap-2">
						<Button hint="Z" disabled={!steps || at <= steps.first} onClick={() => step(-1)}>
							Undo
						</Button>
						<Button hint="Y" disabled={!steps || at >= steps.last} onClick={() => step(1)}>
							Redo
						</Button>
						{row.form !== null && (
							<Link href={`/layouts/forms/${row.form}`} className={buttonLook()}>
								Its form
							</Link>
						)}
						<Button onClick={() => setAsking('test')}>Test message</Button>
						<Button onClick={() => setAsking('versions')}>Versions</Button>
						<Link href={`/layouts/${row.id}/proof`} className={buttonLook()}>
							Proof sheet <KeyHint>P</KeyHint>
						</Link>
						<Button kind="main" hint="G" disabled={!steps} onClick={() => setAsking('release')}>
							{`Release version ${row.version + 1}`}
						</Button>
					</div>
				</header>
				{trouble && (
					<div className="px-4 pt-2">
						<Notice tone="stop">{trouble}</Notice>
					</div>
				)}
				<div className="grid min-h-0 flex-1 grid-cols-[208px_minmax(0,1fr)_300px] max-[1100px]:grid-cols-[178px_minmax(0,1fr)_268px]">
					<Outline
						rows={rows}
						chosen={chosen}
						findings={findings}
						onChoose={choose}
						onWrite={write}
						onMove={(id, to) => change(movePiece(layout, id, to), 'moved a piece')}
						onAdd={() => setAsking('add')}
					/>
					<SeenPaper
						kind={layout.kind}
						seen={seen}
						hardest={hardest}
						runs={runs}
						chosen={chosen}
						name={piece ? (rows.find((one) => one.piece.id === chosen)?.name ?? '') : ''}
						onChoose={choose}
						onWrite={write}
						writing={
							writing && piece?.type === 'words' ? (
								<WriteHere
									key={piece.id}
									piece={piece}
									languages={preview?.languages ?? []}
									onChange={(says) => changePiece({ ...piece, says }, 'wrote')}
									onDone={() => setWriting(false)}
								/>
							) : null
						}
						onColumn={(pieceId, column, width) => {
							const table = pieceOf(layout, pieceId)
							if (table?.type === 'lines')
								changePiece(
									{ ...table, columns: table.columns.map((own) => (own.id === column ? { ...own, width } : own)) },
									'made a column wider or narrower',
								)
						}}
					/>
					<aside aria-label="Settings" className="scrolls min-h-0 px-4 py-3">
						{piece ? (
							<PieceSettings
								key={piece.id}
								piece={piece}
								top={layout.head.includes(piece) ? 'head' : layout.foot.includes(piece) ? 'foot' : null}
								findings={findings.filter((one) => one.piece === piece.id)}
								onChange={changePiece}
								onCopy={copy}
								onRemove={remove}
								onMove={move}
							/>
						) : (
							<WholeSettings layout={layout} findings={findings} onChange={change} onChoose={choose} />
						)}
					</aside>
				</div>
				<KeysFooter
					keys={[
						['↑↓', 'piece'],
						['Alt ↑↓', 'move it'],
						['Enter', 'write on the paper'],
						['A', 'put one in'],
						['C', 'copy'],
						['J K', 'other paper'],
						['?', 'keys'],
					]}
					status={saving.busy ? 'keeping …' : steps ? `kept as a draft: ${steps.words}` : 'as released'}
				/>
			</div>
			<EditorAsks
				{...{ asking, setAsking, row, versions, paper, hardest, saving, elsewhere, setTrouble, add }}
				kind={layout.kind}
				below={piece === null ? null : pieceTypes[piece.type].name.toLowerCase()}
				inMaking={steps !== null}
				stops={findings.filter(({ level }) => level === 'stop').map(({ words }) => words)}
				seenName={preview?.seen.name ?? 'The paper in view'}
			/>
		</MakingContext>
	)
}
