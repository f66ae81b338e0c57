import { books } from '@/app/books'
import { reviewFile } from '@/runs/bringIn'

const quoted = (cell: string | number) => `"${String(cell).replaceAll('"', '""')}"`

/** The refused rows of a file as CSV, with the reason of each beside it. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const review = reviewFile(books(), Number((await params).id))
	if (!review) return new Response('There is no such file.', { status: 404 })
	const cells = new Map(review.table.rows.map((row) => [row.row, row.cells]))
	const rows = review.refused.map(({ row, column, remedy }) => [row, column, remedy, ...(cells.get(row) ?? [])])
	const csv = [['Row', 'Column', 'Remedy', ...review.table.head], ...rows]
		.map((row) => row.map(quoted).join(','))
		.join('\r\n')
	return new Response(`\ufeff${csv}\r\n`, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`refused rows of ${review.file.name}`)}`,
		},
	})
}
