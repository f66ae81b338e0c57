import type { Metadata } from 'next'
import Link from 'next/link'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { registerNumber } from '@/core/register'
import { givenNumbers, registerFor } from '@/store/registers'
import { PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { books } from '../books'
import { RegisterForm } from './RegisterForm'

export const metadata: Metadata = { title: 'Number registers' }

export default function RegistersPage() {
	const own = books()
	const register = registerFor(own, 'invoice')
	const given = register ? givenNumbers(own, register.id, 200) : []
	return (
		<>
			<PageHead
				title="Number registers"
				about={
					register ? (
						<>
							The next invoice will be{' '}
							<span className="figures font-semibold text-ink">{registerNumber(register, register.next)}</span>
						</>
					) : (
						'How your invoices are numbered'
					)
				}
			/>
			<Section title="Invoices">
				<RegisterForm
					register={register ?? { kind: 'invoice', prefix: 'INV-', digits: 5, next: 1 }}
					isNew={!register}
					key={JSON.stringify(register)}
				/>
			</Section>
			{given.length > 0 && (
				<Section title="Numbers given" aside="The latest 200; each belongs to one document for good">
					<Table
						label="Numbers given"
						rows={given}
						rowKey={({ number }) => number}
						columns={[
							{
								key: 'number',
								label: 'Number',
								cell: ({ number, document_id }) => (
									<Link prefetch={false} href={`/documents/${document_id}`} className="figures text-plum underline">
										{number}
									</Link>
								),
							},
							{ key: 'customer', label: 'Customer', cell: ({ customer_name }) => customer_name },
							{ key: 'day', label: 'Date', cell: ({ day }) => dayText(day) },
							{
								key: 'total',
								label: 'Total',
								figures: true,
								cell: ({ total, currency }) => `${formatMinor(total, currency)} ${currency}`,
							},
						]}
					/>
				</Section>
			)}
		</>
	)
}
