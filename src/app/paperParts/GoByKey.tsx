'use client'
import { useRouter } from 'next/navigation'
import { useKeys } from '@/ui/useKeys'

/** Keys that lead to other pages. */
export function GoByKey({ keys }: { keys: Record<string, string> }) {
	const router = useRouter()
	useKeys(Object.fromEntries(Object.entries(keys).map(([key, path]) => [key, () => router.push(path)])))
	return null
}
