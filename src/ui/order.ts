import type { Column } from './column'

/** What of a page's address says how its list is sorted, and else narrows it. */
export type Search = Record<string, string | undefined>

export type Sorts = { by: string; down: boolean } & ({ to: (key: string) => string } | { on: (key: string) => void })

/** The links of a table's heads: a column first up, then down; what else the address says stays. */
export function sortLinks(path: string, params: Search): Sorts {
	const { sort = '', down = '' } = params
	return {
		by: sort,
		down: down === '1',
		to: (key) => {
			const next = new URLSearchParams()
			for (const [name, value] of Object.entries(params))
				if (value && name !== 'sort' && name !== 'down') next.set(name, value)
			next.set('sort', key)
			if (sort === key && down !== '1') next.set('down', '1')
			return `${path}?${next}`
		},
	}
}

/** The rows as the address sorts them; as they come where it says nothing, or names no column that sorts. */
export function inOrder<Row>(rows: Row[], columns: readonly Column<Row>[], { sort, down }: Search): Row[] {
	const by = columns.find(({ key }) => key === sort)?.sort
	return by ? sorted(rows, by, down === '1') : rows
}

/** Rows sorted by a value of each, texts as people sort them; equal ones stay as they were. */
export function sorted<Row>(rows: readonly Row[], by: (row: Row) => string | number, down: boolean): Row[] {
	const turn = down ? -1 : 1
	return rows
		.map((row) => ({ row, value: by(row) }))
		.sort(({ value: a }, { value: b }) =>
			typeof a === 'number' && typeof b === 'number' ? turn * (a - b) : turn * collator.compare(String(a), String(b)),
		)
		.map(({ row }) => row)
}

const collator = new Intl.Collator('en-GB', { numeric: true, sensitivity: 'base' })
