import { Readable } from 'node:stream'
import { type Entry, fromRandomAccessReader, getFileNameLowLevel, RandomAccessReader, type ZipFile } from 'yauzl'
import { refuse } from '@/core/refusal'
import type { Source } from './source'

/** The entries of a ZIP archive. `sizeOf` gives bytes when unpacked, as the directory says; what is read is held to it. */
export type Archive = {
	names: string[]
	sizeOf: (name: string) => number
	open: (name: string) => Promise<Readable>
	close: () => void
}

class SourceReader extends RandomAccessReader {
	constructor(private readonly source: Source) {
		super()
	}
	override _readStreamForRange(start: number, end: number): Readable {
		const { source } = this
		return Readable.from(
			(function* () {
				for (let place = start; place < end; place += 65_536) yield source.read(place, Math.min(65_536, end - place))
			})(),
			{ objectMode: false },
		)
	}
}

// A workbook's XML shrinks ten- to fiftyfold. What shrinks a thousandfold is made to fill the memory.
const mostShrunk = 250
const harmless = 20_000_000
const largest = 4_000_000_000
const mostEntries = 10_000

const unreadable = (error: unknown): never =>
	refuse(
		'file',
		`It is a ZIP archive that cannot be opened (${error instanceof Error ? error.message : String(error)}). Save the file again and choose the new one.`,
	)

/** Opens an archive by its directory. Refused: one that is torn, that is locked, or that grows out of all measure when it is unpacked. */
export async function openArchive(source: Source): Promise<Archive> {
	const zip = await new Promise<ZipFile>((resolve, reject) =>
		fromRandomAccessReader(
			new SourceReader(source),
			source.size,
			// Names are looked up in memory and never become paths, so that any name may stand.
			{ lazyEntries: true, autoClose: false, decodeStrings: false },
			(error, file) => (error ? reject(error) : resolve(file)),
		),
	).catch(unreadable)
	const entries = new Map<string, Entry>()
	await new Promise<void>((resolve, reject) => {
		zip.on('entry', (entry: Entry) => {
			if (entries.size >= mostEntries) return reject(new Error('it holds more than 10,000 files'))
			entries.set(getFileNameLowLevel(entry.generalPurposeBitFlag, entry.fileNameRaw, entry.extraFields, false), entry)
			zip.readEntry()
		})
		zip.on('end', resolve)
		zip.on('error', reject)
		zip.readEntry()
	}).catch(unreadable)
	return {
		names: [...entries.keys()],
		sizeOf: (name) => entries.get(name)?.uncompressedSize ?? 0,
		close: () => zip.close(),
		open: (name) =>
			new Promise<Readable>((resolve, reject) => {
				const entry = entries.get(name)
				if (!entry) return reject(new Error(`it lacks ${name}`))
				if (entry.isEncrypted()) return reject(new Error('it is locked with a password'))
				const { compressedSize, uncompressedSize } = entry
				if (
					uncompressedSize > largest ||
					(uncompressedSize > harmless && uncompressedSize > compressedSize * mostShrunk)
				)
					return reject(new Error(`${name} would unpack to ${Math.round(uncompressedSize / 1e6)} MB`))
				// What comes out is held to the size that the directory says (yauzl, validateEntrySize).
				zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)))
			}).catch(unreadable),
	}
}

const mostAtOnce = 60_000_000

/** An entry's bytes. Refused: one of more than 60 MB. */
export async function bytesOf(archive: Archive, name: string): Promise<Buffer> {
	const chunks: Buffer[] = []
	let size = 0
	for await (const chunk of await archive.open(name)) {
		size += chunk.length
		if (size > mostAtOnce)
			return refuse('file', `${name} in it unpacks to more than 60 MB. Save the file again, smaller.`)
		chunks.push(chunk)
	}
	return Buffer.concat(chunks)
}
