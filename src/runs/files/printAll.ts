import { isIssued } from '@/core/document'
import { keyOf } from '@/kinds'
import { usualLeaving } from '@/layout/leaving'
import { makeCopy, makeTogether } from '@/pdf/makeDocument'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { toPrint } from '@/store/places'
import { readSettings } from '@/store/settings'
import { assetsFor, assetsOfBooks } from './assets'

/** What is listed to be printed, all of it or of one run, in the order of the list. */
export const printList = (books: Books, runId: number | null) =>
	toPrint(books).filter((row) => runId === null || row.run_id === runId)

/**
 * One PDF of everything listed to be printed, each document from its first page on and as often as its kind is printed, all but the first
 * marked as copies where the firm wants it; null when nothing is.
 */
export async function printAll(books: Books, runId: number | null): Promise<Buffer | null> {
	const contents = printList(books, runId).flatMap(({ id }) => readAnyDocument(books, id)?.content ?? [])
	if (contents.length === 0) return null
	const { leaving } = readSettings(books)
	const each = await Promise.all(
		contents.map(async (content) => {
			const { copies, marked } = leaving[keyOf(content)] ?? usualLeaving
			const art = await assetsFor(content, assetsOfBooks(books))
			return Array.from({ length: copies }, (_, place) => ({ content, art: { ...art, copy: marked && place > 0 } }))
		}),
	)
	return makeTogether(each.flat())
}

/** A numbered document to be printed again: marked as a copy, unless the firm wants no mark; null where there is none. */
export async function printAgain(books: Books, documentId: number): Promise<Buffer | null> {
	const content = readAnyDocument(books, documentId)?.content
	if (!content || !isIssued(content)) return null
	const { marked } = readSettings(books).leaving[keyOf(content)] ?? usualLeaving
	const art = await assetsFor(content, assetsOfBooks(books))
	return marked ? makeCopy(content, art) : makeTogether([{ content, art }])
}
