/** Why an input is not taken: `path` names the field (dots between parts), `message` says what is wrong and the remedy. */
export type Refusal = { path: string; message: string }

/** Either a value, or the reason there is none. */
export type Result<T> = { ok: true; value: T } | { ok: false; refusal: Refusal }

export class Refused extends Error {
	constructor(readonly refusal: Refusal) {
		super(`${refusal.path}: ${refusal.message}`)
	}
}

/**
 * Leaves the surrounding `attempt` with a refusal.
 * @throws Refused always
 */
export function refuse(path: string, message: string): never {
	throw new Refused({ path, message })
}

/** Runs `work`; a `refuse` inside it comes back as data, any other error is a bug and passes through. */
export function attempt<T>(work: () => T): Result<T> {
	try {
		return { ok: true, value: work() }
	} catch (error) {
		if (error instanceof Refused) return { ok: false, refusal: error.refusal }
		throw error
	}
}
