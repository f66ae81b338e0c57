import { csvFile } from '@/app/csv'
import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { amountText } from '@/core/currency'
import { printAll, printList } from '@/runs/printAll'

/** What is to be printed, in the order of the list: one PDF, or with `as=csv` the list itself; `run` takes those of one run. */
export const GET = answering(async ({ books: own }, request) => {
	const { searchParams } = new URL(request.url)
	const run = searchParams.get('run')
	const runId = run === null ? null : idOf(run)
	if (searchParams.get('as') === 'csv') {
		const rows = printList(own, runId).map(({ number, customer_name, day, currency, total }) => [
			number ?? '',
			customer_name,
			day,
			currency,
			amountText(BigInt(total), currency),
		])
		return csvFile('to print.csv', [['Number', 'Customer', 'Date', 'Currency', 'Total'], ...rows])
	}
	const pdf = await printAll(own, runId)
	if (!pdf) return new Response('Nothing is to be printed.', { status: 404 })
	return fileAnswer(pdf, { type: 'application/pdf', name: 'to print.pdf' })
})
