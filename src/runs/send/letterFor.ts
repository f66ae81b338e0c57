import { firstLetterOf } from '@/kinds'
import { firstPaperLetter } from '@/kinds/paper'
import type { Books } from '@/store/books'
import { readLetter } from '@/store/messages'
import { paperKindOf } from '@/store/paperKinds'

const firstOfOwn = (books: Books, kind: string) => {
	const own = paperKindOf(books, kind)
	return own && firstPaperLetter(own)
}

/** The letter that goes with a kind of document: the firm's own, else the first one. */
export const letterFor = (books: Books, kind: string): { subject: string; body: string } =>
	readLetter(books, kind) ?? firstLetterOf(kind) ?? firstOfOwn(books, kind) ?? { subject: '', body: '' }
