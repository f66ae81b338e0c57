import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { type Outcome, writeLongStagingBy } from '@/store/outcomes'

/** What the two threads share: how much is on its way, whether it failed, and by what words. */
export type Shared = { state: SharedArrayBuffer; words: SharedArrayBuffer }
export const states = { pending: 0, failed: 1 } as const

/** Keeps what an error says where the other thread reads it. */
export function told({ words }: Shared, error: unknown): void {
	const code = error instanceof Error && 'code' in error ? String(error.code) : ''
	const text = `${code}\n${error instanceof Error ? error.message : String(error)}`
	new Uint8Array(words).set(new TextEncoder().encode(text).subarray(0, words.byteLength))
}
/** Says to the reading side that the thread has failed. */
export const failed = (state: Int32Array): void => {
	Atomics.store(state, states.failed, 1)
}

/** The most lots that are on their way at once, so that memory stays bounded. */
const most = 12
/** A writer that says nothing for so long is gone. */
const patience = 60_000

/**
 * From now on long sheets are written by a thread of their own. @param folder where the bundled `stagingWriter.mjs` is
 * @throws Error where the thread failed; what it wrote until then is not to be used
 */
export const writeInThread = (folder: string): void =>
	writeLongStagingBy((path) => {
		const shared: Shared = { state: new SharedArrayBuffer(8), words: new SharedArrayBuffer(2000) }
		const state = new Int32Array(shared.state)
		const worker = new Worker(join(folder, 'stagingWriter.mjs'), { workerData: { path, shared } })
		worker.unref()
		const fewer = (than: number) => {
			for (;;) {
				const pending = Atomics.load(state, states.pending)
				if (Atomics.load(state, states.failed) === 1) throw errorOf(shared)
				if (pending < than) return
				if (Atomics.wait(state, states.pending, pending, patience) === 'timed-out')
					throw new Error('What was read could not be written down: the thread that does it is gone.')
			}
		}
		const post = (message: string | null) => {
			Atomics.add(state, states.pending, 1)
			worker.postMessage(message)
		}
		return {
			write: (outcomes: readonly Outcome[]) => {
				if (outcomes.length === 0) return
				fewer(most)
				post(JSON.stringify(outcomes))
			},
			end: () => {
				post(null)
				fewer(1)
			},
		}
	})

/** The error of the other thread, with its code. */
function errorOf({ words }: Shared): Error {
	const bytes = new Uint8Array(words)
	const text = new TextDecoder().decode(bytes.slice(0, bytes.indexOf(0) < 0 ? bytes.length : bytes.indexOf(0)))
	const [code = '', ...message] = text.split('\n')
	return Object.assign(new Error(message.join('\n') || 'What was read could not be written down.'), { code })
}
