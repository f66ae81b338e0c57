import { join } from 'node:path'
import { Worker, type WorkerOptions } from 'node:worker_threads'

/** What pictures may take to be read, ms: together once the thread has begun, and for each; and until it has begun. */
const patience = { all: 5_000, each: 200, begin: 60_000 }
/** MB that they may take. */
const room = 256

/** A thread of a file that is bundled by itself; written so that the web's build does not take it for a part of the web. */
const begin = (file: string, options: WorkerOptions): Worker => Reflect.construct(Worker, [file, options])

type UntrustedImage = { type: string; bytes: Uint8Array }
/** Looks at pictures and letter papers: why each is not taken, empty where it is. */
export type ImageCheck = (files: readonly UntrustedImage[]) => Promise<string[]>

/**
 * Reads pictures once in a thread of its own, which ends when it takes too long or too much: what meets a stranger's bytes cannot take the
 * web with it. What it finds nothing against is safe to be read again.
 */
export const pictureFaults: ImageCheck = (files) =>
	new Promise((done) => {
		const found: string[] = []
		const thread = begin(join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'dist/pictureWorker.mjs'), {
			workerData: files.map(({ type, bytes }) => ({ type, bytes: new Uint8Array(bytes) })),
			resourceLimits: { maxOldGenerationSizeMb: room, maxYoungGenerationSizeMb: 32 },
		})
		const end = (why: string) => {
			clearTimeout(late)
			void thread.terminate()
			done(
				files.map(
					(_, place) =>
						found[place] ?? (place === found.length ? why : 'It was not looked at, since one before it could not be.'),
				),
			)
		}
		const takes = (what: string) => `The picture takes too ${what} to be read. Make it simpler, or choose a PNG.`
		let late = setTimeout(() => end(takes('long')), patience.begin)
		thread.on('message', (said: string | { ready: true }) => {
			if (typeof said !== 'string') {
				clearTimeout(late)
				late = setTimeout(() => end(takes('long')), patience.all + patience.each * files.length)
				return
			}
			found.push(said)
			if (found.length === files.length) end('')
		})
		thread.on('error', () => end(takes('much')))
		thread.on('exit', () => end('The picture cannot be read. Save it again and choose the new file.'))
	})

/** Why a picture cannot be taken, in words; empty where it can. It is decoded in a process of its own. */
export const pictureFault = async (type: string, bytes: Uint8Array): Promise<string> =>
	(await pictureFaults([{ type, bytes }]))[0] ?? ''
