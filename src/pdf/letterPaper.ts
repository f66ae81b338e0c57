import { deflateSync } from 'node:zlib'
import {
	decodePDFRawStream,
	PDFArray,
	PDFDict,
	PDFDocument,
	PDFName,
	PDFNull,
	PDFNumber,
	type PDFObject,
	type PDFPage,
	PDFRawStream,
	PDFRef,
	PDFStream,
} from '@cantoo/pdf-lib'
import type { Result } from '@/core/refusal'
import type { Logo } from './logo'
import type { PdfDict, PdfObject, PdfValue } from './objects'

// A PDF that is laid under a paper: what its pages draw, and nothing else of it. Scripts, links, forms, attachments and whatever hangs on
// the file or a page are not taken over, since only what a page's content needs to be drawn is (ISO 32000-2, 7.8.3).

const mostBytes = 5_000_000
/** Pages of a file are not looked through beyond this; a letter paper has a first and a following one. */
const mostPages = 2
const mostObjects = 4000
const deepest = 40

const refused = (message: string): Result<LetterPaper> => ({ ok: false, refusal: { path: 'letter paper', message } })

/** A letter paper made ready: its pages as pictures of the whole sheet, and its size in points. */
type LetterPaper = { pages: Logo[]; width: number; height: number }

/** The key by which a paper finds page `place` of a letter paper among its pictures. */
const letterPage = (sha256: string, place: number): string => (place === 0 ? sha256 : `${sha256}#${place + 1}`)

/**
 * Makes a letter paper ready. Refused: what is no PDF or damaged, over 5 MB, with more than two pages or pages of two sizes, or locked.
 */
export async function readLetterPaper(bytes: Buffer, sha256: string): Promise<Result<LetterPaper>> {
	if (bytes.length > mostBytes) return refused('The letter paper is over 5 MB. Save it with smaller pictures.')
	if (!bytes.subarray(0, 1024).includes('%PDF-')) return refused('The letter paper must be a PDF.')
	try {
		const pdf = await PDFDocument.load(bytes, { updateMetadata: false, throwOnInvalidObject: true })
		const count = pdf.getPageCount()
		if (count === 0) return refused('The letter paper has no page.')
		if (count > mostPages)
			return refused(`The letter paper has ${count} pages; it has one, or a first and a following one.`)
		const pages = pdf.getPages()
		const [first] = pages
		if (!first) return refused('The letter paper has no page.')
		const { width, height } = sizeOf(first)
		if (pages.some((page) => differs(sizeOf(page), { width, height })))
			return refused('The pages of the letter paper are of two sizes. Save them in one.')
		const taken: Taken = { pdf, objects: new Map(), count: 0 }
		return {
			ok: true,
			value: {
				width,
				height,
				pages: pages.map((page, place) => ({
					sha256: letterPage(sha256, place),
					ratio: width / height,
					pixels: null,
					object: formOf(page, taken),
				})),
			},
		}
	} catch (error) {
		if (error instanceof Strange) return refused(error.message)
		if (await isLocked(bytes)) return refused('The letter paper is locked with a password. Save it without one.')
		return refused('The letter paper cannot be read; it may be damaged. Save it again as PDF and choose the new file.')
	}
}

/** What is locked reads as damaged, so that this is asked apart. */
async function isLocked(bytes: Buffer): Promise<boolean> {
	try {
		return (await PDFDocument.load(bytes, { updateMetadata: false, ignoreEncryption: true })).isEncrypted
	} catch {
		return false
	}
}

class Strange extends Error {}

const differs = (a: { width: number; height: number }, b: { width: number; height: number }): boolean =>
	Math.abs(a.width - b.width) > 1 || Math.abs(a.height - b.height) > 1

/** The size of a page as it is seen, turned where it says so. */
function sizeOf(page: PDFPage): { width: number; height: number } {
	const { width, height } = page.getCropBox()
	const turned = page.getRotation().angle % 180 !== 0
	return turned ? { width: height, height: width } : { width, height }
}

/** A page's content as a form, one unit wide and high (ISO 32000-2, 8.10). */
function formOf(page: PDFPage, taken: Taken): PdfObject {
	const { x, y, width, height } = page.getCropBox()
	if (!(width > 0 && height > 0)) throw new Strange('A page of the letter paper has no size.')
	const angle = ((page.getRotation().angle % 360) + 360) % 360
	const [w, h] = [1 / width, 1 / height]
	const matrix =
		angle === 90
			? [0, -w, h, 0, -y * h, 1 + x * w]
			: angle === 180
				? [-w, 0, 0, -h, 1 + x * w, 1 + y * h]
				: angle === 270
					? [0, w, -h, 0, 1 + y * h, -x * w]
					: [w, 0, 0, h, -x * w, -y * h]
	return {
		dict: {
			Type: 'XObject',
			Subtype: 'Form',
			BBox: [x, y, x + width, y + height],
			Matrix: matrix,
			Filter: 'FlateDecode',
			Resources: resourcesOf(page.node.Resources(), taken, 0),
		},
		stream: deflateSync(contentOf(page), { level: 9 }),
	}
}

