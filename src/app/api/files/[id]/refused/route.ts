import { csvFile } from '@/app/csv'
import { answering, idOf } from '@/app/reading'
import { reviewFile } from '@/runs/bringIn'

/** The refused rows of a file as CSV, with the reason of each beside it. */
export const GET = answering(({ books: own }, _request, params) => {
	const review = reviewFile(own, idOf(params.id))
	if (!review) return new Response('There is no such file.', { status: 404 })
	const cells = new Map(review.table.rows.map((row) => [row.row, row.cells]))
	const rows = review.refused.map(({ row, column, remedy }) => [row, column, remedy, ...(cells.get(row) ?? [])])
	const head = ['Row', 'Column', 'Remedy', ...review.table.head]
	return csvFile(`refused rows of ${review.file.name}`, [head, ...rows])
})
