'use server'
import { z } from 'zod'
import { plainAmount, typedAmount } from '@/core/currency'
import { no } from '@/core/outcome'
import { leaveInPeace, notePromise, promiseSchema, settlePromise } from '@/runs/customers/promises'
import { setLockedCustomer } from '@/runs/files/lock'
import { ownOfForm } from '@/runs/firm/ownFields'
import { undoAct } from '@/runs/receivables/acts'
import { applyCredit } from '@/runs/receivables/apply'
import { correctPayment, removeEntry } from '@/runs/receivables/correct'
import { debitNote, debitNoteSchema } from '@/runs/receivables/debitNote'
import { setDispute } from '@/runs/receivables/dispute'
import { chargeOrNote, sayKinds } from '@/runs/receivables/itemKind'
import { enterPayment, foreseen, paymentSchema } from '@/runs/receivables/payment'
import { refund, refundSchema } from '@/runs/receivables/refund'
import { returnedSchema, returnPayment } from '@/runs/receivables/returned'
import { setOff, setOffSchema } from '@/runs/receivables/setOff'
import { takeBack } from '@/runs/receivables/takeBack'
import { writeOff } from '@/runs/receivables/writeOff'
import { customerByNumber, customerSchema } from '@/store/customers'
import { ownFieldsOf } from '@/store/ownFields'
import { act, formed, id, look } from './seam'

export const pay = act(z.tuple([paymentSchema]), ({ books, desk }, payment) => enterPayment(books, desk, payment))
/** What a payment would be applied to, in words, as it is typed; nothing is entered. */
export const foresee = look(z.tuple([paymentSchema]), ({ books }, payment) => foreseen(books, payment))
export const applyTo = act(
	z.tuple([id, z.union([z.literal('oldest'), z.array(id), z.object({ reference: z.string().trim().min(1) })])]),
	({ books, desk }, creditId, to) => applyCredit(books, desk, creditId, to),
)
export const unapply = act(z.tuple([id]), ({ books, desk }, applicationId) => takeBack(books, desk, applicationId))
export const writeItemOff = act(z.tuple([id, z.string()]), ({ books, desk }, itemId, reason) =>
	writeOff(books, desk, itemId, reason),
)
export const dispute = act(z.tuple([id, z.string()]), ({ books, desk }, itemId, note) =>
	setDispute(books, desk, itemId, note),
)
export const sayKind = act(z.tuple([z.array(id), chargeOrNote]), ({ books, desk }, items, kind) =>
	sayKinds(books, desk, items, kind),
)
export const giveBack = act(z.tuple([refundSchema]), ({ books, desk }, given) => refund(books, desk, given))
export const cameBack = act(z.tuple([returnedSchema]), ({ books, desk }, given) => returnPayment(books, desk, given))
export const enterDebitNote = act(z.tuple([debitNoteSchema]), ({ books, desk }, given) => debitNote(books, desk, given))
export const setOffAgainst = act(z.tuple([setOffSchema]), ({ books, desk }, given) => setOff(books, desk, given))
export const removeItem = act(z.tuple([id, z.string()]), ({ books, desk }, itemId, reason) =>
	removeEntry(books, desk, itemId, reason),
)
export const correctItem = act(
	z.tuple([
		id,
		paymentSchema.pick({ day: true, amount: true, reference: true, to: true }).extend({ reason: z.string() }),
	]),
	({ books, desk }, itemId, is) => correctPayment(books, desk, itemId, is),
)
export const undoOnAccount = act(z.tuple([id]), ({ books, desk }, actId) => undoAct(books, desk, actId))
export const promise = act(z.tuple([promiseSchema]), ({ books, desk }, wanted) => notePromise(books, desk, wanted))
export const promiseEnded = act(z.tuple([id, id, z.boolean()]), ({ books, desk }, customerId, promiseId, kept) =>
	settlePromise(books, desk, customerId, promiseId, kept),
)
export const peace = act(z.tuple([id, z.string(), z.string()]), ({ books, desk }, customerId, until, reason) =>
	leaveInPeace(books, desk, customerId, until, reason),
)
export const setCustomer = formed(
	customerSchema.extend({ password: z.string() }),
	({ books, desk }, { password, ...fields }) => setLockedCustomer(books, desk, fields, password),
	(fields, _form, { books }) => {
		const limit = plainAmount(fields.credit_limit)
		const amount = typedAmount(limit, String(fields.currency).toUpperCase(), 'Credit limit')
		if (!amount.ok) return no(`Credit limit: ${amount.refusal.message}`)
		const known = customerByNumber(books, String(fields.number ?? '').trim())
		const own = ownOfForm(ownFieldsOf(books, 'customer'), known?.own ?? '{}', fields, false)
		if (!own.ok) return own
		return {
			...fields,
			own: own.own,
			password: typeof fields.password === 'string' ? fields.password : '',
			credit_limit: limit === '' ? null : amount.value,
			wants_order: fields.wants_order === 'on' ? 1 : 0,
			statements: fields.statements === 'on' ? 1 : 0,
		}
	},
)
