'use client'
import type { PDFWorker } from 'pdfjs-dist'
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { LayoutFinding } from '@/layout/check'
import type { Region } from '@/layout/flow'
import type { Language } from '@/layout/languages'

export type Preview = {
	pdf: string
	pages: number
	paper: { width: number; height: number }
	regions: Region[]
	columns: { piece: string; column: string; x: number; width: number }[]
	findings: LayoutFinding[]
	seen: { id: number; name: string; before: number | null; after: number | null }
	examples: Record<string, string>
	/** Languages in which its words are looked for, in their order. */
	languages: Language[]
}
type Props = {
	preview: Preview | null
	chosen: string | null
	name: string
	onChoose: (id: string) => void
	/** A piece that is to be written on the paper. */
	onWrite: (id: string) => void
	/** What stands over the chosen piece while it is written. */
	writing: ReactNode
	onColumn: (piece: string, column: string, width: number) => void
}

/** The pages as they print, with the chosen piece outlined; a click chooses the piece there. */
export function Paper({ preview, chosen, name, onChoose, onWrite, writing, onColumn }: Props) {
	const [pages, setPages] = useState<HTMLCanvasElement[]>([])
	const [trouble, setTrouble] = useState('')
	useEffect(() => {
		if (!preview) return
		let gone = false
		drawPages(preview.pdf)
			.then((drawn) => {
				if (!gone) {
					setPages(drawn)
					setTrouble('')
				}
			})
			.catch((error: unknown) => !gone && setTrouble(String(error)))
		return () => {
			gone = true
		}
	}, [preview])
	if (!preview) return <p className="p-4 text-mute">Drawing …</p>
	const { width, height } = preview.paper
	const at = (event: React.MouseEvent<HTMLElement>, page: number): string | null => {
		const box = event.currentTarget.getBoundingClientRect()
		const x = ((event.clientX - box.left) / box.width) * width
		const y = ((event.clientY - box.top) / box.height) * height
		const hit = preview.regions
			.filter(
				(region) =>
					region.page === page &&
					region.top - 1 <= y &&
					y <= region.bottom + 1 &&
					region.left - 2 <= x &&
					x <= region.right + 2,
			)
			.sort((a, b) => (a.bottom - a.top) * (a.right - a.left) - (b.bottom - b.top) * (b.right - b.left))
		return hit[0]?.piece ?? null
	}
	return (
		<div className="px-4 py-4">
			{trouble && <p className="text-brick">{trouble}</p>}
			{pages.map((canvas, page) => (
				<div
					key={page}
					className="relative mx-auto mb-4 max-w-[760px] bg-white shadow-[0_1px_6px_rgb(32_38_46/0.18)] [container-type:inline-size]"
				>
					<Drawn canvas={canvas} label={`Page ${page + 1} of ${preview.pages}`} />
					{/* The pieces are chosen by key in the list beside the paper. */}
					{/* biome-ignore lint/a11y/noStaticElementInteractions: the outline does the same by keyboard */}
					{/* biome-ignore lint/a11y/useKeyWithClickEvents: the outline does the same by keyboard */}
					<div
						className="absolute inset-0 cursor-pointer"
						onClick={(event) => {
							const id = at(event, page)
							if (id) onChoose(id)
						}}
						onDoubleClick={(event) => {
							const id = at(event, page)
							if (id) onWrite(id)
						}}
					/>
					{preview.regions
						.filter((region) => region.page === page && region.piece === chosen)
						.map((region, place) => (
							<div
								key={`${region.top}`}
								className={`absolute rounded-sm border-2 border-plum ${writing ? 'z-10 bg-white' : 'pointer-events-none'} ${writing && place > 0 ? 'hidden' : ''}`}
								style={{
									left: `${((region.left - 3) / width) * 100}%`,
									width: `${((region.right - region.left + 6) / width) * 100}%`,
									top: `${((region.top - 2) / height) * 100}%`,
									[writing ? 'minHeight' : 'height']: `${((region.bottom - region.top + 4) / height) * 100}%`,
									// A point of the paper as a share of the page's width.
									['--point' as string]: `calc(100cqw / ${width})`,
								}}
							>
								{writing}
								<span
									hidden={writing !== null}
									className="absolute -top-5 -left-0.5 rounded-t-sm bg-plum px-1.5 text-xs leading-5 whitespace-nowrap text-sheet"
								>
									{name}
								</span>
							</div>
						))}
					<Columns preview={preview} page={page} chosen={chosen} onColumn={onColumn} />
				</div>
			))}
		</div>
	)
}

