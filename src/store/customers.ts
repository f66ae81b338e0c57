import { z } from 'zod'
import { areMailboxes } from '@/core/addresses'
import { companions, isCompanionList } from '@/core/companions'
import { currencyCode } from '@/core/currency'
import { ofTexts } from '@/core/customerTexts'
import { percentCode } from '@/core/decimal'
import { parseTerms } from '@/core/dueDate'
import { groupings } from '@/core/grouping'
import { ownColumnSchema } from '@/core/ownFields'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

/** Which customers, by id: those above `after`, up to and with `upTo`. */
export type Span = { after: number; upTo: number }
/** All customers of the books. */
export const everyCustomer: Span = { after: 0, upTo: Number.MAX_SAFE_INTEGER }
/** A single customer. */
export const oneCustomer = (id: number): Span => ({ after: id - 1, upTo: id })
/** From the first to the last of some customers; none for none. */
export const spanOf = (ids: readonly number[]): Span =>
	ids.reduce((span, id) => ({ after: Math.min(span.after, id - 1), upTo: Math.max(span.upTo, id) }), {
		after: Number.POSITIVE_INFINITY,
		upTo: Number.NEGATIVE_INFINITY,
	})

export const customerSchema = z.object({
	number: z.string().trim().min(1, 'Every customer needs a number.'),
	name: z.string().trim().min(1, 'Every customer needs a name.'),
	address: z.string().trim(),
	country: z.string().trim(),
	email: z.string().trim(),
	...ofTexts(() => z.string().trim()),
	currency: currencyCode,
	locale: z.string().trim(),
	terms: z
		.string()
		.trim()
		.refine(
			(text) => parseTerms(text) !== null,
			'Write terms such as "30 days", "30 days from end of month", "day 15 of next month" or "on receipt".',
		),
	tax: z.enum(['standard', 'exempt', 'reverse-charge']),
	tax_number: z.string().trim(),
	grouping: z.enum(groupings),
	credit_limit: z.number().int().nullable(),
	/** Why nothing is to be billed to them at present; empty when it may be. */
	hold: z.string().trim(),
	/** 1 when they want their purchase order on every invoice. */
	wants_order: z.union([z.literal(0), z.literal(1)]),
	note: z.string().trim(),
	/** Percent that they always get on a document; '0' for none. */
	discount: percentCode('A standing discount is a percent from 0 to 100, such as 5.'),
	/** Where statements go; empty: where invoices go. */
	statement_email: z.string().trim().refine(areMailboxes, 'Statements go to an email address.'),
	/** Who else gets what is sent to them, with commas between. */
	cc: z.string().trim().refine(areMailboxes, 'Copies go to email addresses with commas between.'),
	/** 1 when they get statements. */
	statements: z.union([z.literal(0), z.literal(1)]),
	/** What goes to them beside the PDF: empty as the firm has it, "none", or formats with commas between. */
	beside: z
		.string()
		.refine(
			(list) => list === 'none' || isCompanionList(list),
			`Beside the PDF go ${companions.join(', ')}, with commas between, or none.`,
		)
		.default(''),
	/** What opens the PDF that they are sent: empty for nothing, the key of a field, "own" for their own password. */
	lock: z.string().default(''),
	/** Where goods go, a line each; empty: to the address. */
	delivery: z.string().trim().default(''),
	/** Values of the firm's own fields, JSON by key. */
	own: ownColumnSchema,
})
export type CustomerFields = z.input<typeof customerSchema>

/** A customer of whom nothing is known but a number: what holds until something is said. */
export const blankCustomer = (number: string, currency: string): CustomerFields => ({
	number,
	name: '',
	address: '',
	country: '',
	email: '',
	...ofTexts(() => ''),
	currency,
	locale: 'en-GB',
	terms: '30 days',
	tax: 'standard',
	tax_number: '',
	grouping: 'order',
	credit_limit: null,
	hold: '',
	wants_order: 0,
	note: '',
	discount: '0',
	statement_email: '',
	cc: '',
	statements: 1,
})
export type Customer = z.infer<typeof customerSchema> & { id: number }

// The fields are named in the schema alone; a customer has a column for each.
const fields = Object.keys(customerSchema.shape)
const columns = ['id', ...fields].join(', ')

