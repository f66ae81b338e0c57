import type { Column } from '@/ui/column'
import Link from '@/ui/Link'

// Columns that several lists have.

/** The number of a document, which leads to it. */
export const numberColumn = <Row extends { id: number; number: string | null }>(): Column<Row> => ({
	key: 'number',
	label: 'Number',
	cell: ({ id, number }) => (
		<Link href={`/documents/${id}`} className="figures text-plum underline">
			{number}
		</Link>
	),
})

/** What was ordered, and how much of it. */
export const orderedColumns = <
	Row extends { item_code: string; description: string; quantity: string; unit: string },
>(): Column<Row>[] => [
	{ key: 'item', label: 'Item', width: '130px', cell: ({ item_code }) => <span className="figures">{item_code}</span> },
	{ key: 'text', label: 'Text', cell: ({ description }) => description },
	{
		key: 'quantity',
		label: 'Quantity',
		figures: true,
		width: '120px',
		cell: ({ quantity, unit }) => `${quantity} ${unit}`,
	},
]
