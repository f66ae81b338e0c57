import { vi } from 'vitest'
import type { Books } from '@/store/books'
import { seatClerk } from '@/store/settings'
import { desk } from './support'

/** Books as the web has them open, on 31 October 2026, with somebody at the desk: what it reads and does is called as its server would. */
export function openInWeb(books: Books): Books {
	vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-10-31T10:00:00Z') })
	seatClerk(books, desk)
	;(globalThis as { northTallyBooks?: Books }).northTallyBooks = books
	return books
}
