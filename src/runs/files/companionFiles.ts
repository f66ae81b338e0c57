import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import type { CompanionFile } from '@/store/made'
import { assetsOfBooks } from './assets'
import { makeCompanion } from './companions'
import { placeFile } from './make'
import { filesFolder } from './pdfOf'

/** A file below the folder of files, where it is there and is the one of its hash. */
export function fileAt(books: Books, name: string, sha256: string): Buffer | null {
	const path = join(filesFolder(books), name)
	const bytes = existsSync(path) ? readFileSync(path) : null
	return bytes && createHash('sha256').update(bytes).digest('hex') === sha256 ? bytes : null
}

/** A file beside the PDF as it was recorded: from its place, or made again. @throws where it comes out otherwise, as locked copies do */
export async function companionBytes(books: Books, file: CompanionFile): Promise<{ name: string; bytes: Buffer }> {
	const name = basename(file.file_name)
	const kept = fileAt(books, file.file_name, file.file_sha256)
	if (kept) return { name, bytes: kept }
	const content = readAnyDocument(books, file.document_id)?.content
	const made =
		content && file.format !== 'locked' ? await makeCompanion(content, file.format, assetsOfBooks(books)) : null
	if (!made || createHash('sha256').update(made).digest('hex') !== file.file_sha256)
		throw new Error(`${file.file_name} is lost, and made again it is not the file that was recorded.`)
	placeFile(join(filesFolder(books), file.file_name), made)
	return { name, bytes: made }
}
