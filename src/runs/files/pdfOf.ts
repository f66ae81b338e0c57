import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { makeDocument } from '@/pdf/makeDocument'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { assetsFor, assetsOfBooks } from './assets'
import { placeFile } from './make'

export type PdfFile = { name: string; bytes: Buffer; sha256: string }

/** The folder in which the books keep what was made. */
export const filesFolder = (books: Books): string => join(books.folder, 'files')

/**
 * A document's PDF; null where there is no such document, or its files were taken away. Once it is made: exactly the recorded file, taken from its place, or made again from the frozen document
 * when the file was lost or changed. Before: a draft with its mark.
 * @throws when the file made again is not the recorded one, which would mean that the books were tampered with
 */
export async function pdfOf(books: Books, documentId: number): Promise<PdfFile | null> {
	const document = readAnyDocument(books, documentId)
	if (!document || document.files_away_at !== null) return null
	const { content, file_name, file_sha256 } = document
	if (file_name && file_sha256) {
		const path = join(filesFolder(books), file_name)
		const kept = existsSync(path) ? readFileSync(path) : null
		if (kept && hash(kept) === file_sha256) return { name: basename(file_name), bytes: kept, sha256: file_sha256 }
	}
	const made = await makeDocument(content, await assetsFor(content, assetsOfBooks(books)))
	if (file_name && file_sha256) {
		if (made.sha256 !== file_sha256)
			throw new Error(`${file_name} is lost, and made again it is not the file that was recorded.`)
		placeFile(join(filesFolder(books), file_name), made.bytes)
		return { name: basename(file_name), bytes: made.bytes, sha256: made.sha256 }
	}
	return { name: `draft ${document.customer_name}.pdf`, bytes: made.bytes, sha256: made.sha256 }
}

const hash = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex')
