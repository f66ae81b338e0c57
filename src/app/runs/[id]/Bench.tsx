'use client'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useMemo, useState, useTransition } from 'react'
import { hold, looked, markPrinted, release, undo } from '@/app/acts/document'
import { printTrial } from '@/app/acts/papers'
import { close, giveBack, goOn, halt, orderBy, resume } from '@/app/acts/run'
import { ChangeAsk } from '@/app/documentPanel/ChangeAsk'
import { isPanelTab, type OpenedPanel, Panel, type PanelTab, usePanel } from '@/app/documentPanel/Panel'
import { counted } from '@/core/counted'
import { formatMinor } from '@/core/format'
import { placeRules } from '@/core/places'
import type { RunView } from '@/runs/bench/runView'
import type { Stage } from '@/runs/tally/tally'
import { isGoing } from '@/store/jobState'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { useSorted } from '@/ui/useSorted'
import { WhyAsk } from '@/ui/WhyAsk'
import { SureAsk } from './Asks'
import { BenchList, benchOrders, type FilterName, isDraft, shows } from './BenchList'
import { DivideAsk, MergeAsk } from './DivideAsks'
import { Flags } from './Flags'
import { BenchKeysAsk, KeyBar } from './Keys'
import { NextButton, NumberingChoice } from './NextButton'
import { Progress, useJob } from './Progress'
import { RunRecord } from './RunRecord'
import { Split, useSplit } from './Split'
import { TallyStrip } from './TallyStrip'
import { Trials } from './Trials'
import { useRows } from './useRows'

type Asking = 'hold' | 'change' | 'divide' | 'merge' | 'keys' | 'send' | 'close' | 'give back' | null

const query = () => new URLSearchParams(typeof window === 'undefined' ? '' : window.location.search)