/** Edges of the columns of the chosen table, to be dragged. */
function Columns({
	preview,
	page,
	chosen,
	onColumn,
}: {
	preview: Preview
	page: number
	chosen: string | null
	onColumn: Props['onColumn']
}) {
	const { width, height } = preview.paper
	const [drag, setDrag] = useState<{ column: string; from: number; by: number } | null>(null)
	const region = preview.regions.find((one) => one.page === page && one.piece === chosen)
	const scale = useRef(1)
	if (!region) return null
	return preview.columns
		.filter(({ piece }) => piece === chosen)
		.map((column) => {
			const by = drag?.column === column.column ? drag.by : 0
			return (
				<div
					key={column.column}
					aria-hidden
					title="Drag to make the column wider or narrower"
					className="absolute w-2 -translate-x-1/2 cursor-col-resize border-x-2 border-transparent bg-clip-content hover:bg-plum"
					style={{
						left: `${((column.x + column.width + 4 + by) / width) * 100}%`,
						top: `${(region.top / height) * 100}%`,
						height: `${((region.bottom - region.top) / height) * 100}%`,
						backgroundColor: by !== 0 ? 'var(--color-plum)' : undefined,
					}}
					onPointerDown={(event) => {
						const box = event.currentTarget.parentElement?.getBoundingClientRect()
						scale.current = box ? width / box.width : 1
						event.currentTarget.setPointerCapture(event.pointerId)
						setDrag({ column: column.column, from: event.clientX, by: 0 })
					}}
					onPointerMove={(event) => {
						if (drag?.column === column.column) setDrag({ ...drag, by: (event.clientX - drag.from) * scale.current })
					}}
					onPointerUp={() => {
						if (drag && Math.abs(drag.by) > 1)
							onColumn(column.piece, column.column, Math.max(12, Math.round(column.width + drag.by)))
						setDrag(null)
					}}
				/>
			)
		})
}

/** A page that is drawn, put in its place as it is: to make a picture of it takes longer than to draw it. */
function Drawn({ canvas, label }: { canvas: HTMLCanvasElement; label: string }) {
	const place = useRef<HTMLDivElement>(null)
	useLayoutEffect(() => {
		canvas.className = 'block w-full'
		place.current?.replaceChildren(canvas)
	}, [canvas])
	return <div ref={place} role="img" aria-label={label} />
}

// One worker reads every paper: to start one takes longer than to draw a page.
let reader: PDFWorker | null = null

/** Every page, the first ten, drawn. */
async function drawPages(base64: string): Promise<HTMLCanvasElement[]> {
	const pdfjs = await import('pdfjs-dist')
	pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString()
	const data = Uint8Array.from(atob(base64), (char) => char.charCodeAt(0))
	reader ??= new pdfjs.PDFWorker()
	const task = pdfjs.getDocument({ data, isEvalSupported: false, worker: reader })
	const pdf = await task.promise
	const drawn: HTMLCanvasElement[] = []
	for (let number = 1; number <= Math.min(pdf.numPages, 10); number++) {
		const page = await pdf.getPage(number)
		const viewport = page.getViewport({ scale: window.devicePixelRatio * 1.3 })
		const canvas = document.createElement('canvas')
		canvas.width = viewport.width
		canvas.height = viewport.height
		await page.render({ canvas, viewport }).promise
		drawn.push(canvas)
	}
	await task.destroy()
	return drawn
}
