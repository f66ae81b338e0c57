import { notFound } from 'next/navigation'
import { PictureOf } from '@/app/OwnPictures'
import { numberColumn } from '@/app/paperParts/columns'
import { VersionTable } from '@/app/paperParts/VersionTable'
import { dayText, isDay } from '@/core/calendar'
import { formatMinor, formatTime } from '@/core/format'
import { readOwn } from '@/core/ownFields'
import { netsOfOrders } from '@/runs/drafts/orderNets'
import { lockFields } from '@/runs/files/lock'
import { accountOf } from '@/runs/receivables/account'
import type { Books } from '@/store/books'
import { chasesOf, peaceOf, promisesOf } from '@/store/chases'
import { oneCustomer, readCustomer } from '@/store/customers'
import { eventsOf } from '@/store/events'
import { attemptsOfCustomer } from '@/store/messages'
import { ordersOfCustomer } from '@/store/orders'
import { ownFieldsOf } from '@/store/ownFields'
import { allPaperKinds } from '@/store/paperKinds'
import { recordsOfCustomer } from '@/store/paperRecords'
import { documentsOfCustomer } from '@/store/places'
import { passwordSetAt } from '@/store/seal'
import { readSettings } from '@/store/settings'
import { Chip } from '@/ui/Chip'
import Link from '@/ui/Link'
import { PageHead, Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'
import { idOf, reading } from '../../reading'
import { CustomerForm } from '../CustomerForm'
import { AccountSection, mostOpen } from './AccountSection'
import { Chasing } from './Chasing'
import { MoreAsks } from './MoreAsks'
import { mostOffered } from './offered'
import { PaymentAsk } from './PaymentAsk'

/** The past-due letters that went to a customer, by the names of their stages. */
function lettersOf(books: Books, customer: number, currency: string, today: string) {
	const { stages } = readSettings(books)
	const { written } = chasesOf(books, today, oneCustomer(customer))(customer, currency)
	return [...written]
		.sort((a, b) => (a.day < b.day ? -1 : 1))
		.map(({ stage, day }) => ({ name: stages[stage - 1]?.name ?? `letter ${stage}`, day }))
}

type Props = {
	params: Promise<{ id: string }>
	searchParams: Promise<{ currency?: string; bucket?: string; asOf?: string; page?: string }>
}

/** One customer: what they owe, what happened, what waits, what was invoiced and sent, and their particulars. */
export default async function AccountPage({ params, searchParams }: Props) {
	const { books, today } = await reading()
	const { currency: onlyCurrency, bucket = '', asOf: asked = '', page: askedPage = '1' } = await searchParams
	const page = Math.max(1, Math.floor(Number(askedPage)) || 1)
	const asOf = isDay(asked) ? asked : today
	const customer = readCustomer(books, idOf((await params).id))
	// Customer 0 stands for recipients who are none.
	if (!customer || customer.id === 0) notFound()
	const orders = ordersOfCustomer(books, customer.id)
	const nets = netsOfOrders(books, orders)
	const invoices = documentsOfCustomer(books, customer.id)
	const messages = attemptsOfCustomer(books, customer.id)
	const shown = { bucket, currency: onlyCurrency ?? '', page, most: mostOpen, offered: mostOffered + 1 }
	const accounts = accountOf(books, customer.id, asOf, shown)
	const ownFields = ownFieldsOf(books, 'customer')
	const papers = recordsOfCustomer(books, customer.id)
	const kinds = Object.fromEntries(allPaperKinds(books, true).map(({ key, name }) => [key, name]))
	const none = (words: string) => <p className="px-5 pb-4 text-mute">{words}</p>
	return (
		<>
			<PageHead
				title={customer.name}
				about={
					<>
						<span className="figures">{customer.number}</span>
						{`, ${customer.terms}, ${customer.email || 'no email: printed'}`}
					</>
				}
			>
				<MoreAsks
					customer={customer.id}
					number={customer.number}
					today={today}
					currencies={[...new Set([customer.currency, ...accounts.map(({ currency }) => currency)])]}
				/>
				<PaymentAsk
					customer={customer.id}
					name={customer.name}
					today={today}
					accounts={[...new Set([customer.currency, ...accounts.map(({ currency }) => currency)])].map((currency) => ({
						currency,
						debits: accounts.find((account) => account.currency === currency)?.debits ?? [],
					}))}
				/>
			</PageHead>
			<div className="px-5 pb-3 text-mute">{customer.address.split('\n').join(', ')}</div>
			<span id="items" />
			{accounts.length === 0 && (
				<Section title="What they owe">{none('Nothing was ever entered on this account.')}</Section>
			)}
			{accounts.map((account) => {
				const picked = onlyCurrency === account.currency ? bucket : ''
				return (
					<AccountSection
						key={account.currency}
						account={account}
						customer={customer}
						asOf={asOf}
						today={today}
						bucket={picked}
						page={page}
						link={(wanted, at = 1) =>
							`/accounts/${customer.id}?${new URLSearchParams({ currency: account.currency, bucket: wanted, asOf, ...(at > 1 ? { page: String(at) } : {}) })}#items`
						}
					/>
				)
			})}
			<Section title="Past-due letters">
				<Chasing
					customer={customer.id}
					currency={accounts[0]?.currency ?? customer.currency}
					today={today}
					peaceNow={peaceOf(books, customer.id)}
					promises={promisesOf(books, customer.id)}
					letters={lettersOf(books, customer.id, accounts[0]?.currency ?? customer.currency, today)}
				/>
			</Section>
			<Section title="Orders" aside={`${orders.filter(({ billed }) => !billed).length} of ${orders.length} wait`}>
				{orders.length === 0 ? (
					none('No order of theirs was brought in yet.')
				) : (
					<ScrollBox label="All orders" height={256}>
						<Table
							label="Orders"
							rows={orders}
							rowKey={({ id }) => id}
							columns={[
								{ key: 'number', label: 'Order', cell: ({ number }) => <span className="figures">{number}</span> },
								{ key: 'day', label: 'Date', cell: ({ day }) => dayText(day) },
								{ key: 'po', label: 'Their order', cell: ({ purchase_order }) => purchase_order },
								{
									key: 'net',
									label: 'Net',
									figures: true,
									cell: ({ id, currency }) => `${formatMinor(nets.get(id) ?? 0, currency)} ${currency}`,
								},
								{
									key: 'state',
									label: 'State',
									cell: ({ billed, run_id, document_id }) =>
										billed && document_id ? (
											<Link href={`/documents/${document_id}`} className="text-plum underline">
												billed
											</Link>
										) : run_id ? (
											<Link href={`/runs/${run_id}`} className="text-plum underline">{`in run ${run_id}`}</Link>
										) : (
											<Chip tone="look">waits</Chip>
										),
								},
							]}
						/>
					</ScrollBox>
				)}
			</Section>
			<Section title="Invoices" aside={`${invoices.length}`}>
				{invoices.length === 0 ? (
					none('No invoice yet.')
				) : (
					<ScrollBox label="All invoices" height={256}>
						<Table
							label="Invoices"
							rows={invoices}
							rowKey={({ id }) => id}
							columns={[
								numberColumn(),
								{ key: 'day', label: 'Date', cell: ({ day }) => dayText(day) },
								{ key: 'due', label: 'Due', cell: ({ due_day }) => dayText(due_day) },
								{
									key: 'orders',
									label: 'Orders',
									cell: ({ order_numbers }) => <span className="figures !whitespace-normal">{order_numbers}</span>,
								},
								{
									key: 'total',
									label: 'Total',
									figures: true,
									cell: ({ total, currency }) => `${formatMinor(total, currency)} ${currency}`,
								},
								{
									key: 'state',
									label: 'Sent',
									cell: ({ message_state, printed_at }) => (printed_at ? 'printed' : (message_state ?? '')),
								},
							]}
						/>
					</ScrollBox>
				)}
			</Section>
			{papers.length > 0 && (
				<Section title="Other papers" aside={`${papers.length}`}>
					<ScrollBox label="All other papers" height={256}>
						<VersionTable papers={papers} none="" kinds={kinds} />
					</ScrollBox>
				</Section>
			)}
			<Section title="Messages" aside={`${messages.length}`}>
				{messages.length === 0 ? (
					none('Nothing was sent to them yet.')
				) : (
					<ScrollBox label="All messages" height={256}>
						<Table
							label="Messages"
							rows={messages}
							rowKey={({ id }) => id}
							columns={[
								{
									key: 'at',
									label: 'When',
									cell: ({ id, at }) => (
										<Link href={`/sent-log/${id}`} className="figures text-plum underline">
											{formatTime(at)}
										</Link>
									),
								},
								{ key: 'to', label: 'To', cell: ({ recipient }) => recipient },
								{ key: 'subject', label: 'Subject', cell: ({ subject }) => subject },
								{ key: 'outcome', label: 'Outcome', cell: ({ outcome }) => outcome },
							]}
						/>
					</ScrollBox>
				)}
			</Section>
			<Section title="Particulars">
				<CustomerForm
					customer={customer}
					home={customer.currency}
					ownFields={ownFields}
					lockFields={lockFields(books)}
					hasPassword={passwordSetAt(books, customer.id) !== null}
				/>
				{ownFields
					.filter(({ type }) => type === 'picture')
					.map((field) => (
						<div key={field.key} className="px-5 pb-4">
							<PictureOf
								of="customer"
								code={customer.number}
								field={field}
								picture={readOwn(customer.own)[field.key] ?? ''}
							/>
						</div>
					))}
			</Section>
			<Section title="What happened">
				<ul className="px-5 pb-6 text-sm">
					{eventsOf(books, 'customer', customer.id, 30).map(({ id, at, clerk, act }) => (
						<li key={id}>
							<span className="figures text-mute">{formatTime(at)}</span> <span className="font-semibold">{clerk}</span>{' '}
							{act}
						</li>
					))}
				</ul>
			</Section>
		</>
	)
}