/** The bench: the run's one next action, its tally, its list, and what the selected document is. */
export function Bench(props: RunView & { opened: OpenedPanel; tab: string }) {
	const { run, strips, next, range, mail } = props
	const router = useRouter()
	const job = useJob(run.id, props.job)
	const rows = useRows(run.id, props)
	const [filter, setFilter] = useState<FilterName>('All')
	const [words, setWords] = useState('')
	const [chosen, setSelectedId] = useState<number | null>(props.opened?.view.document.id ?? null)
	const selectedId = chosen ?? rows[0]?.id ?? null
	const [tab, setTab] = useState<PanelTab>(isPanelTab(props.tab) ? props.tab : 'paper')
	const [asking, setAsking] = useState<Asking>(null)
	const [trouble, setTrouble] = useState('')
	const [changed, setChanged] = useState<{ message: string; seen: number } | null>(null)
	const [busy, start] = useTransition()
	useEffect(() => {
		const wanted = query()
		if (selectedId !== null) wanted.set('doc', String(selectedId))
		wanted.set('tab', tab)
		if (`${wanted}` !== `${query()}`) window.history.replaceState(null, '', `?${wanted}`)
	}, [selectedId, tab])

	const matching = useMemo(() => {
		const plain = words.trim().toLowerCase()
		return rows.filter(
			(row) =>
				shows(filter, row) &&
				`${row.customer} ${row.orders} ${row.number} ${row.currency} ${row.brief}`.toLowerCase().includes(plain),
		)
	}, [rows, filter, words])
	const { rows: shown, sorts } = useSorted(matching, benchOrders)
	// The first that was in view stays chosen, wherever it stands later, unless the address names another.
	useEffect(() => setSelectedId((now) => now ?? selectedId), [selectedId])
	const index = shown.findIndex(({ id }) => id === selectedId)
	const selected = shown[index]
	const view = usePanel(selectedId, props.version, props.opened)
	const going = isGoing(job)
	const split = useSplit()

	const act = useCallback(
		(work: () => Promise<{ ok: true } | { ok: false; message: string }>) =>
			start(async () => {
				const outcome = await answered(work())
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
		const flagged = after.find((row) => isDraft(row) && row.level !== 'clear' && !row.held && !row.looked)
		if (flagged) setSelectedId(flagged.id)
	}
	const toggleLooked = () => {
		if (selected && isDraft(selected) && selected.level === 'look') act(() => looked(selected.id, !selected.looked))
	}
	const toggleHeld = () => {
		if (!selected || !isDraft(selected) || run.state !== 'open') return
		if (selected.held) act(() => release(selected.id))
		else setAsking('hold')
	}
	const onDraft = (question: 'change' | 'divide' | 'merge') => {
		// Where the draft is not read yet, the question comes with it.
		if (selected && isDraft(selected) && run.state === 'open' && !view?.why) setAsking(question)
	}
	const openChange = () => onDraft('change')
	const openDivide = () => view?.bills && view.lines.length > 1 && onDraft('divide')
	const openMerge = () => view && view.beside.length > 0 && onDraft('merge')
	/** Numbers the drafts as they were seen; those that another changed since are named and asked about. */
	const number = (seen: number) =>
		start(async () => {
			const outcome = await answered(goOn(run.id, 'number', next.count, seen))
			if (!outcome.ok && outcome.ask === 'changed') {
				setTrouble('')
				setChanged({ message: outcome.message, seen: outcome.upTo ?? seen })
				router.refresh()
			} else setTrouble(outcome.ok ? '' : outcome.message)
		})
	const goNext = () => {
		if (job?.state === 'paused') return act(() => resume(run.id))
		if (busy || going || run.state !== 'open') return
		if (next.act === 'number') number(props.seen)
		else if (next.act === 'make') act(() => goOn(run.id, 'make', next.count, props.seen))
		else if (next.act === 'send') setAsking('send')
		else if (next.act === 'print')
			act(() => markPrinted(rows.filter(({ place }) => placeRules[place].next === 'print').map(({ id }) => id)))
		else if (next.act === 'read') {
			const held = rows.find(({ place }) => placeRules[place].next === 'read')
			if (held) setSelectedId(held.id)
			setTab('message')
		} else if (next.act === 'decide' || next.act === 'await') router.push('/postroom')
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
		p: split.turnFull,
		g: goNext,
		'/': () => document.getElementById('filter')?.focus(),
		'?': () => setAsking('keys'),
		o: () => selected && router.push(`/documents/${selected.id}`),
	})
	const untied = strips.filter((strip) => strip.untied !== 0)
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
						!going && <Button onClick={() => setAsking('give back')}>{run.words.drop.button}</Button>}
					{going && job ? (
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
								off={busy || next.act !== 'number' || run.words.unit === 'item'}
								value={run.numbering}
								onChoose={(by) => act(() => orderBy(run.id, by))}
							/>
							<NextButton
								next={next}
								toNumber={props.toNumber}
								words={run.words}
								mail={mail}
								off={busy}
								onGo={goNext}
							/>
						</>
					)}
				</div>
			</header>
			<div className="space-y-1 px-5 pb-3">
				{job?.state === 'failed' && <Notice tone="stop">{job.words}</Notice>}
				{job?.state === 'stopped' && <Notice tone="look">{job.words} It goes on from there when you ask again.</Notice>}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				{untied.map(({ currency, untied: out }) => (
					<Notice key={currency} tone="stop">
						{`The drafts are out of what was gathered by ${formatMinor(out, currency)} ${currency}, and nothing says why. Nothing is numbered; give the run back and gather again.`}
					</Notice>
				))}
				<Trials
					trials={props.trials}
					onPrint={
						run.state === 'open' && (next.act === 'number' || next.act === 'solve') && !going
							? () => act(() => printTrial(run.id))
							: null
					}
				/>
				{run.lost.map((words) => (
					<Notice key={words} tone="stop">{`${words}. Nothing is numbered.`}</Notice>
				))}
				{strips.map((strip, place) => (
					<TallyStrip
						key={strip.currency}
						unit={run.words.unit}
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
			<Split
				{...split}
				list={
					<BenchList
						rows={rows}
						shown={shown}
						sorts={sorts}
						filter={filter}
						onFilter={setFilter}
						words={words}
						onWords={setWords}
						index={index}
						onSelect={(place) => setSelectedId(shown[place]?.id ?? null)}
						gathering={run.state === 'gathering'}
						home={props.home}
						noun={run.words.noun}
						unit={run.words.unit}
					/>
				}
				beside={
					<aside aria-label="The selected document" className="flex h-full min-h-0 min-w-0 flex-col">
						{view && <Panel view={view} tab={tab} onTab={setTab} wide={split.full} onWide={split.turnFull} />}
						{view && selected && run.state === 'open' && (
							<Flags
								view={view}
								row={selected}
								onLooked={toggleLooked}
								onHeld={toggleHeld}
								onChange={openChange}
								onDivide={openDivide}
								onMerge={openMerge}
								onUndo={() => act(() => undo(selected.id, 'latest', view.seen))}
								stale={rows.filter(({ stale }) => stale).length}
							/>
						)}
					</aside>
				}
			/>
			<KeyBar rows={rows} />
			{view && asking === 'hold' && (
				<WhyAsk
					title={`Hold back what goes to ${view.document.customer_name}`}
					help="The reason stands in the tally beside the difference it makes."
					yes="Hold it back"
					onClose={() => setAsking(null)}
					act={(reason) => hold(view.document.id, reason, view.seen)}
				/>
			)}
			{view && (
				<ChangeAsk key={view.document.id} open={asking === 'change'} view={view} onClose={() => setAsking(null)} />
			)}
			<SureAsk
				open={changed !== null}
				title="Number them as they are now?"
				words={`${changed?.message ?? ''} Nothing was numbered. Look at them first, or number all as they are now.`}
				yes={props.toNumber || 'Number them'}
				onClose={() => setChanged(null)}
				onYes={() => changed && number(changed.seen)}
			/>
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
			<BenchKeysAsk open={asking === 'keys'} onClose={() => setAsking(null)} />
			<SureAsk
				open={asking === 'send'}
				title={`Send ${counted(props.byMail, run.words.noun, run.words.nouns)}, each to its own customer?`}
				words={
					mail === 'practice'
						? 'Mail is in practice: every message goes to the practice server on this machine and nowhere else.'
						: 'Mail is real: the messages leave for your customers and cannot be called back.'
				}
				yes={`Send ${counted(props.byMail, run.words.noun, run.words.nouns)}`}
				onClose={() => setAsking(null)}
				onYes={() => act(() => goOn(run.id, 'send', next.count, props.seen))}
			/>
			<SureAsk
				open={asking === 'close'}
				title="Close this run?"
				words={run.words.close}
				yes="Close the run"
				onClose={() => setAsking(null)}
				onYes={() => act(() => close(run.id))}
			/>
			<SureAsk
				open={asking === 'give back'}
				title={run.words.drop.question}
				words={run.words.drop.meaning}
				yes={run.words.drop.yes}
				onClose={() => setAsking(null)}
				onYes={() => act(() => giveBack(run.id))}
			/>
		</div>
	)
}
