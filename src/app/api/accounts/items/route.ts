import { customersOf, itemsQuery } from '@/app/accountQuery'
import { answering } from '@/app/reading'
import { tableFile } from '@/app/tableFile'
import { agedAccounts, itemsOwed } from '@/store/accounts'

const head = [
	...['Customer number', 'Customer', 'Document number', 'Kind', 'Document date', 'Due date', 'Their order'],
	...['Currency', 'Amount', 'Open', 'Disputed'],
]

/** The items that the page of items shows, all of them: `as=csv` or `as=xlsx`. */
export const GET = answering(({ books, today }, request) => {
	const params = Object.fromEntries(new URL(request.url).searchParams)
	const query = itemsQuery(params, today)
	if (query.currency === '') return new Response('Name the currency by its code, such as GBP.', { status: 400 })
	const { currency, asOf, pick } = query
	const customers = customersOf(agedAccounts(books, asOf), query)
	const rows = itemsOwed(books, { ...query, customers }, Number.MAX_SAFE_INTEGER).rows.map((item) => {
		const sign = item.side === 'debit' ? 1 : -1
		return [
			...[item.customer_number, item.name, item.number, item.kind, item.day, item.due_day, item.their_order, currency],
			...[item.amount, item.open].map((minor) => ({ minor: sign * minor, currency })),
			item.disputed ? 'yes' : '',
		]
	})
	return tableFile({ name: `open items ${pick && `${pick} `}${currency} ${asOf}`, head, rows }, params.as)
})
