import { createHash } from 'node:crypto'

/** The hash of a frozen content, as the record keeps it from when the document is issued. */
export const contentHash = (content: string): string => createHash('sha256').update(content).digest('hex').slice(0, 32)
