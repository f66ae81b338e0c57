import type { z } from 'zod'
import { ownText, readOwn } from '@/core/ownFields'
import { type IntakeRecord, takeRecords } from '@/intake/records'
import { sha256 } from '@/intake/sha256'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { type Books, inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { noteRowTaken, rowsTaken } from '@/store/rowsTaken'
import { hereBefore } from '../review'
import {
	type Entered,
	type Entering,
	eachRecord,
	type KindRules,
	restWords,
	standing,
	type Taken,
	type Taking,
} from './kind'

/**
 * Fields of the books that files or people call otherwise: the column that fills it, what it is called where it changes, and what is said
 * where a new record lacks it.
 */
type Names = Record<string, { column?: string; said?: string; missing?: string }>

/** A kind of record that the books have once, by its key: a customer, an item, a tax code. */
type Master<Schema extends z.ZodType> = {
	one: string
	several: string
	schema: Schema
	names: Names
	/** What a new one has where the file says nothing. */
	fresh: (taking: Taking) => object
	/** How one is found that the books have: what they have of it, and whether it counts as new all the same. */
	known: (taking: Taking) => (key: string) => { before: object | undefined; isNew: boolean }
	/** Why a record cannot be taken though it is whole: the column, and the remedy. */
	refused?: (whole: Record<string, unknown>, taking: Taking) => [field: string, remedy: string] | null
	save: (books: Books, desk: Desk, record: z.infer<Schema>) => 'added' | 'changed' | 'same'
}

/** A record over what the books have: what the file has no column for stays, also what it does not know of (hold, note, how papers leave). */
function mergeRecord(
	known: object | undefined,
	fresh: object,
	fields: IntakeRecord['fields'],
): Record<string, unknown> {
	const before: Record<string, unknown> = { ...fresh, ...known }
	const own = ownText({
		...(typeof before.own === 'string' ? readOwn(before.own) : {}),
		...(typeof fields.own === 'string' ? readOwn(fields.own) : {}),
	})
	return { ...before, ...fields, ...(fields.own === undefined ? {} : { own }) }
}

const said = (value: unknown): string =>
	value === null || value === undefined || value === '' ? 'nothing' : String(value).replace(/\n/g, ', ')

function changesOf(
	before: object,
	after: Record<string, unknown>,
	names: Names,
): { field: string; was: string; now: string }[] {
	return Object.entries(before).flatMap(([field, was]) => {
		if (field === 'id' || after[field] === undefined || String(after[field] ?? '') === String(was ?? '')) return []
		return [{ field: names[field]?.said ?? field, was: said(was), now: said(after[field]) }]
	})
}

/** Takes records, each with what changes, field by field. */
function take<Schema extends z.ZodType>(master: Master<Schema>, taking: Taking): Taken {
	const { books, fileId, known, reading, decided, rows, refuse, left, record } = taking
	const entered = rowsTaken(books, fileId)
	const [fresh, find] = [master.fresh(taking), master.known(taking)]
	const home = {
		homeCurrency: known.home,
		currencyOf: (number: string) => known.customers.get(number.toUpperCase())?.currency,
	}
	let taken = 0
	takeRecords(rows, reading, decided, home, known.ownFields, {
		refuse,
		left,
		record: ({ row, key, fields }, tell) => {
			const says = sha256(JSON.stringify(fields)).slice(0, 20)
			if (entered.get(row) === says) {
				taken++
				return record({
					key,
					first_row: row,
					standing: hereBefore,
					brief: '{"name":"","changes":[]}',
					body: '',
					said: says,
				})
			}
			const { before, isNew } = find(key)
			const whole = mergeRecord(before, fresh, fields)
			const parsed = master.schema.safeParse(whole)
			const [issue] = parsed.error?.issues ?? []
			if (issue) {
				const name = String(issue.path[0] ?? '')
				const { column = name, missing } = master.names[name] ?? {}
				return tell(column, missing !== undefined && whole[name] === '' ? missing : issue.message)
			}
			const why = master.refused?.(whole, taking)
			if (why) return tell(...why)
			const full = parsed.data as Record<string, unknown>
			const changes = isNew || !before ? [] : changesOf(before, full, master.names)
			taken++
			record({
				key,
				first_row: row,
				standing: isNew ? 'added' : changes.length > 0 ? 'changed fields' : 'same',
				brief: JSON.stringify({ name: String(full.name ?? full.description ?? ''), changes }),
				body: JSON.stringify(full),
				said: says,
			})
		},
	})
	return { rows: taken }
}

function enter<Schema extends z.ZodType>(
	{ several, schema, save }: Master<Schema>,
	{ books, desk, file, staging, review }: Entering,
): Entered {
	const counts = { added: 0, changed: 0, same: 0 }
	for (const { standing, first_row, body, said } of eachRecord(staging)) {
		if (standing === hereBefore) continue
		noteRowTaken(books, file.id, first_row, said)
		counts[save(books, desk, schema.parse(JSON.parse(body)))]++
	}
	if (counts.added + counts.changed > 0) askToLookAgain(books, desk, `a file of ${several}`)
	const words = `${counts.added} ${several} were added, ${counts.changed} changed, ${counts.same} were the same${restWords(review)}.`
	return { words, left: { ...review, standings: {} } }
}

/** The rules of a kind of file whose rows are records of the books. */
export const masterRules = <Schema extends z.ZodType>(master: Master<Schema>): KindRules => ({
	take: (taking) => take(master, taking),
	enter: (entering, end) => inOneStep(entering.books, () => end(enter(master, entering))),
	countToAccept: (review) => standing(review, 'added', 'changed fields', 'same'),
	one: master.one,
	several: master.several,
})
