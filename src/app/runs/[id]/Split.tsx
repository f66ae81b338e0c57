'use client'
import { type ReactNode, useEffect, useRef, useState } from 'react'

/** Least widths of the list and of what lies beside it, px. */
const least = { list: 340, beside: 280 }
const kept = 'north-tally-paper-width'

/** How wide what lies beside the list is: px that a person drew it to, else as the screen has room; or all of it. */
export function useSplit() {
	const [width, setWidth] = useState<number | null>(null)
	const [full, setFull] = useState(false)
	useEffect(() => {
		const before = Number(window.localStorage.getItem(kept) ?? 0)
		if (before > 0) setWidth(before)
	}, [])
	const draw = (next: number | null) => {
		setWidth(next)
		if (next === null) window.localStorage.removeItem(kept)
		else window.localStorage.setItem(kept, String(Math.round(next)))
	}
	return { width, full, draw, turnFull: () => setFull((now) => !now) }
}

type Props = ReturnType<typeof useSplit> & { list: ReactNode; beside: ReactNode }

/** A list and what is chosen of it, with a rule between that is drawn to either side by mouse or arrows; twice pressed it goes back. */
export function Split({ width, full, draw, list, beside }: Props) {
	const box = useRef<HTMLDivElement>(null)
	const room = () => box.current?.clientWidth ?? 1000
	const bounded = (next: number) => Math.round(Math.min(room() - least.list, Math.max(least.beside, next)))
	const now = () => box.current?.lastElementChild?.clientWidth ?? 400
	if (full)
		return (
			<div ref={box} className="min-h-0 flex-1 border-t border-rule">
				{beside}
			</div>
		)
	return (
		<div
			ref={box}
			className="grid min-h-0 flex-1 border-t border-rule"
			style={{
				gridTemplateColumns: `minmax(0,1fr) 5px ${width === null ? 'clamp(300px,31vw,520px)' : `min(${width}px, calc(100% - ${least.list}px))`}`,
			}}
		>
			{list}
			{/* biome-ignore lint/a11y/useSemanticElements: a rule that is drawn is a separator with a value, which hr is not */}
			<div
				role="separator"
				aria-orientation="vertical"
				aria-label="Width of the paper"
				aria-valuenow={width ?? 0}
				aria-valuemin={least.beside}
				tabIndex={0}
				title="Draw to make the paper wider; twice for its usual width"
				className="cursor-col-resize border-l border-rule bg-chart hover:bg-plum-wash focus-visible:bg-plum"
				onDoubleClick={() => draw(null)}
				onPointerDown={(event) => {
					event.currentTarget.setPointerCapture(event.pointerId)
					event.preventDefault()
				}}
				onPointerMove={(event) => {
					if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
					const right = box.current?.getBoundingClientRect().right ?? 0
					draw(bounded(right - event.clientX))
				}}
				onKeyDown={(event) => {
					const by = { ArrowLeft: 40, ArrowRight: -40 }[event.key]
					if (by === undefined) return
					event.preventDefault()
					event.stopPropagation()
					draw(bounded(now() + by))
				}}
			/>
			{beside}
		</div>
	)
}
