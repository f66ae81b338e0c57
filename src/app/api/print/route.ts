import { csvFile } from '@/app/csv'
import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { amountText } from '@/core/currency'
import { printAll, printList } from '@/runs/files/printAll'
import { untrueOf } from '@/runs/statements/beforeSending'

/**
 * What is to be printed, in the order of the list: one PDF, or with `as=csv` the list itself; `run` takes those of one run.
 * Where statements among them are no longer true, the Postroom names them first, and `sure` prints them all the same.
 */
export const GET = answering(async ({ books, today }, request) => {
	const { searchParams } = new URL(request.url)
	const run = searchParams.get('run')
	const runId = run === null ? null : idOf(run)
	if (searchParams.get('as') === 'csv') {
		const rows = printList(books, runId).map(({ number, customer_name, day, currency, total }) => [
			number ?? '',
			customer_name,
			day,
			currency,
			amountText(BigInt(total), currency),
		])
		return csvFile('to print.csv', [['Number', 'Customer', 'Date', 'Currency', 'Total'], ...rows])
	}
	if (searchParams.get('sure') === null && untrueOf(books, today, printList(books, runId)).length > 0)
		return new Response(null, { status: 303, headers: { location: `/postroom?print=${runId ?? 'all'}` } })
	const pdf = await printAll(books, runId)
	if (!pdf) return new Response('Nothing is to be printed.', { status: 404 })
	return fileAnswer(pdf, { type: 'application/pdf', name: 'to print.pdf' })
})
