/** What the documents of a run may be numbered by. */
export const numberings = ['customer', 'order-day', 'order-number'] as const
export type Numbering = (typeof numberings)[number]
export const numberingName: Record<Numbering, string> = {
	customer: 'customer',
	'order-day': 'order date',
	'order-number': 'order number',
}

/** Of a document: its customer's name, and day and number of its first order. */
export type NumberingKey = { customer: string; day: string; order: string }

const words = new Intl.Collator('en', { numeric: true })

const rules: Record<Numbering, (a: NumberingKey, b: NumberingKey) => number> = {
	customer: (a, b) => words.compare(a.customer, b.customer) || words.compare(a.order, b.order),
	'order-day': (a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : words.compare(a.order, b.order)),
	'order-number': (a, b) => words.compare(a.order, b.order),
}

/** Compares two documents by what they are numbered by; 9 comes before 10 in names and order numbers. */
export const compareForNumbering = (by: Numbering): ((a: NumberingKey, b: NumberingKey) => number) => rules[by]
