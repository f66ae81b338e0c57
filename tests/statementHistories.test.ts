import fc from 'fast-check'
import { expect, test } from 'vitest'
import { addDays, type Day } from '@/core/calendar'
import type { StatementChoice, StatementContent } from '@/core/statement'
import { verifyContent } from '@/kinds'
import { leaveInPeace, notePromise } from '@/runs/customers/promises'
import { verify } from '@/runs/issue/verify'
import { drafter } from '@/runs/statements/draft'
import type { Books } from '@/store/books'
import { allCustomers, everyCustomer, oneCustomer } from '@/store/customers'
import { addApplication, addItem } from '@/store/ledger'
import { changeSettings } from '@/store/settings'
import { choice } from './stated'
import { desk, firmBooks } from './support'
import { walks } from './walks'

// Statements of accounts of any kind, in every form, against a reckoning of its own: whole pence, added up day by day from what was entered,
// what was applied from which day on, disputes and promises.

type Item = {
	debit: boolean
	pence: number
	/** Days before 31 October: of the item; days of its terms; days after which some of it was settled, and how much of a hundred. */
	age: number
	terms: number
	settled: { after: number; share: number } | null
	/** Days after its own from which it is in dispute, and for how long. */
	dispute: { after: number; days: number } | null
}
const days = (most: number) => fc.integer({ min: 0, max: most })
const item: fc.Arbitrary<Item> = fc.record({
	debit: fc.integer({ min: 0, max: 3 }).map((one) => one > 0),
	pence: fc.integer({ min: 2, max: 50_000 }),
	age: days(150),
	terms: days(40),
	settled: fc.option(fc.record({ after: days(90), share: fc.integer({ min: 1, max: 100 }) })),
	dispute: fc.option(fc.record({ after: days(60), days: fc.integer({ min: 1, max: 60 }) }), { freq: 4 }),
})
const asOf = '2026-10-31'

/** What the model knows of an item: from which day, due when, how much, and what was settled of it when. */
type Known = {
	debit: boolean
	pence: number
	day: Day
	due: Day
	settled: { day: Day; pence: number } | null
	dispute: [Day, Day] | null
}
const openOn = ({ day, pence, settled }: Known, on: Day) =>
	day > on ? 0 : pence - (settled && settled.day <= on ? settled.pence : 0)
const disputedOn = ({ dispute }: Known, on: Day) => dispute !== null && dispute[0] <= on && on < dispute[1]
const sum = (items: Known[], of: (one: Known) => number) => items.reduce((total, one) => total + of(one), 0)
const balanceOn = (items: Known[], on: Day) => sum(items, (one) => (one.debit ? openOn(one, on) : -openOn(one, on)))
const lateOn = (items: Known[], on: Day) =>
	sum(items, (one) => (one.debit && one.due < on && !disputedOn(one, on) ? openOn(one, on) : 0))
const creditsOn = (items: Known[], on: Day) => sum(items, (one) => (one.debit ? 0 : openOn(one, on)))

function enter(books: Books, customer: number, items: Item[]): Known[] {
	return items.map(({ debit, pence, age, terms, settled, dispute }, place) => {
		const day = addDays(asOf, -age)
		const due = debit ? addDays(day, terms) : day
		const id = addItem(books, desk, {
			...{ customer_id: customer, kind: debit ? 'invoice' : 'payment', side: debit ? 'debit' : 'credit' },
			...{ number: `N-${customer}-${place}`, day, due_day: due, currency: 'GBP', amount: pence, their_order: '' },
			...{ note: '', document_id: null, extract_id: null },
		})
		const part = settled && {
			day: addDays(day, settled.after),
			pence: Math.max(1, Math.floor((pence * settled.share) / 100)),
		}
		if (part)
			addApplication(books, desk, {
				...{ debit_id: debit ? id : null, credit_id: debit ? null : id, day: part.day },
				...{ amount: part.pence, reason: 'settled' },
			})
		const from = dispute && addDays(day, dispute.after)
		const to = dispute && from && addDays(from, dispute.days)
		if (from && to)
			books.db
				.prepare(`INSERT INTO dispute (item_id, since, note, ended, at, clerk) VALUES (?, ?, 'wet', ?, 'x', 'x')`)
				.run(id, from, to)
		return { debit, pence, day, due, settled: part, dispute: from && to ? [from, to] : null }
	})
}

const pence = (text: string) => Math.round(Number(text) * 100)

