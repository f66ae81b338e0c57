'use client'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { bringBack, release, renameALayout, sendTrial, stepLayout, throwLayoutAway } from '@/app/acts/layouts'
import { useSaving } from '@/app/layoutParts/keeping'
import { type Making, MakingContext } from '@/app/layoutParts/making'
import { SeenPaper, useSeen } from '@/app/layoutParts/SeenPaper'
import type { RunSeen } from '@/app/layoutParts/SeenWith'
import { formatTime } from '@/core/format'
import type { Outcome } from '@/core/outcome'
import type { OwnField } from '@/core/ownFields'
import {
	copyPiece,
	insertPiece,
	movePiece,
	newPiece,
	outline,
	pieceNames,
	pieceOf,
	removePiece,
	replacePiece,
	type Spot,
	spotOf,
	stepPiece,
	typesFor,
} from '@/layout/edit'
import type { Layout, Piece, PieceType } from '@/layout/schema'
import { fieldsOf } from '@/layout/values'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { KeyHint } from '@/ui/KeyHint'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { Outline } from './Outline'
import { PieceSettings } from './PieceSettings'
import { WholeSettings } from './WholeSettings'
import { WriteHere } from './WriteHere'

type Version = { version: number; note: string; released_at: string; released_by: string; papers: number }
type Props = {
	/** `form` is the newest form that it was made of. */
	row: { id: number; name: string; noun: string; version: number; used: string; form: number | null }
	/** What is in the making, or the latest version. */
	kept: Layout
	/** Where it stands, by a number that it never has twice. */
	at: number
	steps: { first: number; last: number; words: string } | null
	versions: Version[]
	firstPaper: number
	hardest: { id: number; name: string; why: string[] }[]
	/** The firm's own fields. */
	own: OwnField[]
	/** Runs with papers of the kind, the latest first. */
	runs: RunSeen[]
}

