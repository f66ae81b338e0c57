'use client'
import { useRouter } from 'next/navigation'
import { useAsked } from '@/ui/useAsked'

/** Asks now and then whether the form is read, and reads the page anew when it is, until it is another. */
export function FormReading({ id }: { id: number }) {
	const router = useRouter()
	useAsked<{ over: boolean }>(`/api/forms/${id}/state`, ({ over }) => {
		if (!over) return 300
		router.refresh()
		return 1500
	})
	return <p role="status">Reading the form …</p>
}
