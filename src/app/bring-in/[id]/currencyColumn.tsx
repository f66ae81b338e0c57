import type { ReactNode } from 'react'

/** The first column of every table of totals by currency. */
export const currencyColumn = {
	key: 'currency',
	label: 'Currency',
	width: '110px',
	cell: ({ currency }: { currency: string }): ReactNode => <span className="figures">{currency}</span>,
}
