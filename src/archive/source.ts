import { closeSync, fstatSync, openSync, readSync } from 'node:fs'

/** Bytes to be read, from wherever they are kept. */
export type Source = {
	name: string
	size: number
	/** Bytes from a place on; fewer at the end. */
	read: (from: number, length: number) => Buffer
}

/** Bytes in memory as a source. */
export const sourceOf = (name: string, bytes: Buffer): Source => ({
	name,
	size: bytes.length,
	read: (from, length) => bytes.subarray(from, from + length),
})

/** A file on disk, open until `close`. */
export function fileSource(path: string): Source & { close: () => void } {
	const file = openSync(path, 'r')
	return {
		name: path,
		size: fstatSync(file).size,
		read: (from, length) => {
			const buffer = Buffer.alloc(length)
			return buffer.subarray(0, readSync(file, buffer, 0, length, from))
		},
		close: () => closeSync(file),
	}
}

const chunk = 1 << 18

/** The bytes in order, a chunk at a time. */
export function* chunksOf(source: Source, from = 0): Generator<Buffer> {
	for (let place = from; place < source.size; place += chunk) yield source.read(place, chunk)
}