test('statements of any ledger, in every form, say what a reckoning by itself says, and none contradicts itself', () => {
	const account = fc.record({
		items: fc.array(item, { minLength: 1, maxLength: 9 }),
		promise: fc.option(fc.record({ pence: fc.integer({ min: 1, max: 40_000 }), ahead: days(30) })),
		peace: fc.option(fc.integer({ min: -5, max: 20 }), { freq: 5 }),
	})
	const forms = fc.record({
		form: fc.constantFrom('open items', 'balance forward') as fc.Arbitrary<StatementChoice['form']>,
		show: fc.constantFrom('all', 'past-due') as fc.Arbitrary<StatementChoice['show']>,
		credits: fc.constantFrom('apart', 'left out') as fc.Arbitrary<StatementChoice['credits']>,
		back: fc.integer({ min: 0, max: 60 }),
	})
	fc.assert(
		fc.property(fc.array(account, { minLength: 3, maxLength: 3 }), forms, (accounts, { form, show, credits, back }) => {
			const books = firmBooks()
			changeSettings(books, desk, { workDate: asOf })
			const since = addDays(asOf, -back)
			const known = accounts.map(({ items }, place) => enter(books, place + 1, items))
			accounts.forEach(({ promise, peace }, place) => {
				const customer = place + 1
				if (promise) {
					const given = { customer, day: addDays(asOf, promise.ahead), currency: 'GBP', note: '' }
					expect(notePromise(books, desk, { ...given, amount: (promise.pence / 100).toFixed(2) }).ok).toBe(true)
				}
				if (peace !== null) leaveInPeace(books, desk, customer, addDays(asOf, peace), 'flood')
			})
			const wanted = choice({ form, show, credits, since: form === 'balance forward' ? since : '', least: 0 })
			const drafted = drafter(books, 1, wanted, everyCustomer)(allCustomers(books))
			accounts.forEach(({ promise, peace }, place) => {
				const own = known[place] ?? []
				const draft = drafted.find(({ customer }) => customer.id === place + 1)
				const moved = own.some(
					({ day, settled }) => day >= since || (settled !== null && settled.day >= since && settled.day <= asOf),
				)
				const open = own.some((one) => openOn(one, asOf) > 0)
				// Every account with something open has one; carried forward, one that moved and ends at nothing has one too.
				if (!draft) {
					expect([open, form === 'balance forward' && moved]).toEqual([false, false])
					return
				}
				const content: StatementContent = draft.content
				const late = lateOn(own, asOf)
				const owed = Math.max(0, late - creditsOn(own, asOf))
				const promised = Math.min(owed, promise?.pence ?? 0)
				expect(pence(content.balance)).toBe(balanceOn(own, asOf))
				expect(pence(content.pastDue)).toBe(late)
				expect([pence(content.asked), pence(content.promised)]).toEqual([owed - promised, promised])
				expect(pence(content.asked)).toBeLessThanOrEqual(Math.max(0, balanceOn(own, asOf)))
				expect(pence(content.total)).toBe(content.show === 'past-due' ? owed - promised : balanceOn(own, asOf))
				expect(verifyContent(content)).toBe('')
				// A first letter is the first, and none goes in peace or where nothing is asked for.
				const inPeace = peace !== null && peace >= 0
				expect(content.stage).toBe(late > 0 && owed - promised > 0 && !inPeace ? 1 : 0)
				if (form === 'balance forward') {
					// It opens with what the statement of the day before closed with.
					expect(pence(content.opening)).toBe(balanceOn(own, addDays(since, -1)))
					const change = content.movements.reduce((total, one) => total + pence(one.change), 0)
					expect(pence(content.opening) + change).toBe(pence(content.balance))
				} else {
					const listed = content.items.reduce((total, one) => total + pence(one.open), 0)
					const shown =
						show === 'past-due'
							? late
							: credits === 'left out'
								? balanceOn(own, asOf) + creditsOn(own, asOf)
								: balanceOn(own, asOf)
					expect(listed).toBe(shown)
				}
				// Drafted anew by itself it is the very same, and so is true.
				const alone = drafter(books, 1, wanted, oneCustomer(place + 1))([draft.customer])
				expect(alone.map((one) => one.content)).toEqual([content])
			})
			// Entries are put in here as they are, by no act; all else holds.
			const held = verify(books).filter(({ check }) => check !== 'what was set is as the last act left it')
			expect(held.flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: walks(15) },
	)
})
