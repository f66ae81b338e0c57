import { parentPort, workerData } from 'node:worker_threads'
import { z } from 'zod'
import { readLetterPaper } from '@/pdf/letterPaper'
import { readLogo } from '@/pdf/logo'

const files = z.array(z.object({ type: z.string(), bytes: z.instanceof(Uint8Array) })).parse(workerData)
// From here on its time counts: how long a busy machine takes to begin says nothing of a picture.
parentPort?.postMessage({ ready: true })
for (const { type, bytes } of files) {
	const given = Buffer.from(bytes)
	const read = type === 'application/pdf' ? await readLetterPaper(given, 'new') : await readLogo(type, given, 'new')
	parentPort?.postMessage(read.ok ? '' : read.refusal.message)
}
