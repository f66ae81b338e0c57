import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { bringBack, release, renameALayout, sendTrial, throwLayoutAway } from '@/app/acts/layouts'
import type { useSaving } from '@/app/layoutParts/keeping'
import { formatTime } from '@/core/format'
import type { Outcome } from '@/core/outcome'
import { typesFor } from '@/layout/edit'
import type { PaperKind } from '@/layout/fieldTypes'
import { pieceTypes } from '@/layout/pieceTypes'
import type { PieceType } from '@/layout/schema'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { KeysAsk } from '@/ui/KeysAsk'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'

export type Asking = 'add' | 'release' | 'versions' | 'keys' | 'name' | 'throw' | 'test' | null
export type Version = { version: number; note: string; released_at: string; released_by: string; papers: number }
/** A layout with the version that was released last; 0 for none. */
export type LayoutMade = { id: number; name: string; version: number; used: string }
type Props = {
	asking: Asking
	setAsking: (asking: Asking) => void
	row: LayoutMade
	versions: Version[]
	kind: PaperKind
	/** The piece below which one is put in; null for the end. */
	below: string | null
	/** Whether something is in the making since the last version. */
	inMaking: boolean
	/** What keeps the paper in view from being right, in words. */
	stops: string[]
	/** Which paper is in view, and its name. */
	paper: number
	seenName: string
	hardest: readonly unknown[]
	saving: ReturnType<typeof useSaving>
	elsewhere: (work: () => Promise<Outcome>) => Promise<boolean>
	setTrouble: (words: string) => void
	add: (type: PieceType) => void
}

/** What the editor of a layout asks: which piece, what a release changes, an earlier version, a name, a test message. */
export function EditorAsks(props: Props) {
	const { asking, setAsking, row, versions, kind, below, inMaking, stops, paper, seenName, hardest, saving } = props
	const { elsewhere, setTrouble, add } = props
	const [told, setTold] = useState('')
	const router = useRouter()
	return (
		<>
			<Ask
				open={asking === 'add'}
				onClose={() => setAsking(null)}
				title={below ? `A piece below ${below}` : 'A piece at the end'}
			>
				<div className="grid grid-cols-2 gap-2">
					{typesFor(kind).map((type) => (
						<Button key={type} onClick={() => add(type)}>
							{pieceTypes[type].name}
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
						<Notice tone="stop">{`Seen on this paper: ${stops.join(' ')}`}</Notice>
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
				{inMaking && (
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
					{`${seenName} goes with its letter to the firm’s own address, as its customer would find it, with the trial mark on every page. It can go to nobody else.`}
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
			<KeysAsk open={asking === 'keys'} onClose={() => setAsking(null)} keys={keysHere} />
		</>
	)
}

const keysHere = [
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
] as const
