'use client'
import { useEffect, useState } from 'react'
import type { BenchView } from '@/runs/bench/view'

type Page = { rows: BenchView[]; count: number; version: string }

/** The run's rows: those that came with the page, and all of a long run once they are fetched. */
export function useRows(runId: number, { rows, count, version }: Page): BenchView[] {
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
