'use client'
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef } from 'react'
import { isPassedOver } from '@/intake/formats/report/documents'
import type { Printed } from '@/intake/formats/report/lines'
import { findSpot, type Marks } from '@/intake/formats/report/marks'
import { placeKey, type Span, type Tried } from '@/intake/tryMarks'

/** A place on paper: a line among all in view, and a column. */
export type Caret = { line: number; column: number }
type Selection = { anchor: Caret; head: Caret }
type Props = {
	lines: readonly Printed[]
	page: number
	tried: Tried
	marks: Marks
	picked: Selection | null
	/** A record as one says it. */
	one: string
	onPick: (picked: Selection | null) => void
	onPage: (page: number) => void
}

const lineHeight = 18
const spanLook: Record<Span['as'], string> = {
	value: 'border-b-2 border-plum bg-plum-wash',
	cell: 'border-r border-dashed border-ochre bg-ochre-wash',
	total: 'border-b-2 border-kelp bg-kelp-wash',
}

/** A page of the report as it was printed, with what is marked on it; picked by dragging, or with the arrow keys and Shift. */
export function PrintedPage({ lines, page, tried, marks, picked, one, onPick, onPage }: Props) {
	const sheet = useRef<HTMLDivElement>(null)
	const ruler = useRef<HTMLSpanElement>(null)
	const from = useMemo(() => lines.findIndex((line) => line.page === page), [lines, page])
	const own = useMemo(() => lines.filter((line) => line.page === page), [lines, page])
	const width = Math.max(60, ...own.map(({ text }) => text.length)) + 2
	const misfits = new Map(
		tried.misfits.filter(({ place }) => place.page === page).map(({ place, words }) => [place.of, words]),
	)
	useEffect(() => {
		sheet.current?.scrollTo({ top: 0 })
	}, [])
	const at = (event: PointerEvent): Caret | null => {
		const box = ruler.current?.parentElement?.getBoundingClientRect()
		const letter = (ruler.current?.getBoundingClientRect().width ?? 0) / 100
		if (!box || letter === 0) return null
		const line = Math.floor((event.clientY - box.top) / lineHeight)
		const column = Math.max(0, Math.round((event.clientX - box.left) / letter))
		return { line: from + Math.max(0, Math.min(own.length - 1, line)), column: Math.min(column, width) }
	}
	const onKey = (event: KeyboardEvent) => {
		const steps: Record<string, [number, number]> = {
			ArrowUp: [-1, 0],
			ArrowDown: [1, 0],
			ArrowLeft: [0, -1],
			ArrowRight: [0, 1],
		}
		const step = steps[event.key]
		const head = picked?.head ?? { line: from, column: 0 }
		let next: Caret | null = null
		if (step && !event.altKey) {
			const far = event.ctrlKey || event.metaKey
			const line = Math.max(0, Math.min(lines.length - 1, head.line + step[0]))
			const column =
				far && step[1] !== 0 ? nextEdge(lines[line]?.text ?? '', head.column, step[1]) : head.column + step[1]
			next = { line, column: Math.max(0, Math.min(width, column)) }
		} else if (event.key === 'Home') next = { line: head.line, column: 0 }
		else if (event.key === 'End') next = { line: head.line, column: lines[head.line]?.text.length ?? 0 }
		if (!next) return
		event.preventDefault()
		const anchor = event.shiftKey ? (picked?.anchor ?? head) : next
		onPick({ anchor, head: next })
		const to = lines[next.line]?.page
		if (to !== undefined && to !== page) onPage(to)
	}
	const box = picked && {
		first: Math.min(picked.anchor.line, picked.head.line) - from,
		last: Math.max(picked.anchor.line, picked.head.line) - from,
		from: Math.min(picked.anchor.column, picked.head.column),
		to: Math.max(picked.anchor.column, picked.head.column),
	}
	return (
		<div ref={sheet} className="scrolls min-h-0 flex-1 bg-sheet">
			{/* biome-ignore lint/a11y/useSemanticElements: it is paper to point at, and no field */}
			<div
				role="textbox"
				aria-readonly="true"
				aria-multiline="true"
				aria-label={`Page ${page}`}
				tabIndex={0}
				onKeyDown={onKey}
				onPointerDown={(event) => {
					const place = at(event)
					if (!place || event.button !== 0) return
					event.currentTarget.setPointerCapture(event.pointerId)
					onPick({ anchor: event.shiftKey && picked ? picked.anchor : place, head: place })
				}}
				onPointerMove={(event) => {
					if (!event.currentTarget.hasPointerCapture(event.pointerId) || !picked) return
					const place = at(event)
					if (place) onPick({ anchor: picked.anchor, head: place })
				}}
				onDoubleClick={() => {
					if (!picked) return
					const text = lines[picked.head.line]?.text ?? ''
					const [start, end] = [wordEdge(text, picked.head.column, -1), wordEdge(text, picked.head.column, 1)]
					onPick({ anchor: { ...picked.head, column: start }, head: { ...picked.head, column: end } })
				}}
				className="figures relative m-4 cursor-text text-[12px] [unicode-bidi:bidi-override] select-none"
				style={{ width: `calc(${width}ch + 74px)`, minWidth: 'calc(100% - 32px)', lineHeight: `${lineHeight}px` }}
			>
				<span ref={ruler} aria-hidden="true" className="invisible absolute whitespace-pre">
					{'0'.repeat(100)}
				</span>
				{own.map((line, index) => (
					<PageLine
						key={line.of}
						line={line}
						spans={tried.spans.get(placeKey(line)) ?? []}
						passed={line.text !== '' && isPassedOver(line, marks)}
						first={index === 0 || (/\w/.test(line.text) && !isPassedOver(own[index - 1] ?? line, marks))}
						begins={
							marks.begins && !isPassedOver(line, marks) && findSpot(line.text, marks.begins) >= 0
								? tried.taken.get(placeKey(line)) === 'goes on'
									? `the ${one} goes on`
									: `a new ${one}`
								: ''
						}
						misfit={misfits.get(line.of) ?? ''}
					/>
				))}
				{box && box.last >= 0 && box.first < own.length && (
					<div
						className="pointer-events-none absolute border border-plum bg-plum/15"
						style={{
							top: box.first * lineHeight,
							height: (box.last - box.first + 1) * lineHeight,
							left: `${box.from}ch`,
							width: `max(2px, ${box.to - box.from}ch)`,
						}}
					/>
				)}
			</div>
		</div>
	)
}

