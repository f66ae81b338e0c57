import type { Books } from './books'

/** What rows of a file said when they were taken into the books, by row; of orders nothing, which keep their rows themselves. */
export const rowsTaken = ({ sql }: Books, fileId: number): Map<number, string> =>
	new Map(
		sql<[number], { row: number; said: string }>('SELECT row, said FROM row_taken WHERE file_id = ?')
			.all(fileId)
			.map(({ row, said }) => [row, said]),
	)

/** Notes what a row of a file said when it was taken, in place of what it said before. */
export const noteRowTaken = ({ sql }: Books, fileId: number, row: number, said: string): void => {
	sql<[number, number, string]>(
		'INSERT INTO row_taken (file_id, row, said) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET said = excluded.said',
	).run(fileId, row, said)
}

/** Whether a file brought just this order before, whatever became of it since; one that was taken back with its file does not count. */
export const broughtBefore = ({ sql }: Books, fileId: number, order: { number: string; sameAs: string }): boolean =>
	sql<[string, number, string], unknown>(
		`SELECT 1 FROM sales_order o JOIN acceptance a ON a.id = o.acceptance_id AND a.state = 'done'
		 WHERE o.same_as = ? AND o.source_file_id = ? AND o.number = ? COLLATE NOCASE`,
	).get(order.sameAs, fileId, order.number) !== undefined
