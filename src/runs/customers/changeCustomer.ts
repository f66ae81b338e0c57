import { type Books, inOneStep } from '@/store/books'
import { type CustomerFields, customerByNumber, saveCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { askFor } from '@/store/jobs'
import { runsOpen } from '@/store/runs'

// A remedy that a check names works from where it is given: the runner looks at the drafts concerned again, at once.

/** Adds a customer, or changes one; their drafts in open runs follow. */
export function changeCustomer(books: Books, desk: Desk, fields: CustomerFields): 'added' | 'changed' | 'same' {
	return inOneStep(books, () => {
		const what = saveCustomer(books, desk, fields)
		const customer = what === 'changed' ? customerByNumber(books, fields.number) : null
		if (customer) askToLookAgain(books, desk, `customer ${customer.number}`, customer.id)
		return what
	})
}

/** Asks the runner to look at the drafts of open runs again, of one customer or all, since something that they depend on changed. */
export function askToLookAgain(books: Books, desk: Desk, why: string, customer: number | null = null): void {
	if (runsOpen(books).length > 0) askFor(books, desk, { kind: 'look again', customer, why })
}
