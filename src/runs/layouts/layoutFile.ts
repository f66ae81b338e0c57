import { createHash } from 'node:crypto'
import { strToU8, type Zippable, zipSync } from 'fflate'
import { sourceOf } from '@/archive/source'
import { bytesOf, openArchive } from '@/archive/zip'
import { no, type Outcome } from '@/core/outcome'
import { baseOf, type KindName } from '@/kinds'
import { checkLayout } from '@/layout/check'
import { readLayout } from '@/layout/readLayout'
import type { Layout } from '@/layout/schema'
import { readLetterPaper } from '@/pdf/letterPaper'
import { readLogo } from '@/pdf/logo'
import { hashesIn } from '@/runs/files/assets'
import type { ImageCheck } from '@/runs/files/untrustedImages'
import { type Books, inOneStep } from '@/store/books'
import { keepImage, readImage } from '@/store/company'
import type { Desk } from '@/store/events'
import { addLayout, freeName, type LayoutRow } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { allPaperKinds, kindIn } from '@/store/paperKinds'
import { currentBody } from './layouts'

// A layout travels as a ZIP: layout.json, and each picture that it names as pictures/SHA-256.png, .jpg, .svg or .pdf (a letter paper).

const mostBytes = 20_000_000
const mostFiles = 60
const ofLayout = /^(layout\.json|pictures\/[0-9a-f]{64}\.(png|jpg|svg|pdf)|pictures\/)$/
const types: Record<string, string> = {
	png: 'image/png',
	jpg: 'image/jpeg',
	svg: 'image/svg+xml',
	pdf: 'application/pdf',
}

/** The file of a layout as it is in the making, or of its latest version. */
export function packLayout(books: Books, row: LayoutRow): Uint8Array {
	const body = currentBody(books, row)
	const files: Zippable = { 'layout.json': strToU8(`${JSON.stringify(JSON.parse(body), null, 1)}\n`) }
	for (const sha256 of hashesIn(body)) {
		const image = readImage(books, sha256)
		const ending = Object.keys(types).find((key) => types[key] === image?.type)
		if (image && ending) files[`pictures/${sha256}.${ending}`] = new Uint8Array(image.bytes)
	}
	// One day for all entries, so that the same layout gives the same file.
	return zipSync(files, { mtime: '2026-01-01T12:00:00' })
}

type Unpacked = { layout: Layout; pictures: { sha256: string; type: string; bytes: Buffer }[] }

/** Reads such a file. Refused with the remedy: another kind of file, one that is too large or holds what does not belong, a picture that is not what its name says. */
export async function unpackLayout(
	bytes: Uint8Array,
	imageCheck: ImageCheck = async () => [],
): Promise<{ ok: true; value: Unpacked } | { ok: false; message: string }> {
	if (bytes.length > mostBytes) return no('The file is over 20 MB; a layout is not. Choose the file that was exported.')
	const files = new Map<string, Buffer>()
	try {
		const archive = await openArchive(sourceOf('layout', Buffer.from(bytes)))
		const { names, sizeOf } = archive
		const stray = names.find((name) => !ofLayout.test(name))
		if (stray !== undefined)
			return no(
				`The file holds “${stray.slice(0, 80)}”, which is no part of a layout. Choose the file that was exported.`,
			)
		if (names.length > mostFiles || names.reduce((sum, name) => sum + sizeOf(name), 0) > mostBytes)
			return no('The file unpacks to more than a layout is. Choose the file that was exported.')
		for (const name of names) if (!name.endsWith('/')) files.set(name, await bytesOf(archive, name))
	} catch {
		return no('The file is no ZIP, or is damaged. Export the layout again and choose the new file.')
	}
	const text = files.get('layout.json')
	if (!text) return no('There is no layout.json in the file. Choose the file that was exported.')
	const read = readLayout(text.toString('utf8'))
	if (!read.ok)
		return no(
			`layout.json is no layout: ${read.faults
				.slice(0, 5)
				.map(({ path, message }) => `${path || 'it'}: ${message}`)
				.join('; ')}`,
		)
	const pictures: Unpacked['pictures'] = []
	for (const [name, own] of files) {
		const [, sha256 = '', ending = ''] = /^pictures\/([0-9a-f]{64})\.(png|jpg|svg|pdf)$/.exec(name) ?? []
		if (!sha256) continue
		if (createHash('sha256').update(own).digest('hex') !== sha256)
			return no(`The picture ${name} is not the one that its name says. Export the layout again.`)
		const type = types[ending] ?? ''
		const [fault = ''] = await imageCheck([{ type, bytes: own }])
		if (fault) return no(`The picture ${name}: ${fault}`)
		const picture = type === 'application/pdf' ? await readLetterPaper(own, sha256) : await readLogo(type, own, sha256)
		if (!picture.ok) return no(`The picture ${name}: ${picture.refusal.message}`)
		pictures.push({ sha256, type, bytes: own })
	}
	return { ok: true, value: { layout: read.layout, pictures } }
}

/** The kind that a layout of a file is for: one of the program's own, else the firm's that was chosen, or the only one that it can be. */
function kindFor(books: Books, { kind }: Layout, wanted?: KindName): KindName | null {
	if (kind !== 'priced' && kind !== 'unpriced') return kind
	if (wanted && baseOf(wanted) === kind) return wanted
	const own = allPaperKinds(books).filter(({ base }) => base === kind)
	return own.length === 1 ? (own[0]?.key ?? null) : null
}

/** Brings a layout in from its file, as one in the making; under another name where its own is taken. */
export async function bringLayoutIn(
	books: Books,
	desk: Desk,
	bytes: Uint8Array,
	wanted?: KindName,
	imageCheck: ImageCheck = async () => [],
): Promise<Outcome> {
	const unpacked = await unpackLayout(bytes, imageCheck)
	if (!unpacked.ok) return unpacked
	const { layout, pictures } = unpacked.value
	return inOneStep(books, (): Outcome => {
		const kind = kindFor(books, layout, wanted)
		if (!kind)
			return no(
				`It is a layout for papers of lines ${layout.kind === 'priced' ? 'with' : 'without'} figures. Choose such a kind of the firm’s own for it, or make one under Kinds of paper first.`,
			)
		const lost = [...hashesIn(JSON.stringify(layout))].filter(
			(sha256) => !pictures.some((picture) => picture.sha256 === sha256) && !readImage(books, sha256),
		)
		if (lost.length > 0)
			return no(`${lost.length} of its pictures are not in the file. Export the layout again where it comes from.`)
		for (const picture of pictures) keepImage(books, picture)
		const name = freeName(books, kind, layout.name)
		const body = JSON.stringify({ ...layout, name })
		const id = addLayout(books, desk, { kind, name, body, words: 'from a file', from: 0 })
		const stops = checkLayout(layout, allOwnFields(books)).filter(({ level }) => level === 'stop').length
		const words = [
			name === layout.name
				? ''
				: `There is a layout “${layout.name}” for ${kindIn(books, kind).words.nouns} already; this one is “${name}”.`,
			stops > 0
				? `${stops === 1 ? 'One thing is' : `${stops} things are`} to be mended before it can be released.`
				: '',
		]
		return { ok: true, id, words: words.filter(Boolean).join(' ') }
	})
}
