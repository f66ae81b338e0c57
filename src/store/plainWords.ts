import { randomUUID } from 'node:crypto'
import { isPassing } from './whenFree'

/**
 * What went wrong, in words for a clerk. An error that says so itself is as it is; one of the database never shows its own words: what may
 * pass says what to do, and the rest is a sentence with a reference, by which `log` has the error whole.
 * @param log hears the reference and the error
 */
export function plainWords(error: unknown, log: (reference: string, error: unknown) => void = logged): string {
	const words = error instanceof Error ? error.message : String(error)
	if (!isOfDatabase(error)) return words
	if (isPassing(error))
		return 'The books could not be written just now: another program holds them, or the disk is full. Try again in a moment.'
	const reference = randomUUID().slice(0, 8)
	log(reference, error)
	return `The books do not take it as it is, since that would break a rule which keeps them right. Load the page anew and look at what is there; if it comes again, the log has it under ${reference}.`
}

const isOfDatabase = (error: unknown): boolean =>
	error instanceof Error &&
	(error.name === 'SqliteError' || ('code' in error && String(error.code).startsWith('SQLITE_')))

const logged = (reference: string, error: unknown): void => console.error(`${reference}:`, error)
