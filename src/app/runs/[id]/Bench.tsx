'use client'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useMemo, useState, useTransition } from 'react'
import { close, giveBack, goOn, halt, hold, looked, markPrinted, orderBy, release, resume, undo } from '@/app/acts'
import { ChangeAsk } from '@/app/documents/ChangeAsk'
import { isPanelTab, Panel, type PanelTab, usePanel } from '@/app/documents/Panel'
import { formatTime } from '@/core/format'
import { type Numbering, numberingName, numberings } from '@/core/numbering'
import type { BenchView } from '@/runs/benchView'
import type { PanelView } from '@/runs/panel'
import type { NextAct, Stage, Strip } from '@/runs/tally'
import type { Job } from '@/store/jobs'
import { Ask } from '@/ui/Ask'
import { Button, buttonLook } from '@/ui/Button'
import { TextArea } from '@/ui/Field'
import { KeyHint } from '@/ui/KeyHint'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { BenchList, type FilterName, filters } from './BenchList'
import { DivideAsk, MergeAsk } from './DivideAsks'
import { Progress, useJob } from './Progress'
import { TallyStrip } from './TallyStrip'

type Props = {
	run: {
		id: number
		state: string
		noun: string
		title: string
		about: string
		ended: string
		numbering: Numbering
		/** What was done in it, by whom and when, once it is closed. */
		record: { at: string; clerk: string; words: string }[]
	}
	strips: Strip[]
	rows: BenchView[]
	count: number
	next: NextAct
	range: string
	job: Job | null
	mail: 'practice' | 'real'
	byMail: number
	/** Changes whenever a row may have changed. */
	version: string
	/** Home currency; others are named in the list. */
	home: string
}
type Asking = 'hold' | 'change' | 'divide' | 'merge' | 'keys' | 'send' | 'close' | 'give back' | null

const query = () => new URLSearchParams(typeof window === 'undefined' ? '' : window.location.search)