/** The table at which a layout is made. Every change is drawn at once and kept by itself as a step that can be taken back. */
export function Editor({ row, kept, at, steps, versions, firstPaper, hardest, own, runs }: Props) {
	const [layout, setLayout] = useState(kept)
	const [chosen, setChosen] = useState<string | null>(null)
	/** Whether the chosen piece's words are being written on the paper. */
	const [writing, setWriting] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [asking, setAsking] = useState<'add' | 'release' | 'versions' | 'keys' | 'name' | 'throw' | 'test' | null>(null)
	const [told, setTold] = useState('')
	const router = useRouter()
	const saving = useSaving(row.id, at, setTrouble)
	// What the server has is taken over where this page asked for it: a step taken back, a version brought back. What it says of changes
	// made here may be older than the page, and is not heeded; nor is what it says before it comes to the step that was asked for.
	const [awaited, setAwaited] = useState<number | null>(null)
	useEffect(() => {
		if (awaited !== at) return
		setAwaited(null)
		setLayout(kept)
	}, [kept, at, awaited])
	/** What the server is asked to do with the layout, one after the other. */
	const acts = useRef<Promise<boolean>>(Promise.resolve(true))
	/** Has the server change the layout, once all is kept, and takes over what it made of it: where it stands by what the server gives. */
	const elsewhere = (work: () => Promise<Outcome>): Promise<boolean> => {
		acts.current = acts.current.then(async () => {
			await saving.settled()
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
			if (!outcome.ok || !outcome.id) return outcome.ok
			saving.takeOver(outcome.id)
			setAwaited(outcome.id)
			return true
		})
		return acts.current
	}

	const change = useCallback(
		(next: Layout, words: string) => {
			if (next === layout) return
			setAwaited(null)
			setLayout(next)
			saving.keep(next, words)
		},
		[layout, saving],
	)
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
	const said = JSON.stringify({ reckoned, own })
	const fields = useMemo(() => {
		const kept: { reckoned: typeof reckoned; own: typeof own } = JSON.parse(said)
		return fieldsOf(kept, kept.own)
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
				`moved ${pieceNames[piece?.type ?? 'words'].toLowerCase()} ${by === 1 ? 'down' : 'up'}`,
			)
	}
	const remove = () => {
		if (!chosen || !piece) return
		change(removePiece(layout, chosen), `took ${pieceNames[piece.type].toLowerCase()} away`)
		setChosen(null)
	}
	const copy = () => {
		if (!chosen || !piece) return
		const made = copyPiece(layout, chosen)
		change(made.layout, `copied ${pieceNames[piece.type].toLowerCase()}`)
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
		change(insertPiece(layout, inside ?? column ?? below, made), `put ${pieceNames[type].toLowerCase()} in`)
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
	const stops = findings.filter(({ level }) => level === 'stop')
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
				<footer className="flex flex-wrap items-center gap-x-4 border-t border-rule px-4 py-1.5 text-sm text-mute max-[1100px]:gap-x-2">
					{[
						['↑↓', 'piece'],
						['Alt ↑↓', 'move it'],
						['Enter', 'write on the paper'],
						['A', 'put one in'],
						['C', 'copy'],
						['J K', 'other paper'],
						['?', 'keys'],
					].map(([key = '', words]) => (
						<span key={key} className="whitespace-nowrap">
							<KeyHint>{key}</KeyHint> {words}
						</span>
					))}
					<span role="status" className="ml-auto">
						{saving.busy ? 'keeping …' : steps ? `kept as a draft: ${steps.words}` : 'as released'}
					</span>
				</footer>
			</div>
			<Ask
				open={asking === 'add'}
				onClose={() => setAsking(null)}
				title={piece ? `A piece below ${pieceNames[piece.type].toLowerCase()}` : 'A piece at the end'}
			>
				<div className="grid grid-cols-2 gap-2">
					{typesFor(layout.kind).map((type) => (
						<Button key={type} onClick={() => add(type)}>
							{pieceNames[type]}
						</Button>
					))}
				</div>
			</Ask>
			<Ask
				open={asking === 'release'}
				onClose={() => setAsking(null)}
				title={`Release version ${row.version + 1} of ${row.name}`}
			>
				<form
					className="space-y-3"
					action={async (form) => {
						const note = String(form.get('note') ?? '')
						await elsewhere(() => release(row.id, saving.at(), note))
						setAsking(null)
					}}
				>
					{stops.length > 0 ? (
						<Notice tone="stop">{`Seen on this paper: ${stops.map(({ words }) => words).join(' ')}`}</Notice>
					) : (
						<p className="text-mute">
							{`It is tried on the ${hardest.length} hardest papers of the books first. ${row.used ? `From then on ${row.used} get it; drafts in open runs show the change and ask before they are numbered.` : 'Nobody gets it until it is chosen for them.'}`}
						</p>
					)}
					<TextField label="What changed, in a line" name="note" required maxLength={200} />
					<Button kind="main" type="submit">
						{`Release version ${row.version + 1}`}
					</Button>
				</form>
			</Ask>
			<Ask open={asking === 'versions'} onClose={() => setAsking(null)} title={`Versions of ${row.name}`} wide>
				<table className="w-full text-sm">
					<tbody>
						{versions.map((version) => (
							<tr key={version.version} className="border-b border-rule-soft">
								<td className="figures py-1.5 pr-3">{version.version}</td>
								<td className="pr-3">{version.note}</td>
								<td className="pr-3 text-mute">{`${version.released_by}, ${formatTime(version.released_at)}`}</td>
								<td className="pr-3 text-mute">{version.papers === 0 ? 'no papers' : `${version.papers} papers`}</td>
								<td className="whitespace-nowrap text-right">
									<a
										className="mr-3 text-plum hover:underline"
										href={`/api/layouts/${row.id}/pdf?version=${version.version}&paper=${paper}`}
										target="_blank"
										rel="noreferrer"
									>
										See it
									</a>
									<Link
										className="mr-3 text-plum hover:underline"
										href={`/layouts/${row.id}/compare?from=${version.version}&paper=${paper}`}
									>
										Compare
									</Link>
									<button
										type="button"
										className="text-plum hover:underline"
										onClick={async () => {
											await elsewhere(() => bringBack(row.id, saving.at(), version.version))
											setAsking(null)
										}}
									>
										Bring it back
									</button>
								</td>
							</tr>
						))}
						{versions.length === 0 && (
							<tr>
								<td className="py-2 text-mute">Nothing of it is released yet.</td>
							</tr>
						)}
					</tbody>
				</table>
				<p className="mt-4">
					<a href={`/api/layouts/${row.id}/file`} className="text-plum hover:underline">
						Export it with its pictures, as one file
					</a>
				</p>
				{steps && (
					<p className="mt-4">
						<Button kind="grave" onClick={() => setAsking('throw')}>
							{row.version === 0 ? 'Throw this layout away' : 'Throw away what is in the making'}
						</Button>
					</p>
				)}
			</Ask>
			<Ask open={asking === 'throw'} onClose={() => setAsking(null)} title="Throw away what is in the making?">
				<p className="mb-4 text-mute">
					{row.version === 0
						? 'It was never released; nothing of it is left.'
						: `Version ${row.version} stays as it is; every change since is gone.`}
				</p>
				<Button
					kind="grave"
					onClick={async () => {
						const gone = await answered(elsewhere(() => throwLayoutAway(row.id, saving.at())))
						setAsking(null)
						if (gone && row.version === 0) router.push('/layouts')
					}}
				>
					Throw it away
				</Button>
			</Ask>
			<Ask open={asking === 'name'} onClose={() => setAsking(null)} title="What is it called?">
				<form
					className="flex items-end gap-2"
					action={async (form) => {
						const outcome = await answered(renameALayout(row.id, String(form.get('name') ?? '')))
						setTrouble(outcome.ok ? '' : outcome.message)
						setAsking(null)
					}}
				>
					<TextField label="Name" name="name" defaultValue={row.name} required maxLength={60} />
					<Button kind="main" type="submit">
						Rename
					</Button>
				</form>
			</Ask>
			<Ask
				open={asking === 'test'}
				onClose={() => {
					setAsking(null)
					setTold('')
				}}
				title="Send it to ourselves?"
			>
				<p className="mb-4 text-mute">
					{`${preview?.seen.name ?? 'The paper in view'} goes with its letter to the firm’s own address, as its customer would find it, with the trial mark on every page. It can go to nobody else.`}
				</p>
				{told && <Notice tone="plain">{told}</Notice>}
				<div className="mt-3">
					<Button
						kind="main"
						onClick={async () => {
							await saving.settled()
							const outcome = await answered(sendTrial(row.id, paper))
							setTold(outcome.ok ? (outcome.words ?? '') : outcome.message)
						}}
					>
						Send it to ourselves
					</Button>
				</div>
			</Ask>
			<Ask open={asking === 'keys'} onClose={() => setAsking(null)} title="Keys of this screen">
				<dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
					{[
						['↑ ↓', 'the piece above or below'],
						['Enter', 'write the words of the piece on the paper; Escape ends it'],
						['Alt ↑ ↓', 'move the piece, out of a box and into the next column too'],
						['A', 'put a piece in below'],
						['C', 'copy it'],
						['Delete', 'take it away'],
						['Escape', 'settings of the whole paper'],
						['Z  Y', 'take a change back, do it again'],
						['J  K', 'see it with the next or the last paper'],
						['P', 'proof sheet'],
						['G', 'release'],
					].map(([key = '', words]) => (
						<div key={key} className="contents">
							<dt>
								<KeyHint>{key}</KeyHint>
							</dt>
							<dd>{words}</dd>
						</div>
					))}
				</dl>
			</Ask>
		</MakingContext>
	)
}
