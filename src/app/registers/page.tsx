import type { Metadata } from 'next'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { registerNumber, yearOf } from '@/core/register'
import { capital } from '@/core/wording'
import { isNumbered, kindIn, kindsIn } from '@/store/paperKinds'
import { type GivenNumber, givenNumbers, nextValue, registerFor } from '@/store/registers'
import { Chip } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import Link from '@/ui/Link'
import { PageHead, Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'
import { reading } from '../reading'
import { RegisterForm } from './RegisterForm'

export const metadata: Metadata = { title: 'Number registers' }

const columns: Column<GivenNumber>[] = [
	{
		key: 'number',
		label: 'Number',
		cell: ({ number, document_id }) => (
			<Link href={`/documents/${document_id}`} className="figures text-plum underline">
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
	{
		key: 'state',
		label: 'What became of it',
		cell: ({ void_reason, void_by, credits, replaced_reason, replaced_by }) =>
			void_reason ? (
				<Chip tone="stop">{`void, ${void_by}: ${void_reason}`}</Chip>
			) : replaced_reason ? (
				<Chip tone="look">{`revised, ${replaced_by}: ${replaced_reason}`}</Chip>
			) : credits ? (
				`credits ${credits}`
			) : (
				''
			),
	},
]

export default async function RegistersPage() {
	const { books, today } = await reading()
	const year = yearOf(today)
	return (
		<>
			<PageHead
				title="Number registers"
				about="One for each kind of document; a number belongs to one document for good"
			/>
			{kindsIn(books)
				.filter((kind) => isNumbered(books, kind))
				.map((kind) => {
					const { words, register: unopened } = kindIn(books, kind)
					const register = registerFor(books, kind)
					const shape = register ?? { ...unopened, digits: 5, first: 1 }
					const next = register ? nextValue(books, register, year) : 1
					const given = register ? givenNumbers(books, register.id, 300) : []
					return (
						<Section
							key={kind}
							id={kind}
							title={capital(words.nouns)}
							aside={
								register ? (
									<>
										{'The next one will be '}
										<span className="figures font-semibold text-ink">{registerNumber(register, next, year)}</span>
									</>
								) : (
									'Not opened yet'
								)
							}
						>
							<RegisterForm register={{ ...shape, kind, next }} isNew={!register} workYear={year} />
							{given.length > 0 && (
								<ScrollBox label={`Numbers given to ${words.nouns}`} height={300}>
									<Table
										label={`Numbers of ${words.nouns}`}
										columns={columns}
										rows={given}
										rowKey={({ number }) => number}
									/>
								</ScrollBox>
							)}
						</Section>
					)
				})}
		</>
	)
}
