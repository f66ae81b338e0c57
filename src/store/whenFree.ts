const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

const codeOf = (error: unknown): string =>
	error instanceof Error && 'code' in error && typeof error.code === 'string' ? error.code : ''

/** Whether a step could not be written now, and may be later: another holds the database, or the disk has no room. */
export const isPassing = (error: unknown): boolean =>
	/^(SQLITE_(BUSY|LOCKED|FULL|IOERR)|ENOSPC|EDQUOT)/.test(codeOf(error))

/** Whether another holds the database: the step is done as soon as that lets go. */
export const isLocked = (error: unknown): boolean => /^SQLITE_(BUSY|LOCKED)/.test(codeOf(error))

/** Does a step that is one transaction, again and again while it cannot be written for now. @throws what is wrong with it otherwise */
export async function whenFree<T>(step: () => T, wait = 1000): Promise<T> {
	for (;;) {
		try {
			return step()
		} catch (error) {
			if (!isPassing(error)) throw error
			await pause(wait)
		}
	}
}
