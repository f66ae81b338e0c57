import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

export type Register = { id: number; kind: string; prefix: string; digits: number; next: number }

export const allRegisters = ({ sql }: Books): Register[] =>
	sql<[], Register>('SELECT id, kind, prefix, digits, next FROM register ORDER BY kind').all()

export function registerFor({ sql }: Books, kind: string): Register | null {
	return sql<[string], Register>('SELECT id, kind, prefix, digits, next FROM register WHERE kind = ?').get(kind) ?? null
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
				.sql<[number], { value: number | null }>(
					'SELECT max(register_value) AS value FROM document WHERE register_id = ?',
				)
				.get(before.id)?.value
			if (highest != null && register.next <= highest) {
				return { ok: false, message: `Number ${highest} is given already; the next one must be above it.` }
			}
		}
		books
			.sql<[Omit<Register, 'id'>]>(
				`INSERT INTO register (kind, prefix, digits, next) VALUES (@kind, @prefix, @digits, @next)
				 ON CONFLICT (kind) DO UPDATE SET prefix = @prefix, digits = @digits, next = @next`,
			)
			.run(register)
		if (before && register.next > before.next && given(books, before.id)) {
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
export function advance({ sql }: Books, id: number, next: number): void {
	sql<[number, number]>('UPDATE register SET next = ? WHERE id = ?').run(next, id)
}

export type GivenNumber = {
	number: string
	document_id: number
	customer_name: string
	day: string
	total: number
	currency: string
}

/** The numbers given, the latest first. */
export const givenNumbers = ({ sql }: Books, registerId: number, most: number): GivenNumber[] =>
	sql<[number, number], GivenNumber>(
		`SELECT number, id AS document_id, customer_name, day, total, currency FROM document
		 WHERE register_id = ? ORDER BY register_value DESC LIMIT ?`,
	).all(registerId, most)
