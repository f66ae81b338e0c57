import type { Day } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import type { OrderForm } from '@/intake/orderForm'
import { keepTyped, lineOf, lookInto, rowOf, type Written } from '@/runs/drafts/orderForm'
import { type Books, inOneStep } from '@/store/books'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { formMark, markAccepted } from '@/store/files'
import { readPaperKind } from '@/store/paperKinds'
import { addRecord, papersOf, readRecord, recordOfFile, withdrawRecord } from '@/store/paperRecords'

/**
 * Keeps what was typed for a kind of paper: a record of its own, that no run of invoices takes. Sent twice, it is one. What it is worth is
 * frozen in it: prices and texts that were looked up stay as they were seen.
 */
export function writeRecord(books: Books, desk: Desk, kindId: number, form: OrderForm, today: Day): Written {
	return inOneStep(books, (): Written => {
		const kind = readPaperKind(books, kindId)
		if (!kind || kind.away_at || kind.records !== 'form')
			return { ok: false, message: 'This kind of paper is no longer written. Choose another.', seen: null }
		const before = recordOfFile(books, formMark(form.key))
		if (before) return { ok: true, ...before, words: `${kind.name} ${before.number} was saved already.` }
		const { seen, made, freightTax } = lookInto(books, form, today, kind)
		const customer = made && readCustomer(books, made.customerId)
		if (!made || !customer)
			return {
				ok: false,
				message: `${seen.troubles.length === 1 ? 'One thing is' : `${seen.troubles.length} things are`} to be mended.`,
				seen,
			}
		const name = `${kind.name} ${made.number}`
		const file = keepTyped(books, desk, name, form.key, { ...form, number: made.number })
		markAccepted(books, desk, file, `${name}, written in the order form`)
		const order = { ...rowOf(made, customer, freightTax), source_file_id: file, source_file: name }
		const id = addRecord(books, desk, {
			kindId,
			customerId: customer.id,
			fileId: file,
			number: made.number,
			day: made.day,
			// No line of an order stands behind these: they are told apart by their place.
			body: { order, lines: made.lines.map((line, place) => ({ ...lineOf(line, place), id: 0 })) },
		})
		record(books, desk, { subject: 'paper record', id, act: `wrote ${name}`, detail: customer.name })
		return {
			ok: true,
			id,
			number: made.number,
			words: `${name} for ${customer.name} is kept; its paper is yet to be made.`,
		}
	})
}

/** Withdraws what was typed. Its open drafts are stopped by a check; what is issued stays, and can no longer be accepted. */
export function withdraw(books: Books, desk: Desk, recordId: number, reason: string): Outcome {
	const words = reason.trim()
	if (words === '') return no('Say why it is withdrawn; the reason is kept.')
	return inOneStep(books, (): Outcome => {
		const found = readRecord(books, recordId)
		if (!found || found.order_id !== null) return no('An order of the books is withdrawn from its own page.')
		if (!withdrawRecord(books, desk, recordId, words)) return no('It was withdrawn before.')
		record(books, desk, {
			subject: 'paper record',
			id: recordId,
			act: 'withdrew it',
			detail: `${found.number}: ${words}`,
		})
		const issued = papersOf(books, recordId).filter(({ stands, number }) => stands === 1 && number !== null)
		return {
			ok: true,
			words:
				issued.length > 0 ? `${issued.map(({ number }) => number).join(', ')} stays issued; tell its customer.` : '',
		}
	})
}
