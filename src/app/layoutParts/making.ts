'use client'
import { createContext, useContext } from 'react'
import type { Fields } from '@/layout/fields'
import type { Layout } from '@/layout/schema'

/** What every setting needs to know: the layout, its fields and what they are on the paper in view. */
export type Making = {
	layout: Layout
	fields: Fields
	examples: Record<string, string>
	change: (next: Layout, words: string) => void
}
export const MakingContext = createContext<Making | null>(null)

export function useMaking(): Making {
	const making = useContext(MakingContext)
	if (!making) throw new Error('There is no layout in the making here.')
	return making
}