/** The bench: the run's one next action, its tally, its list, and what the selected document is. */
export function Bench(props: Props) {
	const { run, strips, next, range, mail } = props
	const router = useRouter()
	const job = useJob(run.id, props.job)
	const rows = useRows(run.id, props)
	const [filter, setFilter] = useState<FilterName>('All')
	const [words, setWords] = useState('')
	const [selectedId, setSelectedId] = useState<number | null>(props.rows[0]?.id ?? null)
	const [tab, setTab] = useState<PanelTab>('paper')
	const [asking, setAsking] = useState<Asking>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	useEffect(() => {
		const wanted = query()
		if (wanted.has('doc')) setSelectedId(Number(wanted.get('doc')))
		const wantedTab = wanted.get('tab')
		if (isPanelTab(wantedTab)) setTab(wantedTab)
	}, [])
	useEffect(() => {
		const wanted = query()
		if (selectedId !== null) wanted.set('doc', String(selectedId))
		wanted.set('tab', tab)
		window.history.replaceState(null, '', `?${wanted}`)
	}, [selectedId, tab])

	const shown = useMemo(() => {
		const plain = words.trim().toLowerCase()
		return rows.filter(
			(row) =>
				filters[filter](row) &&
				`${row.customer} ${row.orders} ${row.number} ${row.currency} ${row.brief}`.toLowerCase().includes(plain),
		)
	}, [rows, filter, words])
	const first = rows[0]?.id
	useEffect(() => {
		if (selectedId === null && first !== undefined) setSelectedId(first)
	}, [selectedId, first])
	const index = shown.findIndex(({ id }) => id === selectedId)
	const selected = shown[index]
	const view = usePanel(selectedId, props.version)
	const going = job !== null && !['done', 'stopped', 'failed'].includes(job.state)

	const act = useCallback(
		(work: () => Promise<{ ok: true } | { ok: false; message: string }>) =>
			start(async () => {
				const outcome = await work()
				setTrouble(outcome.ok ? '' : outcome.message)
			}),
		[],
	)
	const move = (by: number) => {
		const to = shown[Math.min(shown.length - 1, Math.max(0, index + by))]
		if (to) setSelectedId(to.id)
	}
	const nextFlagged = () => {
		const after = [...shown.slice(index + 1), ...shown.slice(0, index + 1)]
		const flagged = after.find((row) => row.stage === 'draft' && row.level !== 'clear' && !row.held && !row.looked)
		if (flagged) setSelectedId(flagged.id)
	}
	const toggleLooked = () => {
		if (selected?.stage === 'draft' && selected.level === 'look') act(() => looked(selected.id, !selected.looked))
	}
	const toggleHeld = () => {
		if (selected?.stage !== 'draft' || run.state !== 'open') return
		if (selected.held) act(() => release(selected.id))
		else setAsking('hold')
	}
	const onDraft = (question: 'change' | 'divide' | 'merge') => {
		if (selected?.stage === 'draft' && run.state === 'open' && view && !view.why) setAsking(question)
	}
	const openChange = () => onDraft('change')
	const openDivide = () => view && view.lines.length > 1 && onDraft('divide')
	const openMerge = () => view && view.beside.length > 0 && onDraft('merge')
	const goNext = () => {
		if (job?.state === 'paused') return act(() => resume(run.id))
		if (busy || going || run.state !== 'open') return
		if (next.act === 'number' || next.act === 'make')
			act(() => goOn(run.id, next.act === 'number' ? 'number' : 'make', next.count))
		else if (next.act === 'send') setAsking('send')
		else if (next.act === 'print')
			act(() => markPrinted(rows.filter(({ stage }) => stage === 'to print').map(({ id }) => id)))
		else if (next.act === 'read') {
			const held = rows.find(({ stage }) => stage === 'to read')
			if (held) setSelectedId(held.id)
			setTab('message')
		} else if (next.act === 'decide') router.push('/postroom')
		else if (next.act === 'solve') setFilter('Stop')
		else if (next.act === 'close') setAsking('close')
	}
	useKeys({
		j: () => move(1),
		k: () => move(-1),
		ArrowDown: () => move(1),
		ArrowUp: () => move(-1),
		n: nextFlagged,
		Space: toggleLooked,
		h: toggleHeld,
		e: openChange,
		d: () => openDivide(),
		m: () => openMerge(),
		w: () => setTab(tab === 'working' ? 'paper' : 'working'),
		g: goNext,
		'/': () => document.getElementById('filter')?.focus(),
		'?': () => setAsking('keys'),
		o: () => selected && router.push(`/documents/${selected.id}`),
	})
	const hints: Partial<Record<Stage['name'], string>> = {
		...(range ? { Numbered: range } : {}),
		...(strips[0]?.stages[3]?.begun ? {} : { Made: 'a PDF each' }),
		...(strips[0]?.stages[4]?.begun ? {} : { Sent: 'by mail, or printed' }),
	}
	return (
		<div className="flex h-full min-h-0 flex-col">
			<header className="flex items-center gap-3 px-5 pt-3 pb-2.5">
				<h1 className="text-xl font-semibold whitespace-nowrap">{run.title}</h1>
				<p className="min-w-0 truncate text-mute">{run.ended || run.about}</p>
				<div className="ml-auto flex items-center gap-2">
					{run.state === 'open' &&
						(next.act === 'number' || next.act === 'solve') &&
						rows.every(({ number }) => !number) &&
						!going && (
							<Button onClick={() => setAsking('give back')}>
								{run.noun === 'statement' ? 'Drop all' : 'Give all back'}
							</Button>
						)}
					{going ? (
						<Progress
							job={job}
							onHalt={(how) => act(() => halt(run.id, how))}
							onResume={() => act(() => resume(run.id))}
						/>
					) : (
						<>
							{next.act === 'print' && (
								<a href={`/api/print?run=${run.id}`} target="_blank" rel="noreferrer" className={buttonLook()}>
									One PDF of all to print
								</a>
							)}
							<NumberingChoice
								off={busy || next.act !== 'number' || run.noun !== 'invoice'}
								value={run.numbering}
								onChoose={(by) => act(() => orderBy(run.id, by))}
							/>
							<NextButton next={next} noun={run.noun} mail={mail} off={busy} onGo={goNext} />
						</>
					)}
				</div>
			</header>
			<div className="space-y-1 px-5 pb-3">
				{job?.state === 'failed' && <Notice tone="stop">{job.words}</Notice>}
				{job?.state === 'stopped' && <Notice tone="look">{job.words} It goes on from there when you ask again.</Notice>}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				{strips.map((strip, place) => (
					<TallyStrip
						key={strip.currency}
						unit={run.noun === 'statement' ? 'item' : 'order'}
						runId={run.id}
						strip={strip}
						hints={place === 0 ? hints : {}}
						fixed={run.state !== 'open'}
						small={place > 0}
						onDocument={(id) => {
							setFilter('All')
							setWords('')
							setSelectedId(id)
						}}
					/>
				))}
			</div>
			{run.record.length > 0 && <RunRecord record={run.record} />}
			<div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_clamp(300px,31vw,520px)] border-t border-rule">
				<BenchList
					rows={rows}
					shown={shown}
					filter={filter}
					onFilter={setFilter}
					words={words}
					onWords={setWords}
					index={index}
					onSelect={(place) => setSelectedId(shown[place]?.id ?? null)}
					gathering={run.state === 'gathering'}
					home={props.home}
					noun={run.noun}
				/>
				<aside aria-label="The selected document" className="flex min-h-0 flex-col border-l border-rule">
					{view && <Panel view={view} tab={tab} onTab={setTab} />}
					{view && selected && run.state === 'open' && (
						<Flags
							view={view}
							row={selected}
							onLooked={toggleLooked}
							onHeld={toggleHeld}
							onChange={openChange}
							onDivide={openDivide}
							onMerge={openMerge}
							onUndo={() => act(() => undo(selected.id))}
						/>
					)}
				</aside>
			</div>
			<KeyBar rows={rows} />
			<HoldAsk
				open={asking === 'hold'}
				name={selected?.customer ?? ''}
				onClose={() => setAsking(null)}
				onHold={(reason) => {
					setAsking(null)
					if (selected) act(() => hold(selected.id, reason))
				}}
			/>
			{view && (
				<ChangeAsk
					key={`${view.document.id} ${props.version}`}
					open={asking === 'change'}
					view={view}
					onClose={() => setAsking(null)}
				/>
			)}
			{view && asking === 'divide' && (
				<DivideAsk
					view={view}
					onClose={() => setAsking(null)}
					onDone={(id) => {
						setAsking(null)
						if (id) setSelectedId(id)
					}}
				/>
			)}
			{view && asking === 'merge' && <MergeAsk view={view} onClose={() => setAsking(null)} />}
			<KeysAsk open={asking === 'keys'} onClose={() => setAsking(null)} />
			<SureAsk
				open={asking === 'send'}
				title={`Send ${counted(props.byMail, run.noun)}, each to its own customer?`}
				words={
					mail === 'practice'
						? 'Mail is in practice: every message goes to the practice server on this machine and nowhere else.'
						: 'Mail is real: the messages leave for your customers and cannot be called back.'
				}
				yes={`Send ${counted(props.byMail, run.noun)}`}
				onClose={() => setAsking(null)}
				onYes={() => act(() => goOn(run.id, 'send', next.count))}
			/>
			<SureAsk
				open={asking === 'close'}
				title="Close this run?"
				words={
					run.noun === 'statement'
						? 'A closed run can be read but no longer changed.'
						: 'A closed run can be read but no longer changed. Orders that are held back or stopped wait again for the next run.'
				}
				yes="Close the run"
				onClose={() => setAsking(null)}
				onYes={() => act(() => close(run.id))}
			/>
			<SureAsk
				open={asking === 'give back'}
				title={run.noun === 'statement' ? 'Drop these statements?' : 'Give all orders of this run back?'}
				words={
					run.noun === 'statement'
						? 'Nothing is numbered yet. The drafts with their notes are gone; the ledger stays as it is.'
						: 'Nothing is numbered yet. The orders wait again under To bill, and the drafts with their notes are gone.'
				}
				yes={run.noun === 'statement' ? 'Drop the statements' : 'Give all orders back'}
				onClose={() => setAsking(null)}
				onYes={() => act(() => giveBack(run.id))}
			/>
		</div>
	)
}

