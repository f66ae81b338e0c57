import fc from 'fast-check'
import { expect, test } from 'vitest'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { correctValue } from '@/runs/bringIn/correct'
import { answer } from '@/runs/bringIn/receive'
import { fileView } from '@/runs/bringIn/view'
import { verify } from '@/runs/issue/verify'
import { enterPayment } from '@/runs/receivables/payment'
import type { Books } from '@/store/books'
import { customerByNumber, customerSchema, saveCustomer } from '@/store/customers'
import { changeSettings } from '@/store/settings'
import { customer, desk, firmBooks } from './support'
import { walks } from './walks'

// Files of payments and of customers that are accepted in part, mended and accepted again, with what people enter by hand in between, against
// a model that knows only what is written in which row.

type Row = { amount: string; reference: string; bad: boolean; entered: string | null }
type File = { id: number; rows: Row[]; enter: boolean }
type Model = { files: File[]; ledger: string[] }
const saysOf = ({ amount, reference }: Pick<Row, 'amount' | 'reference'>): string => `${reference} ${amount}`

const inBooks = (books: Books): string[] =>
	books.db
		.prepare<[], { number: string; amount: number }>(`SELECT number, amount FROM ledger_item WHERE kind = 'payment'`)
		.all()
		.map(({ number, amount }) => saysOf({ reference: number, amount: (amount / 100).toFixed(2) }))
		.sort()

const row = fc.record({
	amount: fc.constantFrom('5.00', '7.50'),
	reference: fc.constantFrom('R1', 'R2', 'R3'),
	bad: fc.boolean(),
})
const step = fc.record({
	act: fc.constantFrom('look', 'accept', 'accept', 'mend', 'mend', 'change', 'hand'),
	pick: fc.nat(1000),
	rows: fc.array(row, { minLength: 1, maxLength: 5 }),
})
type Step = typeof step extends fc.Arbitrary<infer T> ? T : never

/** What accepting enters: rows that can be read and were not entered, but those that look entered before where that was said to be left. */
function acceptInModel(model: Model, file: File): void {
	const before = [...model.ledger]
	for (const [place, one] of file.rows.entries()) {
		if (one.bad || one.entered !== null) continue
		const earlier = file.rows
			.slice(0, place)
			.some((other) => !other.bad && !isMixed(other) && saysOf(other) === saysOf(one))
		if ((earlier || before.includes(saysOf(one))) && !file.enter) continue
		model.ledger.push(saysOf(one))
		one.entered = saysOf(one)
	}
}
/** A row that was entered and corrected since is refused. */
const isMixed = (one: Row): boolean => one.entered !== null && one.entered !== saysOf(one)

async function accept(books: Books, model: Model, file: File): Promise<void> {
	const outcome = await acceptNow(books, desk, file.id)
	const again = outcome.ok ? outcome : await acceptNow(books, desk, file.id)
	if (again.ok) acceptInModel(model, file)
}

