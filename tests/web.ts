import { afterEach, beforeEach, vi } from 'vitest'
import type { Books } from '@/store/books'
import { seatClerk } from '@/store/settings'
import { desk } from './support'

// What the web reads and does, called as its server would, on 31 October 2026.

beforeEach(() => {
	vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-10-31T10:00:00Z') })
})
afterEach(() => {
	vi.useRealTimers()
})

/** Books as the web has them open, with somebody at the desk. */
export function openInWeb(books: Books): Books {
	seatClerk(books, desk)
	;(globalThis as { northTallyBooks?: Books }).northTallyBooks = books
	return books
}