function PageLine({
	line,
	spans,
	passed,
	first,
	begins,
	misfit,
}: {
	line: Printed
	spans: readonly Span[]
	passed: boolean
	first: boolean
	begins: string
	misfit: string
}) {
	return (
		<div
			className={`relative whitespace-pre ${passed ? 'blank-paper text-mute' : ''} ${misfit ? 'bg-brick-wash' : ''}`}
			style={{ height: lineHeight }}
			title={misfit || undefined}
		>
			{begins && (
				<span className="absolute -top-px right-0 left-0 border-t-2 border-ink">
					<span className="absolute -top-2 right-0 rounded-sm bg-ink px-1.5 font-sans text-[10px] leading-4 text-sheet">
						{begins}
					</span>
				</span>
			)}
			{passed && first && (
				<span className="absolute right-0 rounded-sm bg-chart px-1.5 font-sans text-[10px] leading-4">passed over</span>
			)}
			{spans.map(({ from, to, as, name }) => (
				<span
					key={`${from} ${name}`}
					className={`absolute top-0 bottom-0 ${spanLook[as]}`}
					style={{ left: `${from}ch`, width: `${Math.max(1, to - from)}ch` }}
					title={name}
				/>
			))}
			<span className="relative">{line.text || ' '}</span>
		</div>
	)
}

/** Where the word at a column begins or ends. */
function wordEdge(text: string, column: number, way: 1 | -1): number {
	let place = column
	if (way < 0) while (place > 0 && (text[place - 1] ?? ' ') !== ' ') place--
	else while (place < text.length && (text[place] ?? ' ') !== ' ') place++
	return place
}

/** The next beginning or end of a word. */
function nextEdge(text: string, column: number, way: number): number {
	const isEdge = (place: number) => ((text[place - 1] ?? ' ') === ' ') !== ((text[place] ?? ' ') === ' ')
	let place = column + way
	while (place > 0 && place < text.length && !isEdge(place)) place += way
	return place
}
