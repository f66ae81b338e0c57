'use client'
import { useMemo, useState } from 'react'
import { type Sorts, sorted } from './order'

/** Rows sorted in the browser by the heads of their list: a column first up, then down, then as they came. */
export function useSorted<Row>(
	rows: Row[],
	by: Record<string, (row: Row) => string | number>,
): { rows: Row[]; sorts: Sorts & { on: (key: string) => void } } {
	const [order, setOrder] = useState({ key: '', down: false })
	const value = by[order.key]
	const out = useMemo(() => (value ? sorted(rows, value, order.down) : rows), [rows, order.key, order.down])
	const on = (key: string) =>
		setOrder((now) =>
			now.key !== key ? { key, down: false } : now.down ? { key: '', down: false } : { key, down: true },
		)
	return { rows: out, sorts: { by: order.key, down: order.down, on } }
}
