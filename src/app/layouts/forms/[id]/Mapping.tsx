'use client'
import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import { bringANewerForm, makeLayoutOfForm } from '@/app/acts/forms'
import { FieldList, fieldsFor } from '@/app/layoutParts/FieldPick'
import { SeenPaper, useSeen } from '@/app/layoutParts/SeenPaper'
import type { RunSeen } from '@/app/layoutParts/SeenWith'
import type { OwnField } from '@/core/ownFields'
import type { Change } from '@/forms/carryOver'
import type { Form } from '@/forms/form'
import { type Answers, type Listed, nameKey, type PlaceholderAnswer, understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { layoutOfForm } from '@/forms/toLayout'
import { baseOf, type KindName } from '@/kinds'
import { recordOf } from '@/layout/fields'
import type { Of } from '@/layout/fieldTypes'
import { fieldsOf } from '@/layout/values'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import { KeysAsk } from '@/ui/KeysAsk'
import { KeysFooter } from '@/ui/KeysFooter'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { FormAsk } from '../../FormAsk'
import { MarkList } from './MarkList'
import { NotAsItWas } from './NotAsItWas'
import { PointAt } from './PointAt'
import { PutAway } from './PutAway'
import { useAnswers } from './useAnswers'

type Props = {
	row: {
		id: number
		name: string
		kind: KindName
		noun: string
		fileName: string
		/** The layout that was made of it, or of the form before it. */
		layout: number | null
		version: number
		/** Whether the layout was made of this very form. */
		made: boolean
		/** A newer one of it. */
		newer: number | null
	}
	form: Form
	changes: Change[]
	kept: Answers
	/** Whether the layout was changed on the paper since it was made. */
	changedSince: boolean
	ownFields: OwnField[]
	firstPaper: number
	hardest: { id: number; name: string; why: string[] }[]
	runs: RunSeen[]
}

/** The heart of a form's way to a layout: its marks on one side, our fields on the other, and between them the form with a real document. */
export function Mapping({ row, form, changes, kept, changedSince, ownFields, firstPaper, hardest, runs }: Props) {
	const [trouble, setTrouble] = useState('')
	const { answers, past, busy, settled, say, undo } = useAnswers(row.id, kept, setTrouble)
	const [chosen, setChosen] = useState<string | null>(null)
	const [shown, setShown] = useState<string | null>(null)
	const [asking, setAsking] = useState<'point' | 'make' | 'keys' | 'newer' | null>(null)
	const router = useRouter()

	const fields = useMemo(() => fieldsOf({ reckoned: [] }, ownFields), [ownFields])
	const vocabulary = useMemo(() => vocabularyOf(fields.values(), baseOf(row.kind)), [fields, row.kind])
	const understood = useMemo(() => understand(form, answers, vocabulary), [form, answers, vocabulary])
	const made = useMemo(
		() => layoutOfForm(understood, answers, baseOf(row.kind), row.name, fields),
		[understood, answers, row, fields],
	)
	const seen = useSeen(made.layout, firstPaper)
	const { preview } = seen
	const marks = useMemo(() => withChanges(understood.marks, changes), [understood.marks, changes])
	const rowOf = useMemo(() => {
		const out = new Map<string, (typeof understood.rows)[number]>()
		for (const mark of marks)
			for (const { block } of mark.spots) {
				const found = understood.rowOfBlock.get(block)
				if (found) out.set(mark.key, found)
			}
		return out
	}, [marks, understood])
	const current =
		marks.find(({ key }) => key === chosen) ?? marks.find(({ key }) => !answers.marks[key]) ?? marks[0] ?? null
	const open = marks.filter(({ key }) => !answers.marks[key])
	const offers = open.filter(({ offer }) => offer)
	const examples = preview?.examples ?? {}
	const record = current?.source ? (recordOf[current.source] as Of) : undefined
	const listed = fieldsFor(fields, baseOf(row.kind), record).filter(
		({ type }) => current?.manner !== 'picture' || type === 'picture',
	)
	const answer = current ? answers.marks[current.key] : undefined

	const give = (mark: Listed, given: PlaceholderAnswer | null) => {
		say([{ about: 'marks', key: mark.key, answer: given }])
		if (given === null) return
		const at = marks.indexOf(mark)
		const next = [...marks.slice(at + 1), ...marks.slice(0, at)].find(({ key }) => !answers.marks[key])
		setChosen(next?.key ?? mark.key)
		setShown(null)
	}
	const take = (mark: Listed) => mark.offer && give(mark, { field: mark.offer.field })
	const takeAll = () =>
		offers.length > 0 &&
		say(
			offers.flatMap(({ key, offer }) =>
				offer ? [{ about: 'marks' as const, key, answer: { field: offer.field } }] : [],
			),
		)
	const walk = (by: 1 | -1) => {
		const next = current ? marks[marks.indexOf(current) + by] : undefined
		if (next) {
			setChosen(next.key)
			setShown(null)
		}
	}
	const apart = () => {
		if (current && (current.spots.length > 1 || current.others > 0 || current.apart))
			say([{ about: 'apart', key: nameKey(current.key), answer: !(current.apart || current.others > 0) }])
	}
	const make = async () => {
		await settled()
		const outcome = await answered(makeLayoutOfForm(row.id))
		setAsking(null)
		if (outcome.ok) router.push(`/layouts/${outcome.id}`)
		else setTrouble(outcome.message)
	}
	useKeys({
		ArrowDown: () => walk(1),
		ArrowUp: () => walk(-1),
		Enter: () => current && take(current),
		a: takeAll,
		t: () => current && give(current, { is: 'text' }),
		n: () => current && give(current, { is: 'nothing' }),
		e: apart,
		w: () => setAsking('point'),
		z: undo,
		'/': () => document.querySelector<HTMLInputElement>('[data-fields] input')?.focus(),
		j: seen.next,
		k: seen.before,
		g: () => setAsking('make'),
		'?': () => setAsking('keys'),
	})
	const stops = (preview?.findings ?? []).flatMap(({ level, words }) => (level === 'stop' ? [words] : []))
	const highlighted = shown ?? (current?.spots[0] ? (made.pieceOf[current.spots[0].block] ?? null) : null)
	return (
		<div className="flex h-full min-h-0 flex-col">
			<header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-4 py-2.5">
				<h1 className="text-xl font-semibold">{row.name}</h1>
				<p className="min-w-0 flex-1 truncate text-mute">
					{`${row.noun}, of your form `}
					<a className="text-plum underline" href={`/api/forms/${row.id}/file`}>
						{row.fileName}
					</a>
					{`; ${marks.length - open.length} of ${marks.length} marks say what they are`}
				</p>
				<div className="ml-auto flex gap-2">
					<Button hint="Z" disabled={past.length === 0} onClick={undo}>
						Undo
					</Button>
					<Button hint="W" onClick={() => setAsking('point')}>
						Point at words
					</Button>
					{row.layout !== null ? (
						<>
							<Button onClick={() => setAsking('newer')}>A newer form</Button>
							<Link className={buttonLook()} href={`/layouts/${row.layout}`}>
								Its layout
							</Link>
						</>
					) : (
						<PutAway id={row.id} />
					)}
					<Button kind="main" hint="G" onClick={() => setAsking('make')}>
						{row.made ? 'Make the layout anew' : 'Make the layout'}
					</Button>
				</div>
			</header>
			{trouble && (
				<div className="flex items-center gap-3 px-4 pt-2">
					<Notice tone="stop">{trouble}</Notice>
					<Button onClick={() => window.location.reload()}>Read the page anew</Button>
				</div>
			)}
			{row.newer !== null && (
				<div className="px-4 pt-2">
					<Notice tone="look">
						A newer one of this form was brought in.{' '}
						<Link href={`/layouts/forms/${row.newer}`} className="underline">
							Go to it
						</Link>
					</Notice>
				</div>
			)}
			<div className="grid min-h-0 flex-1 grid-cols-[320px_minmax(0,1fr)_290px] max-[1100px]:grid-cols-[270px_minmax(0,1fr)_240px]">
				<section aria-label="Marks" className="flex min-h-0 flex-col bg-sheet">
					<div className="flex items-center gap-2 border-b border-rule px-3 py-2 text-sm">
						<h2 className="flex-1 font-semibold">Marks of the form</h2>
						{offers.length > 0 && <Button hint="A" onClick={takeAll}>{`Take the ${offers.length} offered`}</Button>}
					</div>
					{marks.length === 0 && (
						<p className="px-3 py-2 text-mute">
							No marks were found in the form. A mark is a merge field, a content control or a name in brackets; or
							point at words of the text.
						</p>
					)}
					<MarkList
						marks={marks}
						rows={understood.rows}
						answers={answers}
						fields={fields}
						examples={examples}
						changes={changes}
						sources={understood.sources}
						rowOf={rowOf}
						chosen={current?.key ?? null}
						onChoose={(key) => {
							setChosen(key)
							setShown(null)
						}}
						onTake={take}
						onRow={(which, to) => say([{ about: 'rows', key: which.key, answer: to }])}
					/>
				</section>
				<SeenPaper
					kind={row.kind}
					seen={seen}
					hardest={hardest}
					runs={runs}
					chosen={highlighted}
					name={shown ? 'here' : (current?.name ?? '')}
					onChoose={(piece) => {
						const mark = marks.find(({ spots }) => spots.some(({ block }) => made.pieceOf[block] === piece))
						if (mark) setChosen(mark.key)
						setShown(piece)
					}}
					onWrite={() => {}}
					writing={null}
					onColumn={() => {}}
				/>
				<aside aria-label="Our fields" className="flex min-h-0 flex-col">
					<div className="border-b border-rule px-3 py-2 text-sm">
						<h2 className="truncate font-semibold">{current ? `What is “${current.name}”?` : 'Our fields'}</h2>
						{current && (
							<div className="mt-1 flex flex-wrap gap-1">
								<Button hint="T" onClick={() => give(current, { is: 'text' })}>
									Text
								</Button>
								<Button hint="N" onClick={() => give(current, { is: 'nothing' })}>
									Nothing
								</Button>
								{(current.spots.length > 1 || current.others > 0 || current.apart) && (
									<Button hint="E" onClick={apart}>
										{current.apart || current.others > 0 ? 'All of this name alike' : 'Each place by itself'}
									</Button>
								)}
								{current.manner === 'pointed' && (
									<Button
										onClick={() => {
											const [id] =
												Object.entries(answers.points).find(
													([, { paragraph, from, to }]) => paragraph.slice(from, to) === current.shown,
												) ?? []
											if (id)
												say([
													{ about: 'points', key: id, answer: null },
													{ about: 'marks', key: current.key, answer: null },
												])
										}}
									>
										No mark
									</Button>
								)}
								{answer && <Button onClick={() => give(current, null)}>Not said yet</Button>}
							</div>
						)}
					</div>
					<div className="flex min-h-0 flex-[3] flex-col px-3 py-2" data-fields>
						{current && (
							<FieldList
								key={current.key}
								fields={listed}
								examples={examples}
								tall="flex-1"
								chosen={answer ? ('field' in answer ? answer.field : undefined) : current.offer?.field}
								onPick={(field) => give(current, { field })}
								onLeave={() => {}}
							/>
						)}
					</div>
					<div className="scrolls min-h-0 flex-[2] border-t border-rule bg-sheet">
						<NotAsItWas
							notes={made.notes}
							pieceOf={made.pieceOf}
							regions={preview?.regions ?? []}
							changes={changes}
							stops={open.length === 0 ? stops : []}
							onShow={setShown}
						/>
					</div>
				</aside>
			</div>
			<KeysFooter
				keys={[
					['↑↓', 'mark'],
					['Enter', 'take what is offered'],
					['/', 'find a field'],
					['J K', 'other paper'],
					['?', 'keys'],
				]}
				status={busy ? 'keeping …' : 'kept'}
			/>
			<PointAt
				open={asking === 'point'}
				form={understood.form}
				onClose={() => setAsking(null)}
				onPoint={(point) => {
					say([{ about: 'points', key: `${Date.now()}`, answer: point }])
					setAsking(null)
				}}
			/>
			<Ask
				open={asking === 'make'}
				onClose={() => setAsking(null)}
				title={row.made ? 'Make the layout anew of its form' : 'Make a layout of the form'}
			>
				<div className="space-y-3">
					{open.length > 0 && (
						<Notice tone="look">
							{`${open.length === 1 ? 'One mark says' : `${open.length} marks say`} nothing yet: ${open
								.slice(0, 6)
								.map(({ name }) => name)
								.join(
									', ',
								)}${open.length > 6 ? ' …' : ''}. They stand on the paper as written, and keep the layout from being released.`}
						</Notice>
					)}
					{changedSince && (
						<Notice tone="look">
							The layout was changed on the paper since it was made. Made anew, it has none of that; Undo there brings
							it back.
						</Notice>
					)}
					<p className="text-mute">
						{row.layout === null
							? `It becomes a layout like any other, “${row.name}”, in the making until you release it.`
							: `It becomes the next step of “${row.name}” in the making; released versions stay as they are.`}
					</p>
					<Button kind="main" onClick={make}>
						{row.made ? 'Make it anew' : 'Make it'}
					</Button>
				</div>
			</Ask>
			<FormAsk
				open={asking === 'newer'}
				onClose={() => setAsking(null)}
				title={`A newer form of ${row.name}`}
				about="Marks that stand where they stood keep their fields. Those that are new, renamed, elsewhere or gone are shown."
				bring={(form) => bringANewerForm(row.id, form)}
			/>
			<KeysAsk open={asking === 'keys'} onClose={() => setAsking(null)} keys={keyWords} />
		</div>
	)
}

const keyWords: [string, string][] = [
	['↑ ↓', 'The mark before, the next'],
	['Enter', 'Take the field that is offered'],
	['A', 'Take all that are offered'],
	['/', 'Look for a field; Enter gives it to the mark'],
	['T', 'It is text, and stays'],
	['N', 'Nothing stands there'],
	['E', 'Each place of this name by itself, or all alike'],
	['W', 'Point at words of the form'],
	['Z', 'Take back what was said last'],
	['J K', 'See it with the next paper, the one before'],
	['G', 'Make the layout'],
]

/** A mark that stands where another stood in the form before is offered what that one had been given. */
const withChanges = (marks: readonly Listed[], changes: readonly Change[]): Listed[] =>
	marks.map((mark) => {
		const change = changes.find((one) => one.is === 'renamed' && one.key === mark.key)
		return change?.is === 'renamed' && change.was && 'field' in change.was
			? { ...mark, offer: { field: change.was.field, by: 'the form before' } }
			: mark
	})
