import type { OwnValues } from '@/core/ownFields'
import { type AnyContent, isBill } from '@/kinds'
import { type Compiled, compileLayout } from '@/layout/draw'
import { readLayout } from '@/layout/readLayout'
import { type Logo, readLogo } from '@/pdf/logo'
import type { Assets } from '@/pdf/makeDocument'
import type { Books } from '@/store/books'
import { readImage } from '@/store/company'
import { versionBody } from '@/store/layouts'

/** Where the layouts and pictures of papers come from: the books, or what a worker was handed. */
export type AssetSource = {
	layout: (id: number, version: number) => string | null
	picture: (sha256: string) => { type: string; bytes: Uint8Array } | null
}

/** Layouts and pictures from the books. */
export const assetsOfBooks = (books: Books): AssetSource => ({
	layout: (id, version) => versionBody(books, id, version),
	picture: (sha256) => readImage(books, sha256),
})

// Layouts by their text, which is what they are; pictures by their hash.
/** What the text of a layout names: pictures, and the own fields whose pictures it shows. */
type Named = { pictures: Set<string>; shown: Set<string> }
type Ready = Named & { layout: Compiled }
const named = new Map<string, Named>()
const compiled = new Map<string, Ready>()
const pictures = new Map<string, Logo[]>()
const mostKept = 200

/** A layout made ready, once a process. @throws for text that is no layout, which the books never hold */
function compiledLayout(body: string): Ready {
	const known = compiled.get(body)
	if (known) return known
	const read = readLayout(body)
	if (!read.ok)
		throw new Error(
			`The layout cannot be read: ${read.faults.map(({ path, message }) => `${path} ${message}`).join('; ')}`,
		)
	const made = { layout: compileLayout(read.layout), ...namedBy(body) }
	if (compiled.size > mostKept) compiled.clear()
	compiled.set(body, made)
	return made
}

/**
 * A picture made ready, once a process; of a letter paper its pages. One that cannot be read is left out; it was refused when it was set.
 */
async function pictureOf(sha256: string, find: AssetSource['picture']): Promise<Logo[]> {
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

/** What a layout's text names, read once a process: it is long, and thousands of papers have the same. */
function namedBy(body: string): Named {
	const known = named.get(body)
	if (known) return known
	const shown = [...body.matchAll(/\.own\.picture\.([a-z0-9-]+)"/g)].map(([, key = '']) => key)
	const found = { pictures: hashesIn(body), shown: new Set(shown) }
	if (named.size > mostKept) named.clear()
	named.set(body, found)
	return found
}

/** Hashes of pictures that a paper is made with; a firm's photographs only where its layout shows any. */
export function hashesFor(content: AnyContent, body: string | null): Set<string> {
	const { pictures, shown } = body === null ? { pictures: [], shown: new Set<string>() } : namedBy(body)
	return new Set([...picturesOf(content, shown), ...pictures])
}

/** What a paper is made with. @throws where the version of its layout is not in the books */
export async function assetsFor(content: AnyContent, source: AssetSource): Promise<Assets> {
	const { id, version, name } = content.layout
	const body = id === 0 ? null : source.layout(id, version)
	if (id !== 0 && body === null) throw new Error(`Version ${version} of the layout ${name} is not in the books.`)
	return assetsWith(content, body, source)
}

/** What a paper is made with by a layout of one's choice. */
export async function assetsWith(content: AnyContent, body: string | null, source: AssetSource): Promise<Assets> {
	const found = new Map<string, Logo>()
	const own = body === null ? null : compiledLayout(body)
	for (const sha256 of [...picturesOf(content, own?.shown ?? new Set()), ...(own?.pictures ?? [])]) {
		for (const picture of await pictureOf(sha256, source.picture)) found.set(picture.sha256, picture)
	}
	return { layout: own?.layout ?? null, pictures: found }
}

/** Pictures of a content that a layout shows: the logo, and of own fields those whose keys are given. */
function picturesOf(content: AnyContent, shown: ReadonlySet<string>): Set<string> {
	const values = [content.issuer.logo ?? '']
	const add = (own: OwnValues | undefined) => {
		for (const [key, value] of Object.entries(own ?? {})) if (shown.has(key)) values.push(value)
	}
	if (shown.size > 0) add(content.customer.own)
	if (shown.size > 0 && isBill(content))
		for (const { own, itemOwn } of content.lines) {
			add(own)
			add(itemOwn)
		}
	return new Set(values.filter((value) => value.length === 64 && /^[0-9a-f]{64}$/.test(value)))
}
