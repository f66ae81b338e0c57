import { countYear, mayClash, type RegisterShape, valueIn } from '@/core/register'
import { capital } from '@/core/wording'
import type { KindName } from '@/kinds'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'
import { likeOf } from './like'
import { kindIn } from './paperKinds'

type Register = RegisterShape & { id: number; kind: KindName }

const columns = 'id, kind, prefix, digits, first, yearly'

/** Every number register, by kind. */
export const allRegisters = ({ sql }: Books): Register[] =>
	sql<[], Register>(`SELECT ${columns} FROM register ORDER BY kind`).all()

/** The number register of a kind; null where none is open. */
export function registerFor({ sql }: Books, kind: string): Register | null {
	return sql<[string], Register>(`SELECT ${columns} FROM register WHERE kind = ?`).get(kind) ?? null
}

/** The value that a register gives next to a document of a year; each year of a yearly one counts by itself. */
export const nextValue = ({ sql }: Books, register: Register, year: number): number =>
	sql<[number, number], { next: number }>('SELECT next FROM register_count WHERE register_id = ? AND year = ?').get(
		register.id,
		countYear(register, year),
	)?.next ?? register.first

/** The highest value given under a year; null for none. */
const highest = ({ sql }: Books, register: Register, year: number): number | null =>
	sql<[number, number], { value: number | null }>(
		'SELECT max(register_value) AS value FROM document WHERE register_id = ? AND register_year = ?',
	).get(register.id, countYear(register, year))?.value ?? null

export type RegisterForm = Omit<Register, 'id'> & {
	/** The value to give next to a document of `year`; the same as it would be changes nothing. */
	next: number
	year: number
}

/**
 * Sets how a register writes its numbers, and, where `next` differs from what it would be, which comes next in its year. What is
 * moved over is noted as left out when the next number is given, so that moving on and back leaves nothing behind.
 */
export function saveRegister(
	books: Books,
	desk: Desk,
	{ next, year, ...shape }: RegisterForm,
): { ok: true } | { ok: false; message: string } {
	return inOneStep(books, () => {
		const before = registerFor(books, shape.kind)
		// Counted as it will be: a register that begins again each year from now on has given none in this one.
		const counting = before && { ...before, yearly: shape.yearly }
		const nextBefore = counting && nextValue(books, counting, year)
		const clash = allRegisters(books).find(({ kind, prefix }) => kind !== shape.kind && mayClash(prefix, shape.prefix))
		if (clash)
			return {
				ok: false,
				message: `${capital(kindIn(books, clash.kind).words.nouns)} have the prefix ${clash.prefix || 'none'}; with ${shape.prefix || 'none'} a number could come twice. Choose another prefix.`,
			}
		const given = counting && highest(books, counting, year)
		const taken = firstTaken(books, shape, before, { next, year, given: given ?? 0 })
		if (taken) return taken
		if (before && next !== nextBefore && given != null && next <= given)
			return { ok: false, message: `Number ${given} is given already; the next one must be above it.` }
		books
			.sql<[Omit<Register, 'id'>]>(
				`INSERT INTO register (kind, prefix, digits, first, yearly) VALUES (@kind, @prefix, @digits, @first, @yearly)
				 ON CONFLICT (kind) DO UPDATE SET prefix = @prefix, digits = @digits, first = @first, yearly = @yearly`,
			)
			.run(shape)
		const register = registerFor(books, shape.kind)
		if (register && next !== nextValue(books, register, year)) {
			const moved = given != null && next > given + 1
			books
				.sql<(string | number | null)[]>(
					`INSERT INTO register_count (register_id, year, next, moved_by, moved_at) VALUES (?, ?, ?, ?, ?)
					 ON CONFLICT (register_id, year) DO UPDATE SET next = excluded.next, moved_by = excluded.moved_by, moved_at = excluded.moved_at`,
				)
				.run(register.id, countYear(register, year), next, moved ? desk.clerk : null, moved ? desk.now() : null)
		}
		record(books, desk, {
			subject: 'register',
			id: shape.kind,
			act: 'set the number register',
			before: before && { ...before, next: nextBefore },
			after: { ...shape, next },
		})
		return { ok: true }
	})
}

/**
 * Why a register as it would be cannot give its next numbers: one that was given, in whatever kind and year, would come again. Says which,
 * and from what next number on it is free; null where none would.
 */
function firstTaken(
	{ sql }: Books,
	shape: RegisterShape,
	before: Register | null,
	{ next, year, given }: { next: number; year: number; given: number },
): { ok: false; message: string } | null {
	const [fixed = ''] = shape.prefix.split('{year}')
	const numbers = sql<[string], { number: string }>(
		`SELECT number FROM document WHERE number LIKE ? ESCAPE '\\' ORDER BY number`,
	).all(likeOf(fixed).begin)
	const counts = new Map(
		before
			? sql<[number], { year: number; next: number }>('SELECT year, next FROM register_count WHERE register_id = ?')
					.all(before.id)
					.map((row) => [row.year, row.next])
			: [],
	)
	const here = countYear(shape, year)
	/** From what value on the register gives numbers of a year. */
	const from = (of: number | null) => {
		const counted = shape.yearly === 1 ? (of ?? year) : 0
		return counted === here ? next : (counts.get(counted) ?? shape.first)
	}
	const met = numbers.flatMap(({ number }) => {
		const found = valueIn(shape, number)
		return found && found.value >= from(found.year) ? [{ number, ...found }] : []
	})
	const [first] = met
	if (!first) return null
	const soon = met.filter((one) => shape.yearly === 0 || one.year === null || one.year === year)
	const free = Math.max(given, ...soon.map(({ value }) => value)) + 1
	const remedy = soon.length > 0 ? `From next number ${free} on it is free` : `Choose another prefix`
	return {
		ok: false,
		message: `${first.number} was given already, and this register would come to it again. ${remedy}${soon.length > 0 ? ', or choose another prefix' : ''}.`,
	}
}

/** Why a register as it stands cannot give its next number of a year, with what to do; null where it can. */
export function whyNotNext(books: Books, register: Register, year: number): string | null {
	const next = nextValue(books, register, year)
	const taken = firstTaken(books, register, register, { next, year, given: highest(books, register, year) ?? 0 })
	return taken && `${taken.message} Set it under Number registers.`
}

/**
 * Takes `count` values from a register for documents of a year, and notes what was left out before them by a person who moved it on.
 * Only inside the transaction that gives the numbers.
 * @returns the first of them
 */
export function takeValues(books: Books, desk: Desk, register: Register, year: number, count: number): number {
	const { sql } = books
	const start = nextValue(books, register, year)
	const counted = countYear(register, year)
	const last = highest(books, register, year)
	const row = sql<[number, number], { moved_by: string | null; moved_at: string | null }>(
		'SELECT moved_by, moved_at FROM register_count WHERE register_id = ? AND year = ?',
	).get(register.id, counted)
	if (last !== null && start > last + 1)
		sql<(string | number)[]>(
			'INSERT INTO register_skip (register_id, year, first, last, at, clerk) VALUES (?, ?, ?, ?, ?, ?)',
		).run(register.id, counted, last + 1, start - 1, row?.moved_at ?? desk.now(), row?.moved_by ?? desk.clerk)
	sql<[number, number, number]>(
		`INSERT INTO register_count (register_id, year, next) VALUES (?, ?, ?)
		 ON CONFLICT (register_id, year) DO UPDATE SET next = excluded.next, moved_by = NULL, moved_at = NULL`,
	).run(register.id, counted, start + count)
	return start
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
