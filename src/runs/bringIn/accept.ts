import { readingSchema } from '@/intake/reading'
import type { Books } from '@/store/books'
import { type Desk, record } from '@/store/events'
import {
	acceptancesOf,
	endAcceptance,
	goingAcceptance,
	markAccepted,
	readFile,
	type SourceFile,
	setReview,
} from '@/store/files'
import { isWhole, openStaging } from '@/store/staging'
import { kindRules } from './kinds'
import type { Accepted, Watch } from './kinds/kind'
import { stampOf } from './knownBooks'
import { keepReader } from './readerActs'
import { openQuestions, type Review, readAnswers, reviewOf } from './review'
import { takeFile } from './take'

const no = (message: string): Accepted => ({ ok: false, message })

/**
 * Puts what a file would bring into the books: what the clerk had in view, no other. Where the books changed since, it is worked out anew,
 * and accepted only if it comes out the same.
 * @param seen the outcome that the clerk had in view
 */
export async function acceptFile(
	books: Books,
	desk: Desk,
	fileId: number,
	seen: string,
	watch: Watch,
): Promise<Accepted> {
	const file = readFile(books, fileId)
	if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
	const going = acceptancesOf(books, fileId).find(({ state }) => state === 'going')
	const ready = going ? freshReview(books, file) : await readyReview(books, desk, file, seen, watch)
	if (!ready.ok) return ready
	const { review } = ready
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const answers = readAnswers(file.answers)
	const staging = openStaging(books.folder, fileId)
	try {
		if (!isWhole(staging)) return no('What was read of this file is lost. Read it again.')
		const entering = { books, desk, file, staging, review, reading, answers, watch }
		return await kindRules[reading.kind].enter(entering, ({ words, left }) => {
			endAcceptance(books, goingAcceptance(books, desk, file.id).id, 'done', words)
			return finish(books, desk, file, words, left)
		})
	} finally {
		staging.close()
	}
}

type Ready = { ok: true; review: Review } | { ok: false; message: string }

function freshReview(books: Books, { id }: SourceFile): Ready {
	const review = reviewOf(readFile(books, id) ?? { review: null })
	return review ? { ok: true, review } : no_('What it would bring is being worked out. Look again in a moment.')
}
const no_ = (message: string): Ready => ({ ok: false, message })

async function readyReview(books: Books, desk: Desk, file: SourceFile, seen: string, watch: Watch): Promise<Ready> {
	const before = freshReview(books, file)
	if (!before.ok) return before
	if (before.review.taken) return no_('All that can be taken of it is in the books.')
	if (before.review.digest !== seen)
		return no_('It was changed since you looked. Look at it again, and accept it then.')
	const open = openQuestions(before.review, readAnswers(file.answers))
	if (open.length > 0 || before.review.missing.length > 0)
		return no_('A question is open, or a column is missing. Answer it first.')
	if (before.review.extract?.hindered) return no_(before.review.extract.hindered)
	if (before.review.stamp === stampOf(books)) return before
	const review = takeFile(books, desk, file.id, watch)
	if (!review) return no_('What it would bring could not be worked out.')
	return review.digest === seen
		? { ok: true, review }
		: no_('The books changed since you looked, and it comes out otherwise now. Look at it again, and accept it then.')
}

/** What was taken is in the books now: of the file there is nothing left to bring but what is mended yet. */
function finish(books: Books, desk: Desk, file: SourceFile, words: string, left: Review): Accepted {
	markAccepted(books, desk, file.id, words)
	keepReader(books, desk, file.id, left.decided)
	setReview(books, file.id, JSON.stringify({ ...left, digest: `accepted ${left.digest}`, taken: true, stamp: '' }))
	record(books, desk, { subject: 'file', id: file.id, act: 'accepted the file', detail: words })
	return { ok: true, words }
}
