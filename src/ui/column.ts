import type { ReactNode } from 'react'

/** A column of a list. */
export type Column<Row> = {
	key: string
	label: ReactNode
	/** Figures stand right and in the figures' type. */
	figures?: boolean
	width?: string
	/** What the list is sorted by when the head is chosen. */
	sort?: (row: Row) => string | number
	cell: (row: Row) => ReactNode
}
