import { type Books, inOneStep } from '@/store/books'
import { type CustomerFields, customerByNumber, saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { askFor } from '@/store/jobs'
import { runsOpen } from '@/store/runs'
import { lookAgainEverywhere } from './lookAgain'

// A remedy that a check names works from where it is given: the drafts concerned are looked at again by themselves.

/** Adds a customer, or changes one; their drafts in open runs follow at once. */
export function mendCustomer(books: Books, desk: Desk, fields: CustomerFields): 'added' | 'changed' | 'same' {
	return inOneStep(books, () => {
		const what = saveCustomer(books, desk, fields)
		const customer = what === 'changed' ? customerByNumber(books, fields.number) : null
		if (customer) lookAgainEverywhere(books, desk, customer.id)
		return what
	})
}

/** Asks the runner to look at all drafts of open runs again, since something that they depend on changed. */
export function askToLookAgain(books: Books, desk: Desk, why: string): void {
	if (runsOpen(books).length > 0) askFor(books, desk, { kind: 'look again', customer: null, why })
}
