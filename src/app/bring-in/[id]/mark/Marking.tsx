'use client'
import { useRouter } from 'next/navigation'
import { useDeferredValue, useEffect, useMemo, useState, useTransition } from 'react'
import { setMarks } from '@/app/acts/bringIn'
import type { OwnField } from '@/core/ownFields'
import type { Encoding } from '@/intake/formats/delimited/encodings'
import { type Printed, printedLines } from '@/intake/formats/report/lines'
import { markBegin, markEnd, markPass, markValue, withNeeds } from '@/intake/formats/report/marking'
import { isMarked, type Marks } from '@/intake/formats/report/marks'
import type { Marked, Picked } from '@/intake/formats/report/pointing'
import { markRows, wrapKeys } from '@/intake/formats/report/rowMarking'
import { type FileKind, fieldsFor, fileKindRules } from '@/intake/kinds'
import { mostSaid, readingOfMarks, tryMarks } from '@/intake/tryMarks'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { KeyHint } from '@/ui/KeyHint'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { useAwake } from '@/ui/useAwake'
import { useKeys } from '@/ui/useKeys'
import { MarkPanel } from './MarkPanel'
import { type Caret, PrintedPage } from './PrintedPage'
import { SayWhat } from './SayWhat'

type Props = {
	id: number
	name: string
	/** The report, or its start. */
	text: string
	whole: boolean
	/** By which letters the text was read. */
	shown: Encoding
	first: Marks
	/** The settings in the books when it was opened, as JSON. */
	was: string
	kind: FileKind
	ownFields: OwnField[]
	home: string
	accepted: boolean
}

const withArticle = (word: string): string => `${/^[aeio]/.test(word) ? 'an' : 'a'} ${word}`

