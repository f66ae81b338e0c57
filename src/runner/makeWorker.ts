import { makeBatch } from '@/runs/files/make'

/** The job of a worker thread: frozen documents in, recorded files out. */
export default makeBatch
