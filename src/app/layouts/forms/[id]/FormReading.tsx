'use client'
import { useRouter } from 'next/navigation'
import { useEffect } from 'react'

/** Asks now and then whether the form is read, and reads the page anew when it is. */
export function FormReading({ id }: { id: number }) {
	const router = useRouter()
	useEffect(() => {
		let over = false
		let timer = 0
		const ask = async () => {
			try {
				const answer = await fetch(`/api/forms/${id}/state`)
				const state: { over: boolean } = await answer.json()
				if (over) return
				if (state.over) return router.refresh()
			} catch {
				// The line is broken for a moment; it is asked again.
			}
			timer = window.setTimeout(ask, document.hidden ? 3000 : 300)
		}
		timer = window.setTimeout(ask, 150)
		return () => {
			over = true
			window.clearTimeout(timer)
		}
	}, [id, router])
	return <p role="status">Reading the form …</p>
}
