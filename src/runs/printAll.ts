import { makeTogether } from '@/pdf/makeDocument'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { toPrint } from '@/store/places'
import { artFor, artOfBooks } from './art'

/** What is listed to be printed, all of it or of one run, in the order of the list. */
export const printList = (books: Books, runId: number | null) =>
	toPrint(books).filter((row) => runId === null || row.run_id === runId)

/** One PDF of everything listed to be printed, each document from its first page on; null when nothing is. */
export async function printAll(books: Books, runId: number | null): Promise<Buffer | null> {
	const contents = printList(books, runId).flatMap(({ id }) => readAnyDocument(books, id)?.content ?? [])
	if (contents.length === 0) return null
	return makeTogether(
		await Promise.all(contents.map(async (content) => ({ content, art: await artFor(content, artOfBooks(books)) }))),
	)
}
