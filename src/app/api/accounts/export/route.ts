import writeXlsx from 'write-excel-file/node'
import { accountsQuery, sortAccounts } from '@/app/accounts/query'
import { books, today } from '@/app/books'
import { csvFile } from '@/app/csv'
import { amountText, minorDigits } from '@/core/currency'
import { agedAccounts, buckets } from '@/store/ledger'

const head = ['Customer number', 'Customer', 'Currency', ...buckets, 'Credits', 'Past due', 'Disputed', 'Balance']

/** The accounts as the page shows them, all of them: `as=csv` or `as=xlsx`. */
export async function GET(request: Request): Promise<Response> {
	const params = Object.fromEntries(new URL(request.url).searchParams)
	const query = accountsQuery(params, today())
	const rows = sortAccounts(agedAccounts(books(), query.asOf), query)
	const amounts = (row: (typeof rows)[number]) => [
		...row.buckets,
		-row.credits,
		row.past_due,
		row.disputed,
		row.balance,
	]
	const file = `accounts ${query.asOf}`
	if (params.as === 'xlsx') {
		const bold = (value: string) => ({ value, fontWeight: 'bold' as const })
		const sheet = await writeXlsx(
			[
				head.map(bold),
				...rows.map((row) => [
					{ value: row.number },
					{ value: row.name },
					{ value: row.currency },
					...amounts(row).map((minor) => ({
						value: minor / 10 ** minorDigits(row.currency),
						format: minorDigits(row.currency) === 0 ? '#,##0' : `#,##0.${'0'.repeat(minorDigits(row.currency))}`,
					})),
				]),
			],
			{ columns: head.map((name) => ({ width: name === 'Customer' ? 34 : 15 })), sheet: query.asOf },
		).toBuffer()
		return new Response(new Uint8Array(sheet), {
			headers: {
				'content-type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
				'content-disposition': `attachment; filename="${file}.xlsx"`,
			},
		})
	}
	const lines = rows.map((row) => [
		row.number,
		row.name,
		row.currency,
		...amounts(row).map((minor) => amountText(BigInt(minor), row.currency)),
	])
	return csvFile(`${file}.csv`, [head, ...lines])
}