/** The run's rows: those that came with the page, and all of a long run once they are fetched. */
function useRows(runId: number, { rows, count, version }: Props): BenchView[] {
	const [all, setAll] = useState<BenchView[]>(rows)
	useEffect(() => {
		if (count <= rows.length) return setAll(rows)
		const stop = new AbortController()
		fetch(`/api/runs/${runId}/rows`, { signal: stop.signal })
			.then((answer) => answer.json())
			.then(setAll)
			.catch(() => {})
		return () => stop.abort()
	}, [runId, count, version])
	return all
}

type NumberingProps = { value: Numbering; off: boolean; onChoose: (by: Numbering) => void }

/** What the drafts are numbered by; choosing puts them in that order at once. */
function NumberingChoice({ value, off, onChoose }: NumberingProps) {
	if (off) return null
	return (
		<label className="flex items-center gap-1.5 text-sm whitespace-nowrap text-mute">
			in order of
			<select
				value={value}
				onChange={(event) => {
					const by = numberings.find((one) => one === event.target.value)
					if (by) onChoose(by)
				}}
				className="rounded border border-rule bg-sheet px-1.5 py-1 text-ink hover:border-mute"
			>
				{numberings.map((by) => (
					<option key={by} value={by}>
						{numberingName[by]}
					</option>
				))}
			</select>
		</label>
	)
}

