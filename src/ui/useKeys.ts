'use client'
import { useEffect, useRef } from 'react'

/** Keys of a screen; they rest while something is typed, and while a question is open. */
export function useKeys(keys: Record<string, () => void>): void {
	const latest = useRef(keys)
	latest.current = keys
	useEffect(() => {
		const onKey = (event: KeyboardEvent) => {
			if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return
			const target = event.target instanceof HTMLElement ? event.target : null
			const typing = target?.closest('input, textarea, select, [contenteditable], [role=dialog]')
			if (typing || document.querySelector('[role=dialog]')) return
			// A focused button or link keeps its own Space and Enter.
			if ((event.key === ' ' || event.key === 'Enter') && target?.closest('button, a, summary')) return
			const act = latest.current[event.key === ' ' ? 'Space' : event.key]
			if (!act) return
			event.preventDefault()
			act()
		}
		document.addEventListener('keydown', onKey)
		return () => document.removeEventListener('keydown', onKey)
	}, [])
}
