import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { unbilledNets } from '@/runs/drafts/orderNets'
import { type CustomerSummary, customerSummaries } from '@/store/customers'
import type { Column } from '@/ui/column'
import { FilterForm } from '@/ui/FilterForm'
import Link from '@/ui/Link'
import { inOrder, type Search, sortLinks } from '@/ui/order'
import { Table } from '@/ui/Table'
import { reading } from '../reading'

const columns: Column<CustomerSummary & { waiting_net: number }>[] = [
	{ key: 'number', label: 'Number', cell: ({ number }) => <span className="figures">{number}</span> },
	{
		key: 'name',
		label: 'Customer',
		cell: ({ id, name }) => (
			<Link href={`/accounts/${id}`} className="font-semibold text-plum underline">
				{name}
			</Link>
		),
	},
	{ key: 'email', label: 'Email', cell: ({ email }) => email || <span className="text-ochre">none: printed</span> },
	{ key: 'terms', label: 'Terms', sort: ({ terms }) => terms, cell: ({ terms }) => terms },
	{
		key: 'currency',
		label: 'Currency',
		sort: ({ currency }) => currency,
		cell: ({ currency }) => <span className="figures">{currency}</span>,
	},
	{
		key: 'waiting',
		label: 'Orders waiting',
		figures: true,
		sort: ({ waiting }) => waiting,
		cell: ({ waiting }) => waiting || '',
	},
	{
		key: 'net',
		sort: ({ waiting_net }) => waiting_net,
		label: 'Net waiting',
		figures: true,
		cell: ({ waiting, waiting_net, currency }) => (waiting > 0 ? formatMinor(waiting_net, currency) : ''),
	},
	{
		key: 'invoices',
		label: 'Invoices',
		figures: true,
		sort: ({ invoices }) => invoices,
		cell: ({ invoices }) => invoices || '',
	},
	{
		key: 'last',
		sort: ({ last_invoice }) => last_invoice ?? '',
		label: 'Last invoice',
		figures: true,
		cell: ({ last_invoice }) => (last_invoice ? dayText(last_invoice) : ''),
	},
]

/** Every customer, whether they owe anything or not, with what waits to be billed to them. */
export async function AllCustomers({ words, params }: { words: string; params: Search }) {
	const { books } = await reading()
	const plain = words.trim().toLowerCase()
	const nets = unbilledNets(books)
	const all = customerSummaries(books).map((one) => ({
		...one,
		waiting_net: nets.get(`${one.id} ${one.currency}`) ?? 0,
	}))
	const shown = all.filter(({ name, number, email }) => `${name} ${number} ${email}`.toLowerCase().includes(plain))
	return (
		<>
			<FilterForm words={words} keep={{ all: '1' }} placeholder="Filter by name, number or address, then Enter" />
			<Table
				label="Customers"
				columns={columns}
				rows={inOrder(shown, columns, params)}
				rowKey={({ id }) => id}
				sorts={sortLinks('/accounts', { ...params, all: '1' })}
			/>
		</>
	)
}
