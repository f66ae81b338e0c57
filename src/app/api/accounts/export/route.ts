import { accountsQuery, sortAccounts } from '@/app/accountQuery'
import { answering } from '@/app/reading'
import { tableFile } from '@/app/tableFile'
import { buckets } from '@/core/age'
import { agedAccounts } from '@/store/accounts'

const head = ['Customer number', 'Customer', 'Currency', ...buckets, 'Credits', 'Past due', 'Disputed', 'Balance']

/** The accounts as the page shows them, all of them: `as=csv` or `as=xlsx`. */
export const GET = answering(({ books, today }, request) => {
	const params = Object.fromEntries(new URL(request.url).searchParams)
	const query = accountsQuery(params, today)
	const rows = sortAccounts(agedAccounts(books, query.asOf), query).map((row) => {
		const { number, name, currency, credits, past_due, disputed, balance } = row
		const amounts = [...row.buckets, -credits, past_due, disputed, balance]
		return [number, name, currency, ...amounts.map((minor) => ({ minor, currency }))]
	})
	return tableFile({ name: `accounts ${query.asOf}`, head, rows }, params.as)
})
