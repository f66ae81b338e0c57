import { csvFile } from '@/app/csv'
import { answering, idOf } from '@/app/reading'
import { refusedTable } from '@/runs/bringIn/refusedTable'

/** The refused rows of a file as CSV, one row each with its reasons; its corrected copy can be brought in. */
export const GET = answering(({ books }, _request, params) => {
	const table = refusedTable(books, idOf(params.id))
	return table
		? csvFile(`refused rows of ${table.name}.csv`, table.rows)
		: new Response('There is no such file.', { status: 404 })
})
