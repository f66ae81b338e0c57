'use client'
import { useState } from 'react'
import type { PanelView } from '@/runs/bench/panel'
import { answered } from '@/ui/answered'

type Outcome = { ok: true; id?: number } | { ok: false; message: string; ask?: string }

/**
 * A form on a draft, which carries what it was opened on. Where the draft changed since, the form stays as it is, hears how the draft is
 * now, and may be kept once more on top of that.
 */
export function useSeen(view: PanelView) {
	const [opened, setOpened] = useState(view)
	const [trouble, setTrouble] = useState('')
	const [now, setNow] = useState<PanelView | null>(null)
	/** Does an act with what was seen; gives its outcome, and how the draft is now where it changed meanwhile. */
	const keep = async (
		work: (seen: number) => Promise<Outcome>,
	): Promise<{ outcome: Outcome; now: PanelView | null }> => {
		const outcome = await answered(work(opened.seen))
		setTrouble(outcome.ok ? '' : outcome.message)
		if (outcome.ok || outcome.ask !== 'changed') return { outcome, now: null }
		const answer = await fetch(`/api/documents/${opened.document.id}/panel`).catch(() => null)
		const next: PanelView | null = answer?.ok ? await answer.json() : null
		if (next) setOpened(next)
		setNow(next)
		return { outcome, now: next }
	}
	return { opened, trouble, now, keep }
}
