import { type OpenDebit, type OpenItem, sharesOf } from '@/core/applying'
import { amountText } from '@/core/currency'
import { namedIn } from '@/core/references'
import { type IntakePayment, type Likely, takePayments } from '@/intake/payments'
import { type Books, inOneStep } from '@/store/books'
import { allDisputed, type LedgerRow, openDebits, openNotes, paymentLike } from '@/store/ledger'
import { noteRowTaken, rowsTaken } from '@/store/rowsTaken'
import { today, whyNotOn } from '../../receivables/days'
import { enterPayment, paymentNumber, paymentQuestions } from '../../receivables/payment'
import type { Known } from '../knownBooks'
import { hereBefore } from '../review'
import { type Entered, type Entering, eachRecord, type KindRules, restWords, type Taken, type Taking } from './kind'

/** Takes payments, each with what it would be applied to, one after the other as they would be entered. */
function takePaymentsIn({
	books,
	desk,
	fileId,
	known,
	reading,
	decided,
	rows,
	answers,
	refuse,
	left,
	record,
}: Taking): Taken {
	const debits = openDebits(books)
	const accounts = accountsOpen(books, debits)
	const names = new Map([...known.customers.values()].map(({ id, name, number }) => [id, `${number} ${name}`]))
	const totals = new Map<string, { currency: string; payments: number; amount: number }>()
	const entered = rowsTaken(books, fileId)
	let taken = 0
	const payments = {
		customer: known.customer,
		homeCurrency: known.home,
		whyNotOn: (day: string) => whyNotOn(books, desk, day),
		today: today(books, desk),
		likely: likelyIn(known, debits),
		before: (payment: { customerId: number; day: string; amount: number; currency: string; reference: string }) => {
			const found = paymentLike(books, payment)
			return found ? `entered ${found.entered_at.slice(0, 10)} by ${found.entered_by}` : null
		},
	}
	takePayments(rows, reading, decided, payments, {
		refuse,
		left,
		payment: (payment, found, words) => {
			const { row, currency, amount, customerId, day, reference } = payment
			const body = JSON.stringify(payment)
			const before = entered.get(row)
			if (before !== undefined && before !== body)
				return refuse({
					...{ row, field: '', place: null, column: 'the row', value: '' },
					remedy: `It was entered as it stood before. Correct that payment at its account, and take back what was corrected here.`,
				})
			taken++
			const standing = before === undefined ? found : hereBefore
			const enters = standing === 'new' || (standing === 'again' && answers.twice === 'enter')
			const key = `${customerId} ${currency}`
			const account = accounts.get(key) ?? { debits: [], credits: [] }
			const said = { reference: paymentNumber({ reference, day }), open: amount }
			const { shares, left: over } = enters
				? sharesOf(said, account.debits, reading.to, account.credits)
				: { shares: [], left: 0 }
			const used = new Map<number, number>()
			for (const { debit, credit, amount: part } of shares)
				for (const id of [debit.id, credit?.id ?? 0]) used.set(id, (used.get(id) ?? 0) + part)
			const rest = <Item extends OpenItem>(items: Item[]): Item[] =>
				used.size === 0
					? items
					: items
							.map((item) => ({ ...item, open: item.open - (used.get(item.id) ?? 0) }))
							.filter((item) => item.open > 0)
			accounts.set(key, { debits: rest(account.debits), credits: rest(account.credits) })
			if (enters) {
				const total = totals.get(currency) ?? { currency, payments: 0, amount: 0 }
				totals.set(currency, { currency, payments: total.payments + 1, amount: total.amount + amount })
			}
			record({
				key: reference,
				first_row: payment.row,
				standing,
				brief: JSON.stringify({
					customer: names.get(customerId) ?? '',
					day,
					currency,
					amount,
					applied: shares.map(({ debit, credit, amount: part }) => ({
						number: credit ? `${debit.number} from ${credit.number}` : debit.number,
						amount: part,
					})),
					over,
					words,
				}),
				body,
				said: body,
			})
		},
	})
	return { rows: taken, payments: [...totals.values()].sort((a, b) => b.payments - a.payments) }
}

