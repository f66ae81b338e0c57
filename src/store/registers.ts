import type { RegisterShape } from '@/core/register'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

/** Kinds of document that have a register of their own. */
export const registerKinds = ['invoice', 'credit-note', 'statement'] as const
export type RegisterKind = (typeof registerKinds)[number]
export type Register = RegisterShape & { id: number; kind: string }

const columns = 'id, kind, prefix, digits, next, first, yearly, year'

export const allRegisters = ({ sql }: Books): Register[] =>
	sql<[], Register>(`SELECT ${columns} FROM register ORDER BY kind`).all()

export function registerFor({ sql }: Books, kind: string): Register | null {
	return sql<[string], Register>(`SELECT ${columns} FROM register WHERE kind = ?`).get(kind) ?? null
}

/** Sets prefix, digits and next number; `next` may only go up once numbers were given. */
export function saveRegister(
	books: Books,
	desk: Desk,
	register: Omit<Register, 'id'>,
): { ok: true } | { ok: false; message: string } {
	return inOneStep(books, () => {
		const before = registerFor(books, register.kind)
		if (before) {
			const highest = books
				.sql<[number, number], { value: number | null }>(
					'SELECT max(register_value) AS value FROM document WHERE register_id = ? AND register_year = ?',
				)
				.get(before.id, register.yearly === 1 ? register.year : 0)?.value
			if (highest != null && register.next <= highest) {
				return { ok: false, message: `Number ${highest} is given already; the next one must be above it.` }
			}
		}
		books
			.sql<[Omit<Register, 'id'>]>(
				`INSERT INTO register (kind, prefix, digits, next, first, yearly, year) VALUES (@kind, @prefix, @digits, @next, @first, @yearly, @year)
				 ON CONFLICT (kind) DO UPDATE SET prefix = @prefix, digits = @digits, next = @next, first = @first, yearly = @yearly, year = @year`,
			)
			.run(register)
		if (
			before &&
			register.yearly === 0 &&
			before.yearly === 0 &&
			register.next > before.next &&
			given(books, before.id)
		) {
			books
				.sql<[number, number, number, string, string]>(
					'INSERT INTO register_skip (register_id, first, last, at, clerk) VALUES (?, ?, ?, ?, ?)',
				)
				.run(before.id, before.next, register.next - 1, desk.now(), desk.clerk)
		}
		record(books, desk, {
			subject: 'register',
			id: register.kind,
			act: 'set the number register',
			before,
			after: register,
		})
		return { ok: true }
	})
}

const given = ({ sql }: Books, registerId: number): boolean =>
	sql<[number], unknown>('SELECT 1 FROM document WHERE register_id = ? LIMIT 1').get(registerId) !== undefined

/** Moves a register on past the numbers just given. Only inside the transaction that gives them. */
export function advance({ sql }: Books, id: number, next: number, year: number): void {
	sql<[number, number, number]>('UPDATE register SET next = ?, year = ? WHERE id = ?').run(next, year, id)
}

export type GivenNumber = {
	number: string
	document_id: number
	customer_name: string
	day: string
	total: number
	currency: string
	void_reason: string | null
	void_by: string | null
	credits: string | null
	replaced_reason: string | null
	replaced_by: string | null
}

/** The numbers given, the latest first, each with what became of it. */
export const givenNumbers = ({ sql }: Books, registerId: number, most: number): GivenNumber[] =>
	sql<[number, number], GivenNumber>(
		`SELECT d.number, d.id AS document_id, d.customer_name, d.day, d.total, d.currency, d.void_reason, d.void_by, d.replaced_reason, d.replaced_by,
			(SELECT i.number FROM document i WHERE i.id = d.credits_id) AS credits FROM document d
		 WHERE d.register_id = ? ORDER BY d.register_year DESC, d.register_value DESC LIMIT ?`,
	).all(registerId, most)
