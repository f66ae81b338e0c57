'use client'
import type { PDFWorker } from 'pdfjs-dist'
import { useEffect, useRef, useState } from 'react'

type Reader = { pdfjs: typeof import('pdfjs-dist'); worker: PDFWorker }
let known: Promise<Reader> | null = null

/** The thread that reads the PDFs of all papers in view: to begin one takes longer than to draw a page. */
function pdfReader(): Promise<Reader> {
	known ??= import('pdfjs-dist').then((pdfjs) => {
		pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString()
		return { pdfjs, worker: new pdfjs.PDFWorker() }
	})
	known.catch(() => {
		known = null
	})
	return known
}

/** The pages of a PDF, drawn at the width that is there. */
export function PdfPages({ url, label, most = 20 }: { url: string; label: string; most?: number }) {
	const holder = useRef<HTMLDivElement>(null)
	const [trouble, setTrouble] = useState('')
	// The width it is drawn for, px; 0 before that is known. Drawn again where there is more room than that.
	const [room, setRoom] = useState(0)
	useEffect(() => {
		const box = holder.current
		if (!box) return
		let timer = 0
		const grow = () => setRoom((before) => (box.clientWidth > before * 1.15 ? box.clientWidth : before))
		grow()
		const watch = new ResizeObserver(() => {
			window.clearTimeout(timer)
			timer = window.setTimeout(grow, 200)
		})
		watch.observe(box)
		return () => {
			window.clearTimeout(timer)
			watch.disconnect()
		}
	}, [])
	useEffect(() => {
		let gone = false
		const box = holder.current
		if (!box || room === 0) return
		const draw = async () => {
			const { pdfjs, worker } = await pdfReader()
			if (gone) return
			const task = pdfjs.getDocument({ url, worker, isEvalSupported: false })
			try {
				const pdf = await task.promise
				const canvases: HTMLCanvasElement[] = []
				for (let number = 1; number <= Math.min(pdf.numPages, most) && !gone; number++) {
					const page = await pdf.getPage(number)
					const width = box.clientWidth
					const density = Math.max(2, window.devicePixelRatio)
					const viewport = page.getViewport({ scale: (width * density) / page.getViewport({ scale: 1 }).width })
					const canvas = document.createElement('canvas')
					canvas.width = viewport.width
					canvas.height = viewport.height
					canvas.className = 'mb-3 w-full bg-white shadow-[0_1px_6px_rgb(32_38_46/0.18)]'
					canvas.setAttribute('aria-label', `${label}, page ${number} of ${pdf.numPages}`)
					canvas.setAttribute('role', 'img')
					await page.render({ canvas, viewport }).promise
					canvases.push(canvas)
				}
				if (!gone) box.replaceChildren(...canvases)
			} finally {
				await task.destroy()
			}
		}
		setTrouble('')
		draw().catch((error: unknown) => {
			if (!gone) setTrouble(`The page cannot be shown: ${error instanceof Error ? error.message : String(error)}`)
		})
		return () => {
			gone = true
		}
	}, [url, label, most, room])
	return (
		<div>
			{trouble && <p className="text-brick">{trouble}</p>}
			<div ref={holder} data-pdf={url} className={most === 1 ? 'min-h-40' : 'min-h-[60vh]'} />
		</div>
	)
}
