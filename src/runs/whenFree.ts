const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Whether a step could not be written now, and may be later: another holds the database, or the disk has no room. */
export const isPassing = (error: unknown): boolean =>
	error instanceof Error &&
	'code' in error &&
	typeof error.code === 'string' &&
	/^(SQLITE_(BUSY|LOCKED|FULL|IOERR)|ENOSPC|EDQUOT)/.test(error.code)

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
