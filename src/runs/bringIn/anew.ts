import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readFile, setAnswers } from '@/store/files'
import { askFor } from '@/store/jobs'
import { readAnswers } from './review'

/**
 * Asks for what a file would bring to be worked out anew. What a person answered of an accepted file was said of what it brought then: of what
 * was mended since, it is asked again.
 */
export function workOutAnew(books: Books, desk: Desk, fileId: number): void {
	const file = readFile(books, fileId)
	if (file?.state === 'accepted')
		setAnswers(books, fileId, JSON.stringify({ ...readAnswers(file.answers), amended: null, again: null, twice: null }))
	askFor(books, desk, { kind: 'take file', file: fileId, seen: '', reason: '' })
}
