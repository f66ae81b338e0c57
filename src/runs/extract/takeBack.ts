import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import {
	applicationsOfExtract,
	builtOn,
	changesOfExtract,
	type Extract,
	extractOfFile,
	itemsOfExtract,
	markExtractBack,
} from '@/store/extracts'
import {
	addApplication,
	changeItem,
	giveDisputeBack,
	putItemAway,
	readApplication,
	readItem,
	wasTakenBack,
} from '@/store/ledger'
import { readSettings } from '@/store/settings'

/** Why the extract of a file cannot be taken back; null where it can: while nothing was built on it. */
export function whyNotExtractBack(books: Books, fileId: number): string | null {
	const extract = extractOfFile(books, fileId)
	if (!extract) return 'Nothing of this file is in the books.'
	const { closedTo } = readSettings(books)
	if (closedTo !== '' && extract.as_of <= closedTo)
		return `The books are closed to ${closedTo}; it is as of ${extract.as_of}.`
	const built = builtOn(books, extract)
	return built.length === 0 ? null : `It cannot be taken back any more: ${built.join('; ')}. Undo that first.`
}

/**
 * Takes an extract back: all that it did is undone as of the very days on which it did it, so that every day has what it had before. What it
 * entered counts on no day; nothing is removed. @returns in words what was undone
 */
export function takeExtractBack(books: Books, desk: Desk, extract: Extract, why: string): string {
	const { id: extract_id } = extract
	const changes = changesOfExtract(books, extract_id)
	const reason = 'the extract was taken back'
	const back = ({ id, ...change }: (typeof changes)[number]) =>
		changeItem(books, desk, {
			...{ item_id: change.item_id, day: change.day, amount_was: change.amount_is, amount_is: change.amount_was },
			...{ due_was: change.due_is, due_is: change.due_was, dated_was: change.dated_is, dated_is: change.dated_was },
			...{ kind_was: change.kind_is, kind_is: change.kind_was, reason, extract_id, takes_back: id },
		})
	// What became less was so after what was settled of it, and is undone before it; what became more the other way round.
	const lowered = changes.filter(({ amount_is, amount_was }) => amount_is < amount_was)
	for (const change of lowered) back(change)
	const applied = applicationsOfExtract(books, extract_id)
	const own = new Set(applied.map(({ id }) => id))
	for (const { id, takes_back } of applied.reverse()) {
		const one = readApplication(books, id)
		// What it applied and took back itself is nothing to undo.
		if (!one || wasTakenBack(books, id) || (takes_back !== null && own.has(takes_back))) continue
		const { debit_id, credit_id, day, amount, known_there } = one
		const part = { debit_id, credit_id, day, amount: -amount, known_there }
		if (takes_back === null) addApplication(books, desk, { ...part, reason, extract_id, takes_back: id })
		else addApplication(books, desk, { ...part, reason: readApplication(books, takes_back)?.reason ?? reason })
	}
	for (const change of changes.filter((one) => !lowered.includes(one))) back(change)
	const items = itemsOfExtract(books, extract_id)
	for (const id of items) {
		const item = readItem(books, id)
		if (!item) continue
		const [debit_id, credit_id] = item.side === 'debit' ? [id, null] : [null, id]
		if (item.open > 0)
			addApplication(books, desk, { debit_id, credit_id, day: item.day, amount: item.open, reason, extract_id })
		giveDisputeBack(books, id)
		putItemAway(books, id)
	}
	markExtractBack(books, desk, extract_id, why)
	return `The extract as of ${extract.as_of} was taken back: ${why}. ${items.length} items that it brought count no more.`
}
