import { useCallback, useEffect, useRef, useState } from 'react'
import { useSaving } from '@/app/layoutParts/keeping'
import type { Outcome } from '@/core/outcome'
import type { Layout } from '@/layout/schema'
import { answered } from '@/ui/answered'

/**
 * A layout as this page has it, kept by the server step after step.
 * @param kept what the server has, and `at` where that stands, by a number that it never has twice
 * @returns `change` makes a change here and has it kept; `elsewhere` has the server make one, once all is kept, and takes that over
 */
export function useKept(id: number, kept: Layout, at: number) {
	const [layout, setLayout] = useState(kept)
	const [trouble, setTrouble] = useState('')
	const saving = useSaving(id, at, setTrouble)
	// What the server has is taken over where this page asked for it: a step taken back, a version brought back. What it says of changes
	// made here may be older than the page, and is not heeded; nor is what it says before it comes to the step that was asked for.
	const [awaited, setAwaited] = useState<number | null>(null)
	useEffect(() => {
		if (awaited !== at) return
		setAwaited(null)
		setLayout(kept)
	}, [kept, at, awaited])
	/** What the server is asked to do with the layout, one after the other. */
	const acts = useRef<Promise<boolean>>(Promise.resolve(true))
	/** Has the server change the layout, once all is kept, and takes over what it made of it: where it stands by what the server gives. */
	const elsewhere = (work: () => Promise<Outcome>): Promise<boolean> => {
		acts.current = acts.current.then(async () => {
			await saving.settled()
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
			if (!outcome.ok || !outcome.id) return outcome.ok
			saving.takeOver(outcome.id)
			setAwaited(outcome.id)
			return true
		})
		return acts.current
	}

	const change = useCallback(
		(next: Layout, words: string) => {
			if (next === layout) return
			setAwaited(null)
			setLayout(next)
			saving.keep(next, words)
		},
		[layout, saving],
	)
	return { layout, change, elsewhere, saving, trouble, setTrouble }
}
