'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import { keepLayout } from '@/app/acts/layouts'
import type { Layout } from '@/layout/schema'
import { answered } from '@/ui/answered'
import type { Preview } from './Paper'

/** Keeps changes one after the other, each as a step on the one before; of several that wait, the last. */
export function useSaving(id: number, first: number, onTrouble: (words: string) => void) {
	const [busy, setBusy] = useState(false)
	const [saving] = useState(() => {
		let at = first
		let waiting: { layout: Layout; words: string } | null = null
		let running: Promise<void> | null = null
		let soon: ReturnType<typeof setTimeout> | undefined
		const tell = { busy: (_busy: boolean) => {}, trouble: (_words: string) => {} }
		const run = async () => {
			tell.busy(true)
			while (waiting) {
				const { layout, words } = waiting
				waiting = null
				const outcome = await answered(keepLayout(id, at, JSON.stringify(layout), words))
				if (!outcome.ok) waiting = null
				else if (outcome.id) at = outcome.id
				tell.trouble(outcome.ok ? '' : outcome.message)
			}
			tell.busy(false)
		}
		const begin = () => {
			if (!waiting || running) return
			running = run().finally(() => {
				running = null
				begin()
			})
		}
		return {
			tell,
			/** Where the layout stands, for the next change to be made on. */
			at: () => at,
			takeOver: (step: number) => {
				at = step
			},
			/** Waits until all is kept. */
			settled: async () => {
				clearTimeout(soon)
				begin()
				await running
			},
			keep: (layout: Layout, words: string) => {
				waiting = { layout, words }
				tell.busy(true)
				clearTimeout(soon)
				// What is typed in one go is one step.
				soon = setTimeout(begin, 400)
			},
		}
	})
	saving.tell.busy = setBusy
	saving.tell.trouble = onTrouble
	return useMemo(() => ({ ...saving, busy }), [saving, busy])
}

/** Draws the layout on the paper after each change; of several at once, the last counts. */
export function useDrawing(
	layout: Layout,
	seen: { paper: number; run: number },
	onPreview: (preview: Preview) => void,
	onFaults: (faults: string[]) => void,
): void {
	const { paper, run } = seen
	const tell = useRef({ onPreview, onFaults })
	tell.current = { onPreview, onFaults }
	useEffect(() => {
		const leave = new AbortController()
		const draw = async () => {
			const response = await fetch('/api/layouts/draw', {
				method: 'POST',
				signal: leave.signal,
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ layout: JSON.stringify(layout), paper, run }),
			})
			if (!response.ok) throw new Error(await response.text())
			const answer: Preview | { faults: string[] } = await response.json()
			if ('faults' in answer) tell.current.onFaults(answer.faults)
			else {
				tell.current.onFaults([])
				tell.current.onPreview(answer)
			}
		}
		draw().catch((error: unknown) => {
			if (!leave.signal.aborted)
				tell.current.onFaults([`It cannot be drawn: ${error instanceof Error ? error.message : String(error)}`])
		})
		return () => leave.abort()
	}, [layout, paper, run])
}
