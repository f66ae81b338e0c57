import type { Books } from '@/store/books'

/** Books that the test which runs has opened: they are closed, and their folders removed, after it (`each.ts`). */
export const opened: Books[] = []