/** What was done in a closed run, the first first. */
function RunRecord({ record }: { record: { at: string; clerk: string; words: string }[] }) {
	return (
		<section aria-label="What was done in this run" className="px-5 pb-3">
			<ol
				// biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reached by keyboard
				tabIndex={0}
				className="scrolls max-h-24 rounded border border-rule bg-sheet px-3.5 py-1.5 text-sm"
			>
				{record.map(({ at, clerk, words }) => (
					<li key={at + words} className="py-0.5">
						<span className="figures text-mute">{formatTime(at)}</span> <span className="font-semibold">{clerk}</span>{' '}
						{words}
					</li>
				))}
			</ol>
		</section>
	)
}

/** A count with its noun: "1 invoice", "119 invoices". */
const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`

type NextProps = { next: NextAct; noun: string; mail: string; off: boolean; onGo: () => void }

function NextButton({ next, noun, mail, off, onGo }: NextProps) {
	const { act, count } = next
	if (act === 'none') return null
	const words = {
		number: `Number ${counted(count, noun)}`,
		make: `Make ${counted(count, 'PDF')}`,
		send: mail === 'practice' ? `Send ${count} in practice` : `Send ${counted(count, noun)}`,
		read: `Read ${counted(count, 'message')} held`,
		print: `Note ${count} as printed and posted`,
		decide: `Decide on ${count} in the Postroom`,
		solve: `Look at ${count} stopped`,
		close: 'Close the run',
	}[act]
	return (
		<Button kind="main" hint="G" onClick={onGo} disabled={off}>
			{words}
		</Button>
	)
}

type FlagsProps = {
	view: PanelView
	row: BenchView
	onLooked: () => void
	onHeld: () => void
	onChange: () => void
	onDivide: () => void
	onMerge: () => void
	onUndo: () => void
}

function Flags({ view, row, onLooked, onHeld, onChange, onDivide, onMerge, onUndo }: FlagsProps) {
	const { findings, changes } = view
	const standing = changes.find(({ undone_at }) => undone_at === null)
	if (row.stage !== 'draft') return null
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
				{view.lines.length > 1 && (
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

const keys: [keys: string[], words: string][] = [
	[['J', 'K'], 'next, previous'],
	[['N'], 'next flagged'],
	[['Space'], 'looks right'],
	[['H'], 'hold back, release'],
	[['E'], 'change'],
	[['W'], 'working'],
	[['O'], 'open'],
	[['/'], 'filter'],
	[['G'], 'go on'],
	[['?'], 'keys'],
]

/** Keys that stand on their buttons, or belong to every screen. */
const moreKeys: typeof keys = [
	[['D'], 'divide it, or leave lines for the next run'],
	[['M'], 'put another draft on it'],
	[['Ctrl K'], 'find anything in the books'],
]

function KeyBar({ rows }: { rows: BenchView[] }) {
	const flagged = rows.filter(({ stage, level, held }) => stage === 'draft' && level === 'look' && !held)
	return (
		<footer className="flex gap-4 overflow-hidden border-t border-rule px-5 py-1.5 text-xs whitespace-nowrap text-mute">
			{keys.map(([names, words]) => (
				<span key={words} className="flex items-center gap-1">
					{names.map((name) => (
						<KeyHint key={name}>{name}</KeyHint>
					))}
					{words}
				</span>
			))}
			{flagged.length > 0 && (
				<span className="ml-auto">
					{flagged.filter(({ looked: seen }) => seen).length} of {flagged.length} flagged looked at
				</span>
			)}
		</footer>
	)
}

function KeysAsk({ open, onClose }: { open: boolean; onClose: () => void }) {
	return (
		<Ask open={open} onClose={onClose} title="Keys of this screen">
			<dl className="grid grid-cols-[110px_1fr] gap-y-2">
				{[...keys, ...moreKeys].map(([names, words]) => (
					<div key={words} className="contents">
						<dt className="flex gap-1">
							{names.map((name) => (
								<KeyHint key={name}>{name}</KeyHint>
							))}
						</dt>
						<dd>{words}</dd>
					</div>
				))}
			</dl>
		</Ask>
	)
}

function HoldAsk({
	open,
	name,
	onClose,
	onHold,
}: {
	open: boolean
	name: string
	onClose: () => void
	onHold: (reason: string) => void
}) {
	return (
		<Ask open={open} onClose={onClose} title={`Hold back what goes to ${name}`}>
			<form className="space-y-3" action={(form) => onHold(String(form.get('reason') ?? ''))}>
				<TextArea
					label="Why"
					name="reason"
					rows={3}
					required
					autoFocus
					help="The reason stands in the tally beside the difference it makes. Enter holds it back."
					onKeyDown={(event) => {
						if (event.key !== 'Enter' || event.shiftKey) return
						event.preventDefault()
						event.currentTarget.form?.requestSubmit()
					}}
				/>
				<Button kind="main" type="submit">
					Hold it back
				</Button>
			</form>
		</Ask>
	)
}

function SureAsk({
	open,
	title,
	words,
	yes,
	onClose,
	onYes,
}: {
	open: boolean
	title: string
	words: string
	yes: string
	onClose: () => void
	onYes: () => void
}) {
	return (
		<Ask open={open} onClose={onClose} title={title}>
			<p className="mb-4 text-mute">{words}</p>
			<div className="flex gap-2">
				<Button
					kind="main"
					autoFocus
					onClick={() => {
						onClose()
						onYes()
					}}
				>
					{yes}
				</Button>
				<Button onClick={onClose}>Not now</Button>
			</div>
		</Ask>
	)
}