/** One customer; null where there is none. */
export function readCustomer({ sql }: Books, id: number): Customer | null {
	return sql<[number], Customer>(`SELECT ${columns} FROM customer WHERE id = ?`).get(id) ?? null
}

/** The customer with a number, in any case; null where there is none. */
export function customerByNumber({ sql }: Books, number: string): Customer | null {
	return (
		sql<[string], Customer>(`SELECT ${columns} FROM customer WHERE number = ? COLLATE NOCASE AND id > 0`).get(number) ??
		null
	)
}

/** How many customers the books have. */
export const customerCount = ({ sql }: Books): number =>
	sql<[], { n: number }>('SELECT count(*) AS n FROM customer WHERE id > 0').get()?.n ?? 0

/** Every customer, by name. */
export function allCustomers({ sql }: Books): Customer[] {
	return sql<[], Customer>(`SELECT ${columns} FROM customer WHERE id > 0 ORDER BY name COLLATE NOCASE`).all()
}

export type CustomerSummary = Customer & {
	waiting: number
	invoices: number
	last_invoice: string | null
}

/** Every customer with what waits to be billed and what was invoiced. */
export function customerSummaries({ sql }: Books): CustomerSummary[] {
	return sql<[], CustomerSummary>(
		`SELECT ${columns},
			(SELECT count(*) FROM order_in o WHERE o.customer_id = customer.id AND o.billed = 0) AS waiting,
			(SELECT count(*) FROM document d WHERE d.customer_id = customer.id AND d.number IS NOT NULL) AS invoices,
			(SELECT max(day) FROM document d WHERE d.customer_id = customer.id AND d.number IS NOT NULL) AS last_invoice
		 FROM customer WHERE id > 0 ORDER BY name COLLATE NOCASE`,
	).all()
}

/** Adds a customer, or changes the one of that number. Says which it did. */
export function saveCustomer(books: Books, desk: Desk, fieldsGiven: CustomerFields): 'added' | 'changed' | 'same' {
	const given = { delivery: '', own: '{}', beside: '', lock: '', ...fieldsGiven }
	return inOneStep(books, () => {
		const known = customerByNumber(books, given.number)
		if (known) {
			const { id, ...before } = known
			if (Object.entries(given).every(([key, value]) => before[key as keyof CustomerFields] === value)) return 'same'
			books
				.sql<[CustomerFields & { id: number }]>(
					`UPDATE customer SET ${fields.map((field) => `${field} = @${field}`).join(', ')} WHERE id = @id`,
				)
				.run({ ...given, id })
			record(books, desk, { subject: 'customer', id, act: 'changed the customer', before, after: given })
			return 'changed'
		}
		const { lastInsertRowid } = books
			.sql<[CustomerFields]>(
				`INSERT INTO customer (${fields.join(', ')}) VALUES (${fields.map((field) => `@${field}`).join(', ')})`,
			)
			.run(given)
		record(books, desk, { subject: 'customer', id: Number(lastInsertRowid), act: 'added the customer', after: given })
		return 'added'
	})
}

/** What opens the PDFs of a document's customer; empty for none, null where there is no such document. */
export const lockOfDocument = ({ sql }: Books, documentId: number): string | null =>
	sql<[number], { lock: string }>(
		'SELECT k.lock FROM document d JOIN customer k ON k.id = d.customer_id WHERE d.id = ?',
	).get(documentId)?.lock ?? null

/** Customers, by id, who get their orders grouped otherwise than when a run was begun, by the record. */
export const regroupedSince = ({ sql }: Books, runId: number): Map<number, Customer['grouping']> =>
	new Map(
		sql<[string], Pick<Customer, 'id' | 'grouping'>>(
			`SELECT k.id, k.grouping FROM event e JOIN customer k ON k.id = CAST(e.subject_id AS INTEGER)
			 WHERE e.id IN (
				SELECT min(id) FROM event WHERE id > (SELECT min(id) FROM event WHERE subject = 'run' AND subject_id = ?)
					AND subject = 'customer' AND json_extract(before, '$.grouping') IS NOT NULL GROUP BY subject_id)
				AND json_extract(e.before, '$.grouping') <> k.grouping`,
		)
			.all(String(runId))
			.map(({ id, grouping }) => [id, grouping]),
	)
