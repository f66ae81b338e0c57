import { type AnyContent, isBill } from '@/kinds'
import { type Compiled, compileLayout } from '@/layout/draw'
import { readLayout } from '@/layout/readLayout'
import { type Logo, readLogo } from '@/pdf/logo'
import type { Art } from '@/pdf/makeDocument'
import type { Books } from '@/store/books'
import { readImage } from '@/store/company'
import { versionBody } from '@/store/layouts'

/** Where the layouts and pictures of papers come from: the books, or what a worker was handed. */
export type ArtSource = {
	layout: (id: number, version: number) => string | null
	picture: (sha256: string) => { type: string; bytes: Uint8Array } | null
}

export const artOfBooks = (books: Books): ArtSource => ({
	layout: (id, version) => versionBody(books, id, version),
	picture: (sha256) => readImage(books, sha256),
})

// Layouts by their text, which is what they are; pictures by their hash.
const compiled = new Map<string, { layout: Compiled; pictures: Set<string> }>()
const pictures = new Map<string, Logo[]>()
const mostKept = 200

/** A layout made ready, once a process. @throws for text that is no layout, which the books never hold */
export function compiledLayout(body: string): { layout: Compiled; pictures: Set<string> } {
	const known = compiled.get(body)
	if (known) return known
	const read = readLayout(body)
	if (!read.ok)
		throw new Error(
			`The layout cannot be read: ${read.faults.map(({ path, message }) => `${path} ${message}`).join('; ')}`,
		)
	const made = { layout: compileLayout(read.layout), pictures: hashesIn(body) }
	if (compiled.size > mostKept) compiled.clear()
	compiled.set(body, made)
	return made
}

/**
 * A picture made ready, once a process; of a letter paper its pages. One that cannot be read is left out; it was refused when it was set.
 */
async function pictureOf(sha256: string, find: ArtSource['picture']): Promise<Logo[]> {
	const known = pictures.get(sha256)
	if (known) return known
	const image = find(sha256)
	const made = image ? await madeReady(image.type, Buffer.from(image.bytes), sha256) : []
	if (made.length === 0) return []
	if (pictures.size > mostKept) pictures.clear()
	pictures.set(sha256, made)
	return made
}

async function madeReady(type: string, bytes: Buffer, sha256: string): Promise<Logo[]> {
	if (type === 'application/pdf') {
		const { readLetterPaper } = await import('@/pdf/letterPaper')
		const read = await readLetterPaper(bytes, sha256)
		return read.ok ? read.value.pages : []
	}
	const read = await readLogo(type, bytes, sha256, true)
	return read.ok ? [read.value] : []
}

const hash = /[0-9a-f]{64}/g
/** Hashes that a text names: those of pictures among them. */
export const hashesIn = (text: string): Set<string> => new Set(text.match(hash))

/** What a paper is made with. @throws where the version of its layout is not in the books */
export async function artFor(content: AnyContent, source: ArtSource): Promise<Art> {
	const { id, version, name } = content.layout
	const body = id === 0 ? null : source.layout(id, version)
	if (id !== 0 && body === null) throw new Error(`Version ${version} of the layout ${name} is not in the books.`)
	return artWith(content, body, source)
}

/** What a paper is made with by a layout of one's choice. */
export async function artWith(content: AnyContent, body: string | null, source: ArtSource): Promise<Art> {
	const found = new Map<string, Logo>()
	const own = body === null ? null : compiledLayout(body)
	for (const sha256 of [...picturesOf(content), ...(own?.pictures ?? [])]) {
		for (const picture of await pictureOf(sha256, source.picture)) found.set(picture.sha256, picture)
	}
	return { layout: own?.layout ?? null, pictures: found }
}

/** Pictures that a content names. */
function picturesOf(content: AnyContent): Set<string> {
	const values = [content.issuer.logo ?? '', ...Object.values(content.customer.own ?? {})]
	if (isBill(content))
		for (const { own, itemOwn } of content.lines)
			values.push(...Object.values(own ?? {}), ...Object.values(itemOwn ?? {}))
	return new Set(values.filter((value) => value.length === 64 && /^[0-9a-f]{64}$/.test(value)))
}