/** What is open of each account, by `customer currency`: what payments may go to, and the credit notes that they may name. */
function accountsOpen(books: Books, debits: readonly LedgerRow[]) {
	const disputed = allDisputed(books)
	const accounts = new Map<string, { debits: OpenDebit[]; credits: OpenItem[] }>()
	const of = ({ customer_id, currency }: LedgerRow) => {
		const key = `${customer_id} ${currency}`
		const account = accounts.get(key) ?? { debits: [], credits: [] }
		accounts.set(key, account)
		return account
	}
	for (const debit of debits) of(debit).debits.push({ ...debit, disputed: disputed.has(debit.id) })
	for (const credit of openNotes(books)) of(credit).credits.push(credit)
	return accounts
}

const plain = (text: string): string =>
	text
		.normalize('NFKD')
		.toUpperCase()
		.replace(/[^\p{L}\p{N}]/gu, '')

/** Finds who a payment may be from: by a document's number in its reference, by its payer's name, by an amount that is owed just so. */
function likelyIn(known: Known, debits: LedgerRow[]) {
	const customers = new Map([...known.customers.values()].map((customer) => [customer.id, customer]))
	const numbers = debits.filter(({ number }) => plain(number).length >= 4)
	const named = [...customers.values()].map(({ id, name }) => ({ id, plain: plain(name) }))
	return ({
		reference,
		payer,
		amount,
		currency,
	}: {
		reference: string
		payer: string
		amount: number | null
		currency: string
	}): Likely[] => {
		const found = new Map<number, string>()
		for (const { number, customer_id } of namedIn(reference, numbers))
			if (!found.has(customer_id)) found.set(customer_id, `names ${number}`)
		const name = plain(payer)
		for (const { id, plain: own } of named)
			if (
				name.length >= 4 &&
				own.length >= 4 &&
				!found.has(id) &&
				(own.includes(name) || name.includes(own) || plain(reference).includes(own))
			)
				found.set(id, 'by name')
		if (found.size === 0 && amount !== null) {
			const owed = debits.filter((debit) => debit.open === amount && debit.currency === currency)
			for (const debit of owed.slice(0, 3))
				if (!found.has(debit.customer_id)) found.set(debit.customer_id, `owes just this on ${debit.number}`)
		}
		return [...found].slice(0, 3).flatMap(([id, why]) => {
			const customer = customers.get(id)
			return customer ? [{ number: customer.number, name: customer.name, why }] : []
		})
	}
}

function enterPayments({ books, desk, file, staging, review, reading, answers }: Entering): Entered {
	let entered = 0
	for (const { standing, first_row, body, said } of eachRecord(staging)) {
		if (standing === hereBefore) continue
		if (standing === 'again' && answers.twice !== 'enter') continue
		const payment: IntakePayment = JSON.parse(body)
		const outcome = enterPayment(books, desk, {
			customer: payment.customerId,
			day: payment.day,
			amount: amountText(BigInt(payment.amount), payment.currency),
			currency: payment.currency,
			reference: payment.reference,
			to: reading.to,
			sure: [...paymentQuestions],
		})
		if (!outcome.ok) throw new Error(outcome.message)
		noteRowTaken(books, file.id, first_row, said)
		entered++
	}
	const left =
		(review.standings.again ?? 0) > 0 && answers.twice !== 'enter'
			? `; ${review.standings.again} were entered before`
			: ''
	const words = `${entered === 1 ? '1 payment was' : `${entered} payments were`} entered${left}${restWords(review)}.`
	return { words, left: { ...review, standings: {}, payments: [] } }
}

export const paymentsRules: KindRules = {
	take: takePaymentsIn,
	enter: (entering, end) => inOneStep(entering.books, () => end(enterPayments(entering))),
	countToAccept: ({ payments }) => payments.reduce((sum, { payments: some }) => sum + some, 0),
	one: 'payment',
	several: 'payments',
}
