import { isIssued, shownNumber } from '@/core/document'
import { type AnyContent, baseOf, type KindName, numberedForTrial } from '@/kinds'
import { checkLayout, emptyOn, type LayoutFinding, missingWords } from '@/layout/check'
import { checkPaper } from '@/layout/checkPaper'
import type { Drawn } from '@/layout/draw'
import { examplesOf } from '@/layout/examples'
import type { At } from '@/layout/fieldTypes'
import type { Region } from '@/layout/flow'
import { type Language, languageOf, languages, languagesFor } from '@/layout/languages'
import { looksOf, withAccent } from '@/layout/looks'
import { readLayout } from '@/layout/readLayout'
import { drawDocument, makeDocument, writeDrawn } from '@/pdf/makeDocument'
import { assetsOfBooks, assetsWith } from '@/runs/files/assets'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type LayoutRow, versionBody } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { adjacentPaper, latestContents } from '@/store/papers'
import { contentOf, letterInk, overLetterPaper } from './checks'
import { currentBody } from './layouts'

/** A paper as a layout in the making draws it, for whoever makes it. */
export type Preview = {
	/** The PDF, as base64. */
	pdf: string
	pages: number
	paper: { width: number; height: number }
	regions: Region[]
	columns: Drawn['columns']
	findings: LayoutFinding[]
	/** The paper it is seen with: its id, what it is called, and those beside it. */
	seen: { id: number; name: string; before: number | null; after: number | null }
	/** Values of fields on that paper, written as they would be, by key. */
	examples: Record<string, string>
	/** Languages in which its words are looked for, in their order. */
	languages: Language[]
}

/** Draws a layout in the making on a paper. @returns what is wrong with the layout's text when it cannot be read */
export async function previewLayout(
	books: Books,
	body: string,
	paper: number,
	run = 0,
): Promise<Preview | { faults: string[] }> {
	const read = readLayout(body)
	if (!read.ok) return { faults: read.faults.map(({ path, message }) => `${path}: ${message}`) }
	const { layout } = read
	// Which kind of the firm's it is, the paper says that it is seen with.
	const kind = (readAnyDocument(books, paper)?.kind ?? layout.kind) as KindName
	const content = contentOf(books, kind, paper) ?? contentOf(books, kind, 0)
	if (!content || content.kind !== layout.kind) return { faults: ['The paper that it was to be seen with is gone.'] }
	const art = { ...(await assetsWith(content, body, assetsOfBooks(books))), trial: true }
	if (!art.layout) return { faults: ['There is no layout.'] }
	const drawn = drawDocument(content, art.layout, art)
	const { bytes } = writeDrawn(content, drawn, art)
	const language = languageOf(content.locale)
	const numbered = numberedForTrial(content)
	return {
		pdf: bytes.toString('base64'),
		pages: drawn.pages.length,
		paper: drawn.paper,
		regions: drawn.regions,
		columns: drawn.columns,
		findings: [
			...checkLayout(layout, allOwnFields(books)),
			...checkPaper(numbered, numbered === content ? drawn : drawDocument(numbered, art.layout, art)),
			...overLetterPaper(layout, drawn, await letterInk(books, layout)),
			...(language ? missingWords(layout, language) : []),
			...emptyFindings(books, kind, body),
		],
		seen: {
			id: paper,
			name: isIssued(content) ? `${shownNumber(content)} ${content.customer.name}` : `draft, ${content.customer.name}`,
			before: paper === 0 ? null : adjacentPaper(books, kind, paper, -1, run),
			after: paper === 0 ? null : adjacentPaper(books, kind, paper, 1, run),
		},
		examples: examplesOf(layout, content, allOwnFields(books)),
		languages: languagesFor(content),
	}
}

/** Fields that are empty on some of the waiting or latest papers, said as something to look at. */
function emptyFindings(books: Books, kind: KindName, body: string): LayoutFinding[] {
	const read = readLayout(body)
	if (!read.ok) return []
	const papers = latestPapers(books, kind)
	return emptyOn(read.layout, papers, allOwnFields(books)).map(({ piece, field, count, first }) => ({
		level: 'look',
		piece,
		code: 'empty',
		words: `“${field}” is empty on ${count} of ${papers.length}: ${first.slice(0, 3).join(', ')}${count > 3 ? ' …' : ''}. Its words are left out there.`,
	}))
}

const kept = new WeakMap<object, { key: string; papers: { name: string; at: At }[] }>()
const latest = 1000

/** The latest papers of a kind, kept while the newest of them is the same. */
function latestPapers(books: Books, kind: KindName): { name: string; at: At }[] {
	const newest = adjacentPaper(books, kind, Number.MAX_SAFE_INTEGER, -1)
	const key = `${kind} ${newest}`
	const known = kept.get(books.db)
	if (known?.key === key) return known.papers
	const papers = latestContents(books, kind, latest).map(({ content }) => ({
		name: content.number || content.customer.name,
		at: atOf(content),
	}))
	kept.set(books.db, { key, papers })
	return papers
}

const atOf = (content: AnyContent): At => ({ content, languages, place: -1, row: 0, page: 1, pages: 1 })

/** The latest paper of a kind; 0, an invented one, where there is none. */
export const latestPaper = (books: Books, kind: KindName): number =>
	adjacentPaper(books, kind, Number.MAX_SAFE_INTEGER, -1) ?? 0

/** A paper drawn by a layout, with its trial mark. @param version 0 for what is in the making, or the latest where nothing is */
export async function pdfByLayout(
	books: Books,
	row: LayoutRow,
	version: number,
	paper: number,
): Promise<Buffer | null> {
	const body = version === 0 ? currentBody(books, row) : versionBody(books, row.id, version)
	const content = contentOf(books, row.kind, paper)
	if (body === null || !content || content.kind !== baseOf(row.kind)) return null
	const art = { ...(await assetsWith(content, body, assetsOfBooks(books))), trial: true }
	return (await makeDocument(content, art)).bytes
}

/** A paper of the firm's own as a shipped look would draw it, in a colour of its choice; for whoever begins a layout. */
export async function pdfByLook(books: Books, kind: KindName, name: string, accent: string): Promise<Buffer | null> {
	const look = looksOf(baseOf(kind)).find((one) => one.name === name)
	const content = contentOf(books, kind, latestPaper(books, kind))
	if (!look || !content) return null
	const body = JSON.stringify(accent === '' ? look : withAccent(look, accent))
	return (await makeDocument(content, { ...(await assetsWith(content, body, assetsOfBooks(books))), trial: true }))
		.bytes
}
