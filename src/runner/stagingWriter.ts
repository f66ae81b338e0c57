import { parentPort, workerData } from 'node:worker_threads'
import Database from 'better-sqlite3'
import { outcomeWriter } from '@/store/outcomes'
import { failed, type Shared, states, told } from './stagingThread'

// The thread that writes what comes of a long file's rows, while the next rows are looked at in another.
const { path, shared }: { path: string; shared: Shared } = workerData
const state = new Int32Array(shared.state)
const db = new Database(path, { timeout: 20_000 })
db.pragma('synchronous = OFF')
const writer = outcomeWriter(db)

parentPort?.on('message', (text: string | null) => {
	try {
		if (Atomics.load(state, states.failed) === 0) {
			if (text === null) writer.end()
			else writer.write(JSON.parse(text))
		}
	} catch (error) {
		told(shared, error)
		failed(state)
	}
	if (text === null) {
		db.close()
		parentPort?.close()
	}
	Atomics.sub(state, states.pending, 1)
	Atomics.notify(state, states.pending)
})