let made = 0
async function take(books: Books, model: Model, { act, pick, rows }: Step): Promise<void> {
	const file = model.files[pick % Math.max(1, model.files.length)]
	const correct = async (place: number, was: string, now: string) => {
		if (!file) return
		expect(correctValue(books, desk, file.id, { row: place + 2, place: 2, was, now })).toEqual({ ok: true })
		file.enter = pick % 3 === 0
		answer(books, desk, file.id, { twice: file.enter ? 'enter' : 'leave' })
		await doFileJobs(books, desk)
	}
	if (act === 'look') {
		const text = rows.map(
			({ amount, reference, bad }) => `2026-10-05,A1,${amount}${bad ? 'x' : ''},${reference},${made++}`,
		)
		const content = Buffer.from(`Payment date,Customer No,Amount,Reference,Remark\n${text.join('\n')}\n`)
		const id = await lookAt(books, desk, `payments ${made}.csv`, content)
		const enter = pick % 2 === 0
		answer(books, desk, id, { twice: enter ? 'enter' : 'leave' })
		await doFileJobs(books, desk)
		model.files.push({ id, enter, rows: rows.map((one) => ({ ...one, entered: null })) })
	}
	if (act === 'accept' && file) await accept(books, model, file)
	if (act === 'mend' && file) {
		const place = file.rows.findIndex(({ bad }) => bad)
		const one = file.rows[place]
		if (!one) return
		await correct(place, `${one.amount}x`, one.amount)
		one.bad = false
		if (pick % 2 === 0) await accept(books, model, file)
	}
	if (act === 'change' && file) {
		const place = pick % file.rows.length
		const one = file.rows[place]
		if (!one || one.bad) return
		const now = one.amount === '5.00' ? '7.50' : '5.00'
		await correct(place, one.amount, now)
		one.amount = now
		const refused = fileView(books, file.id, 1)?.refused.rows.map((refusal) => refusal.row) ?? []
		expect(refused.includes(place + 2)).toBe(isMixed(one))
	}
	if (act === 'hand') {
		const [one] = rows
		if (!one) return
		const { ok } = enterPayment(books, desk, {
			...{ customer: 1, day: '2026-10-05', currency: 'GBP', to: 'nothing' },
			...{ amount: one.amount, reference: one.reference, sure: ['again'] },
		})
		expect(ok).toBe(true)
		model.ledger.push(saysOf(one))
	}
}

test('each row of a file of payments is entered once, whatever is mended, accepted again or entered by hand', async () => {
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 20, maxLength: 20 }), async (steps) => {
			const books = firmBooks()
			changeSettings(books, desk, { workDate: '2026-11-30' })
			const model: Model = { files: [], ledger: [] }
			for (const [turn, one] of steps.entries()) {
				await take(books, model, one)
				expect([turn, one.act, inBooks(books)]).toEqual([turn, one.act, [...model.ledger].sort()])
			}
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: walks(5), endOnFailure: true },
	)
})

test('a customer that was changed by hand since a file was accepted stays so when another row of it is mended', async () => {
	const books = firmBooks()
	const file = (...rows: string[]) => Buffer.from(['Customer No,Customer name,Email,Terms', ...rows, ''].join('\n'))
	const email = (number: string) => customerByNumber(books, number)?.email
	const byHand = (number: string, address: string) =>
		saveCustomer(books, desk, customerSchema.parse({ ...customerByNumber(books, number), email: address }))
	saveCustomer(books, desk, customer('A1', { email: 'old@a1.example' }))
	const id = await lookAt(
		books,
		desk,
		'customers.csv',
		file('A1,Alder,file@a1.example,30 days', 'N9,Nord,n9@n9.example,whenever'),
	)
	// Changed by somebody while the file is in view: what it would change is another thing now, and is shown anew.
	byHand('A1', 'meanwhile@a1.example')
	expect(await acceptNow(books, desk, id)).toMatchObject({
		ok: false,
		message: expect.stringMatching(/changed since you looked/),
	})
	expect(email('A1')).toBe('meanwhile@a1.example')
	expect(fileView(books, id, 1)?.records[0]?.brief).toMatch(/meanwhile@a1\.example/)
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	expect(email('A1')).toBe('file@a1.example')

	byHand('A1', 'newest@a1.example')
	correctValue(books, desk, id, { row: 3, place: 3, was: 'whenever', now: 'net 30 EOM' })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, id)).toMatchObject({
		ok: true,
		words: '1 customers were added, 0 changed, 0 were the same.',
	})
	expect([email('A1'), email('N9')]).toEqual(['newest@a1.example', 'n9@n9.example'])
	// Its own row corrected is taken.
	correctValue(books, desk, id, { row: 2, place: 2, was: 'file@a1.example', now: 'asked@a1.example' })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	expect(email('A1')).toBe('asked@a1.example')
})