/** The operators of a page, its parts joined. What is open at the end of it is closed by the form's own end. */
function contentOf(page: PDFPage): Buffer {
	const contents = page.node.Contents()
	const streams =
		contents instanceof PDFArray
			? Array.from({ length: contents.size() }, (_, place) => contents.lookup(place))
			: contents
				? [contents]
				: []
	const parts = streams.map((stream) => {
		if (stream instanceof PDFRawStream) return Buffer.from(decodePDFRawStream(stream).decode())
		if (stream instanceof PDFStream) return Buffer.from(stream.getContents())
		return Buffer.alloc(0)
	})
	const all = Buffer.concat(parts.flatMap((part) => [part, Buffer.from('\n')]))
	if (all.length > 30_000_000)
		throw new Strange('The letter paper unpacks to more than a page is. Save it again, simpler.')
	return all
}

/** What content may draw with; whatever else a page has is left. */
const wanted = ['ExtGState', 'ColorSpace', 'Pattern', 'Shading', 'XObject', 'Font', 'Properties']
/** Of dictionaries within: what acts, links or describes, and is not drawn. */
const unwanted = new Set([
	...[
		'A',
		'AA',
		'Annots',
		'JS',
		'JavaScript',
		'Metadata',
		'PieceInfo',
		'StructParent',
		'StructParents',
		'Parent',
		'OPI',
		'Ref',
		'AF',
	],
	...['LastModified', 'OC', 'URI', 'EF', 'F'],
])

/** Dictionaries whose keys are names of the file's own making. */
const byName = new Set(['CharProcs', 'Colorants'])

type Taken = { pdf: PDFDocument; objects: Map<PDFRef, PdfObject>; count: number }

/** What content draws with, by kind and then by the names that it calls them by, which are its own. */
function resourcesOf(resources: PDFDict | undefined, taken: Taken, depth: number): PdfDict {
	const kept: PdfDict = {}
	for (const key of wanted) {
		const named = resources?.lookup(PDFName.of(key))
		if (named instanceof PDFDict) kept[key] = namesOf(named, taken, depth + 1)
	}
	return kept
}

const namesOf = (dict: PDFDict, taken: Taken, depth: number): PdfDict =>
	Object.fromEntries(dict.entries().map(([key, value]) => [key.toString().slice(1), ours(value, taken, depth + 1)]))

/** An object of the file as one of ours. One that is named twice is one object again. */
function ours(value: PDFObject, taken: Taken, depth: number): PdfValue {
	if (depth > deepest || ++taken.count > mostObjects * 10)
		throw new Strange('The letter paper is built too deep. Print it to PDF anew and choose that file.')
	if (value instanceof PDFRef) {
		const known = taken.objects.get(value)
		if (known) return known
		const found = taken.pdf.context.lookup(value)
		if (!found) return { raw: 'null' }
		if (!(found instanceof PDFDict || found instanceof PDFStream)) return ours(found, taken, depth + 1)
		if (taken.objects.size > mostObjects)
			throw new Strange(
				`The letter paper has more than ${mostObjects} parts. Print it to PDF anew and choose that file.`,
			)
		// Put down before it is filled, so that what names itself is found.
		const made: PdfObject = { dict: {} }
		taken.objects.set(value, made)
		Object.assign(made, objectOf(found, taken, depth + 1))
		return made
	}
	if (value instanceof PDFStream) return objectOf(value, taken, depth)
	if (value instanceof PDFDict) return dictOf(value, taken, depth + 1)
	if (value instanceof PDFArray) return value.asArray().map((one) => ours(one, taken, depth + 1))
	if (value instanceof PDFName) return { raw: value.toString() }
	if (value instanceof PDFNumber) return { raw: value.toString() }
	if (value === PDFNull) return { raw: 'null' }
	return { raw: value.toString() }
}

function objectOf(found: PDFDict | PDFStream, taken: Taken, depth: number): PdfObject {
	if (found instanceof PDFDict) return { dict: dictOf(found, taken, depth + 1) }
	const { Length: _, ...dict } = dictOf(found.dict, taken, depth + 1)
	return { dict, stream: found.getContents() }
}

function dictOf(dict: PDFDict, taken: Taken, depth: number): PdfDict {
	const kept: PdfDict = {}
	for (const [key, value] of dict.entries()) {
		const name = key.toString().slice(1)
		const inner = value instanceof PDFRef ? taken.pdf.context.lookup(value) : value
		if (name === 'Resources' && inner instanceof PDFDict) kept[name] = resourcesOf(inner, taken, depth)
		else if (byName.has(name) && inner instanceof PDFDict) kept[name] = namesOf(inner, taken, depth)
		else if (!unwanted.has(name)) kept[name] = ours(value, taken, depth + 1)
	}
	return kept
}