/** What is what in a printed report, said on a page of it; what is read by that from all pages stands beside it. */
export function Marking({
	id,
	name,
	text,
	whole,
	shown,
	first,
	was,
	kind: firstKind,
	ownFields,
	home,
	accepted,
}: Props) {
	const [past, setPast] = useState<Marks[]>([first])
	const [kind, setKind] = useState(firstKind)
	const [page, setPage] = useState(1)
	const [picked, setPicked] = useState<{ anchor: Caret; head: Caret } | null>(null)
	const [saying, setSaying] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const awake = useAwake()
	const router = useRouter()
	const now = past.at(-1) ?? first
	const fields = useMemo(() => fieldsFor(kind, ownFields), [kind, ownFields])
	const marks = useMemo(() => withNeeds(now, fields), [now, fields])
	const { control, pageLines } = marks
	const lines = useMemo(() => linesOf(text, control, pageLines), [text, control, pageLines])
	const pages = lines.at(-1)?.page ?? 1
	useEffect(() => {
		if (now.encoding !== shown) router.replace(`?letters=${encodeURIComponent(now.encoding)}`, { scroll: false })
	}, [now.encoding, shown, router])
	const later = useDeferredValue(marks)
	const tried = useMemo(
		() => tryMarks(lines, later, kind, ownFields, home, page),
		[lines, later, kind, ownFields, home, page],
	)
	const one = fileKindRules[kind].record

	const set = (next: Marks) => {
		setTrouble('')
		setPast([...past.slice(-200), next])
	}
	const mark = (made: Marked) => (made.ok ? set(made.marks) : setTrouble(made.message))
	const area = (): Picked | null => {
		if (!picked) return null
		const [a, b] = [picked.anchor, picked.head]
		const from = Math.min(a.column, b.column)
		return {
			first: Math.min(a.line, b.line),
			last: Math.max(a.line, b.line),
			from,
			to: Math.max(a.column, b.column, from + 1),
		}
	}
	const withArea = (work: (area: Picked) => void) => () => {
		const own = area()
		if (own) work(own)
		else setTrouble('Drag over what you see first, or go there with the arrow keys and hold Shift.')
	}
	const go = (to: number) => setPage(Math.max(1, Math.min(pages, to)))
	const undo = () => {
		setTrouble('')
		if (past.length > 1) setPast(past.slice(0, -1))
	}
	const begin = withArea((at) => mark(markBegin(marks, lines, at)))
	const rows = withArea((at) => mark(markRows(marks, lines, at, fields, wrapKeys, kind === 'orders' ? 'quantity' : '')))
	const pass = withArea((at) => mark(markPass(marks, lines, at)))
	const end = withArea((at) => mark(markEnd(marks, lines, at)))
	const value = withArea(() => setSaying(true))
	const nextMisfit = () => {
		const other = tried.misfits.find(({ place }) => place.page > page) ?? tried.misfits[0]
		if (other) go(other.place.page)
		else setTrouble('Everything fits.')
	}
	const read = () =>
		start(async () => {
			const { format, settings, headRow, head, lineFrom, columns } = readingOfMarks(marks, kind, ownFields)
			const outcome = await answered(
				setMarks(id, was, {
					kind,
					format,
					settings,
					headRow,
					head,
					lineFrom,
					columns,
					groups: [],
					guessed: [],
				}),
			)
			if (!outcome.ok) return setTrouble(outcome.message)
			router.push(`/bring-in/${id}`)
		})
	const ready = isMarked(marks) && tried.rows > 0 && !busy && awake
	useKeys({
		f: value,
		r: rows,
		b: begin,
		e: end,
		x: pass,
		z: undo,
		n: nextMisfit,
		j: () => go(page + 1),
		k: () => go(page - 1),
		...(ready ? { g: read } : {}),
	})
	const say = (key: string) => {
		setSaying(false)
		const at = area()
		if (!at) return
		if (key === 'total of all') return mark(markValue(marks, lines, at, null, fields))
		const field = fields.find((one) => one.key === key)
		if (field) mark(markValue(marks, lines, at, field, fields))
	}
	const counts = isMarked(marks)
		? `${tried.documents.toLocaleString('en-GB')} ${one}${tried.documents === 1 ? '' : 's'}, ${tried.rows.toLocaleString('en-GB')} rows; ${tried.misfits.length === 0 ? 'everything fits' : `${tried.misfits.length === mostSaid ? 'over ' : ''}${tried.misfits.length} ${tried.misfits.length === 1 ? 'thing does' : 'things do'} not fit`}`
		: 'nothing is marked yet'
	return (
		<div className="flex h-full flex-col">
			<PageHead
				title={name}
				about={`a text report, ${pages.toLocaleString('en-GB')} ${whole ? '' : 'first '}${pages === 1 ? 'page' : 'pages'}, ${counts}`}
			>
				<Button onClick={() => router.push(`/bring-in/${id}`)}>Back without it</Button>
				<Button kind="main" hint="G" disabled={!ready} onClick={read}>
					Read all by this
				</Button>
			</PageHead>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{accepted && (
				<Notice tone="look">
					This file was accepted. Marked otherwise, what it brought is compared with it anew; nothing changes before you
					accept it again.
				</Notice>
			)}
			<div className="flex min-h-0 flex-1 border-t border-rule">
				<div className="flex min-w-0 flex-1 flex-col">
					<div className="flex flex-wrap items-center gap-2 border-b border-rule px-5 py-2">
						<span className="text-mute">Page</span>
						<Button hint="K" disabled={page <= 1} onClick={() => go(page - 1)} aria-label="The page before">
							‹
						</Button>
						<span className="figures">
							{page} of {pages}
						</span>
						<Button hint="J" disabled={page >= pages} onClick={() => go(page + 1)} aria-label="The next page">
							›
						</Button>
						<Button hint="N" disabled={tried.misfits.length === 0} onClick={nextMisfit}>
							Next that does not fit
						</Button>
						<span className="ml-auto text-mute max-[1200px]:hidden">drag over what you see, then say what it is</span>
					</div>
					<PrintedPage
						lines={lines}
						page={page}
						tried={tried}
						marks={marks}
						picked={picked}
						one={one}
						onPick={setPicked}
						onPage={go}
					/>
					<div
						role="toolbar"
						aria-label="What it is"
						className="flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-rule bg-chart px-5 py-2 text-sm"
					>
						<Key letter="F" words="a value here" onClick={value} />
						<Key letter="R" words="rows that repeat" onClick={rows} />
						<Key letter="B" words={`${withArticle(one)} begins`} onClick={begin} />
						<Key letter="E" words="it ends" onClick={end} />
						<Key letter="X" words="pass over" onClick={pass} />
						<Key letter="Z" words="undo" onClick={undo} />
					</div>
				</div>
				<MarkPanel
					marks={marks}
					kind={kind}
					fields={fields}
					tried={tried}
					home={home}
					one={withArticle(one)}
					onSet={set}
					onKind={setKind}
					onPage={go}
				/>
			</div>
			<SayWhat
				open={saying}
				fields={fields}
				marks={marks}
				orders={kind === 'orders'}
				onClose={() => setSaying(false)}
				onSay={say}
			/>
		</div>
	)
}

function Key({ letter, words, onClick }: { letter: string; words: string; onClick: () => void }) {
	return (
		<button type="button" onClick={onClick} className="flex items-center gap-1.5 hover:underline">
			<KeyHint>{letter}</KeyHint>
			{words}
		</button>
	)
}

function linesOf(text: string, control: boolean, pageLines: number): Printed[] {
	const lines: Printed[] = []
	const printed = printedLines({ control, pageLines }, (line) => lines.push(line))
	try {
		printed.write(text)
		printed.end()
	} catch {
		// A line too long to be one of a report: what came before it is shown; reading all of it says why.
	}
	return lines
}
