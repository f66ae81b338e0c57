import type { Metadata } from 'next'
import Link from 'next/link'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { type CustomerSummary, customerSummaries } from '@/store/customers'
import { buttonLook } from '@/ui/Button'
import { FilterForm } from '@/ui/FilterForm'
import { Empty, PageHead } from '@/ui/Page'
import { type Column, Table } from '@/ui/Table'
import { books } from '../books'

export const metadata: Metadata = { title: 'Accounts' }

const columns: Column<CustomerSummary>[] = [
	{ key: 'number', label: 'Number', cell: ({ number }) => <span className="figures">{number}</span> },
	{
		key: 'name',
		label: 'Customer',
		cell: ({ id, name }) => (
			<Link prefetch={false} href={`/accounts/${id}`} className="font-semibold text-plum underline">
				{name}
			</Link>
		),
	},
	{ key: 'email', label: 'Email', cell: ({ email }) => email || <span className="text-ochre">none: printed</span> },
	{ key: 'terms', label: 'Terms', cell: ({ terms }) => terms },
	{ key: 'currency', label: 'Currency', cell: ({ currency }) => <span className="figures">{currency}</span> },
	{ key: 'waiting', label: 'Orders waiting', figures: true, cell: ({ waiting }) => waiting || '' },
	{
		key: 'net',
		label: 'Net waiting',
		figures: true,
		cell: ({ waiting, waiting_net, currency }) => (waiting > 0 ? formatMinor(waiting_net, currency) : ''),
	},
	{ key: 'invoices', label: 'Invoices', figures: true, cell: ({ invoices }) => invoices || '' },
	{
		key: 'last',
		label: 'Last invoice',
		figures: true,
		cell: ({ last_invoice }) => (last_invoice ? dayText(last_invoice) : ''),
	},
]

export default async function AccountsPage({ searchParams }: { searchParams: Promise<{ show?: string }> }) {
	const { show = '' } = await searchParams
	const customers = customerSummaries(books())
	const plain = show.trim().toLowerCase()
	const shown = customers.filter(({ name, number, email }) =>
		`${name} ${number} ${email}`.toLowerCase().includes(plain),
	)
	return (
		<>
			<PageHead
				title="Accounts"
				about={customers.length > 0 ? `${shown.length} of ${customers.length} customers` : 'Your customers'}
			>
				<Link href="/accounts/new" className={buttonLook()}>
					Add a customer
				</Link>
			</PageHead>
			{customers.length === 0 ? (
				<Empty title="There are no customers yet">
					<p>Customers come in with a CSV file (number, name, address, email, terms), or one by one.</p>
					<Link href="/bring-in" className={buttonLook('main')}>
						Bring in a file of customers
					</Link>
				</Empty>
			) : (
				<>
					<FilterForm words={show} placeholder="Filter by name, number or address, then Enter" />
					<Table label="Customers" columns={columns} rows={shown} rowKey={({ id }) => id} />
				</>
			)}
		</>
	)
}
