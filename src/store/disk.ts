import { statfsSync } from 'node:fs'
import { join } from 'node:path'
import type { Books } from './books'

/** Below so many bytes of room work stops before long: a month's PDFs are more. */
const little = 100_000_000

/** What is said while the disk of the books, or that of their files, is all but full; empty while there is room. */
export function diskWords({ folder }: Pick<Books, 'folder'>): string {
	const left = [folder, join(folder, 'files')].flatMap((path) => {
		try {
			const { bavail, bsize, type: _ } = statfsSync(path)
			return [{ path, bytes: bavail * bsize }]
		} catch {
			return []
		}
	})
	const least = left.sort((a, b) => a.bytes - b.bytes)[0]
	if (!least || least.bytes >= little) return ''
	const room = least.bytes < 1_000_000 ? 'no room' : `only ${Math.floor(least.bytes / 1_000_000)} MB`
	return `The disk with ${least.path} has ${room} left. Make room: until then nothing new can be kept, and what is under way waits or stops.`
}
