'use client'
import { useEffect, useRef } from 'react'

/** After a request that failed, ms. */
const afterFault = 2000

/**
 * Asks an address again and again, a short request each: any number of tabs may do that, where a browser holds but six lines open. Nothing
 * is asked while the tab is hidden; once it is seen again, at once.
 * @param url null for not asking
 * @param heard hears each answer, and gives the ms until the next is asked for; null ends it
 */
export function useAsked<Answer>(url: string | null, heard: (answer: Answer) => number | null): void {
	const hear = useRef(heard)
	hear.current = heard
	useEffect(() => {
		if (url === null) return
		let over = false
		let timer = 0
		let seen = () => {}
		const ask = async () => {
			let wait: number | null = afterFault
			try {
				const answer = await fetch(url, { cache: 'no-store' })
				if (over) return
				if (answer.ok) wait = hear.current(await answer.json())
			} catch {
				// The line is broken for a moment; it is asked again.
			}
			if (over || wait === null) return
			timer = window.setTimeout(() => {
				if (!document.hidden) return void ask()
				seen = () => {
					if (document.hidden || over) return
					document.removeEventListener('visibilitychange', seen)
					void ask()
				}
				document.addEventListener('visibilitychange', seen)
			}, wait)
		}
		void ask()
		return () => {
			over = true
			window.clearTimeout(timer)
			document.removeEventListener('visibilitychange', seen)
		}
	}, [url])
}
