import { type AnyContent, baseOf, isPaper, type KindName, numberedForTrial } from '@/kinds'
import { checkLayout, type LayoutFinding, missingWords } from '@/layout/check'
import { checkPaper } from '@/layout/checkPaper'
import { compileLayout, type Drawn } from '@/layout/draw'
import { type Language, languageOf } from '@/layout/languages'
import { readLayout } from '@/layout/readLayout'
import { samplePaper } from '@/layout/sample'
import { allWithin, type Layout } from '@/layout/schema'
import { symbologies } from '@/layout/symbologies'
import { encode } from '@/pdf/codes'
import { metrics } from '@/pdf/fontKit'
import { type Ink, inkOf } from '@/pdf/letterInk'
import { readLetterPaper } from '@/pdf/letterPaper'
import { drawDocument } from '@/pdf/makeDocument'
import { readBack } from '@/pdf/readBack'
import { assetsOfBooks, assetsWith, hashesIn } from '@/runs/files/assets'
import type { Books } from '@/store/books'
import { homeCurrency, issuerOf, readCompany, readImage } from '@/store/company'
import { readAnyDocument } from '@/store/documents'
import { allOwnFields } from '@/store/ownFields'
import { paperKindOf } from '@/store/paperKinds'
import { type PaperTraits, paperTraits } from '@/store/papers'

/** A paper that is hard on a layout, and by what. `id` 0 is one that was never issued, for books that have none of the kind. */
type HardPaper = { id: number; name: string; why: string[] }

const most = 30
/** From so many points to the inch on a picture prints sharp. */
const leastDpi = 150

/** Papers of the books that are hardest to lay out: the longest, largest, emptiest, and one of each tax, currency and language. */
export function hardestPapers(books: Books, kind: KindName): HardPaper[] {
	const traits = paperTraits(books, kind)
	const chosen = new Map<number, HardPaper>()
	const take = (paper: PaperTraits | undefined, why: string) => {
		if (!paper) return
		const known = chosen.get(paper.id)
		if (known) known.why.push(why)
		else if (chosen.size < most)
			chosen.set(paper.id, { id: paper.id, name: `${paper.number ?? 'draft'} ${paper.customer_name}`, why: [why] })
	}
	const by = (measure: (paper: PaperTraits) => number) =>
		traits.reduce<PaperTraits | undefined>(
			(best, paper) => (best === undefined || measure(paper) > measure(best) ? paper : best),
			undefined,
		)
	take(
		by(({ lines }) => lines),
		'most lines',
	)
	take(
		by(({ lines }) => -lines),
		'fewest lines',
	)
	take(
		by(({ name }) => name),
		'longest name',
	)
	take(
		by(({ address }) => address),
		'longest address',
	)
	take(
		by(({ address }) => -address),
		'shortest address',
	)
	take(
		by(({ total }) => total),
		'largest figure',
	)
	take(
		by(({ total }) => -total),
		'smallest figure',
	)
	take(
		by(({ length, lines }) => length / Math.max(lines, 1)),
		'longest texts',
	)
	take(
		by(({ orders }) => orders.length),
		'most orders',
	)
	take(
		traits.find(({ their_name }) => /[\u0370-\u1fff\u2e80-\uffff]/.test(their_name)),
		'another script',
	)
	take(
		traits.find(({ number }) => number === null),
		'a draft',
	)
	for (const [what, of] of [
		['tax', ({ tax }: PaperTraits) => tax],
		['currency', ({ currency }: PaperTraits) => currency],
		['language', ({ locale }: PaperTraits) => locale],
	] as const)
		for (const value of new Set(traits.map(of)))
			take(
				traits.find((paper) => of(paper) === value),
				`${what} ${value}`,
			)
	return chosen.size > 0
		? [...chosen.values()]
		: [{ id: 0, name: 'an invented paper', why: ['the books have none yet'] }]
}

/** What a paper says, by its id; an invented one for 0. */
export function contentOf(books: Books, kind: KindName, id: number): AnyContent | null {
	if (id !== 0) return readAnyDocument(books, id)?.content ?? null
	const company = readCompany(books)
	const sample = samplePaper(baseOf(kind), company ? issuerOf(company) : {}, homeCurrency(books))
	const own = paperKindOf(books, kind)
	if (!own || !isPaper(sample)) return sample
	const { id: kindId, name, names } = own
	return { ...sample, paper: { ...sample.paper, id: kindId, name, names } }
}

/**
 * A paper drawn by a layout in the making, with its trial mark.
 * @throws Error where there is no layout to draw by
 */
export async function drawTrial(books: Books, body: string, content: AnyContent): Promise<Drawn> {
	const art = await assetsWith(content, body, assetsOfBooks(books))
	if (!art.layout) throw new Error('There is no layout to draw by.')
	return drawDocument(content, art.layout, { ...art, trial: true })
}

/**
 * All that keeps a layout from being released or is to be known of: by itself, and on the hardest papers of the books.
 * @param of the kind of paper, where it is one of the firm's
 */
export async function checkForRelease(books: Books, body: string, of?: KindName): Promise<LayoutFinding[]> {
	const read = readLayout(body)
	if (!read.ok)
		return read.faults.map(({ path, message }) => ({
			level: 'stop',
			piece: '',
			code: 'schema',
			words: `${path}: ${message}`,
		}))
	const { layout } = read
	const kind = of ?? (layout.kind as KindName)
	const ink = await letterInk(books, layout)
	const inLanguages = new Set<Language>()
	const found = [
		...checkLayout(layout, allOwnFields(books)),
		...(await letterFaults(books, layout)),
		...(await missingPictures(books, layout)),
	]
	for (const { id } of hardestPapers(books, kind)) {
		const content = contentOf(books, kind, id)
		if (!content) continue
		const drawn = await drawTrial(books, body, numberedForTrial(content))
		found.push(
			...checkPaper(numberedForTrial(content), drawn),
			...(await unreadableCodes(drawn)),
			...overLetterPaper(layout, drawn, ink),
			...(await coarsePictures(books, body, content, drawn)),
		)
		const language = languageOf(content.locale)
		if (language) inLanguages.add(language)
	}
	for (const language of inLanguages) found.push(...missingWords(layout, language))
	return distinct(found)
}

/** One finding a piece and kind of fault: the first paper stands for all that have it. */
function distinct(findings: LayoutFinding[]): LayoutFinding[] {
	const seen = new Map<string, LayoutFinding & { more: number }>()
	for (const finding of findings) {
		const key = `${finding.piece} ${finding.code} ${finding.about ?? ''}`
		const known = seen.get(key)
		if (known) known.more++
		else seen.set(key, { ...finding, more: 0 })
	}
	return [...seen.values()]
		.map(({ more, about: _, ...finding }) =>
			more > 0 ? { ...finding, words: `${finding.words} So on ${more} more.` } : finding,
		)
		.sort((a, b) => (a.level === b.level ? 0 : a.level === 'stop' ? -1 : 1))
}

const inks = new Map<string, Ink[][]>()
/** Where a layout's letter paper is printed on; nowhere without one. */
export async function letterInk(books: Books, { under }: Layout): Promise<Ink[][]> {
	const known = under === undefined ? [] : inks.get(under)
	if (known || under === undefined) return known ?? []
	const image = readImage(books, under)
	const found = image?.type === 'application/pdf' ? await inkOf(image.bytes) : []
	if (inks.size > 20) inks.clear()
	inks.set(under, found)
	return found
}

/** Pictures from fields that print coarse as large as they are on a paper; those of the layout's own are told by themselves. */
async function coarsePictures(
	books: Books,
	body: string,
	content: AnyContent,
	{ pages, regions }: Drawn,
): Promise<LayoutFinding[]> {
	const { pictures } = await assetsWith(content, body, assetsOfBooks(books))
	const own = hashesIn(body)
	const least = new Map<string, number>()
	pages.forEach((page, index) => {
		for (const mark of page) {
			if (mark.type !== 'image' || mark.sha256 === content.issuer.logo || own.has(mark.sha256)) continue
			const pixels = pictures.get(mark.sha256)?.pixels
			const dpi = pixels ? Math.round(pixels / (mark.width / 72)) : leastDpi
			const region = regions.find((one) => one.page === index && one.top - 2 <= mark.y && mark.y <= one.bottom + 2)
			const piece = region?.piece ?? ''
			if (dpi < leastDpi) least.set(piece, Math.min(dpi, least.get(piece) ?? dpi))
		}
	})
	return [...least].map(([piece, dpi]) => ({
		...{ level: 'look', piece, code: 'dpi' },
		words: `A picture on ${content.number || 'the draft'} of ${content.customer.name} has ${dpi} points to the inch; from ${leastDpi} on it prints sharp.`,
	}))
}

/** A letter paper that is not in the books, or is of another size than the layout's paper. */
async function letterFaults(books: Books, layout: Layout): Promise<LayoutFinding[]> {
	if (layout.under === undefined) return []
	const image = readImage(books, layout.under)
	const read = image && (await readLetterPaper(image.bytes, layout.under))
	if (!read?.ok)
		return [
			{
				level: 'stop',
				piece: '',
				code: 'letter',
				words: 'Its letter paper is not in the books. Choose one, or take it away.',
			},
		]
	const { paper } = compileLayout(layout)
	const { width, height } = read.value
	if (Math.abs(paper.width - width) < 3 && Math.abs(paper.height - height) < 3) return []
	return [
		{
			...{ level: 'look', piece: '', code: 'letter' },
			words: `The letter paper is ${Math.round(width)} by ${Math.round(height)} points, the paper ${Math.round(paper.width)} by ${Math.round(paper.height)}: it is stretched to fit.`,
		},
	]
}

/** Pieces whose text stands over what the letter paper has printed there. */
export function overLetterPaper(layout: Layout, { pages, regions }: Drawn, ink: Ink[][]): LayoutFinding[] {
	const [first = []] = ink
	const over = new Set<string>()
	pages.forEach((page, index) => {
		const printed = index === 0 ? first : (ink[1] ?? first)
		for (const mark of printed.length === 0 ? [] : page) {
			if (mark.type !== 'text' || mark.turn || mark.text.trim() === '') continue
			const right = mark.x + metrics.width(mark.text, mark.face, mark.size)
			const hit = printed.some(
				([x0, y0, x1, y1]) =>
					mark.x < x1 - 1 && right > x0 + 1 && mark.y - mark.size * 0.7 < y1 - 0.5 && mark.y > y0 + 0.5,
			)
			const region =
				hit &&
				regions.find(
					(one) =>
						one.page === index &&
						one.top - 2 <= mark.y &&
						mark.y <= one.bottom + 2 &&
						one.left - 4 <= mark.x &&
						mark.x <= one.right + 4,
				)
			if (hit) over.add(region ? region.piece : '')
		}
	})
	const names = new Map(allWithin([...layout.head, ...layout.body, ...layout.foot]).map(({ id, type }) => [id, type]))
	return [...over].map((piece) => ({
		level: 'look',
		piece,
		code: 'over letter paper',
		words: `${names.has(piece) ? 'It stands' : 'Something stands'} over what the letter paper has printed there. Move it, or make the margins wider.`,
	}))
}

async function missingPictures(books: Books, layout: Layout): Promise<LayoutFinding[]> {
	const found: LayoutFinding[] = []
	for (const piece of allWithin([...layout.head, ...layout.body, ...layout.foot])) {
		if (piece.type !== 'picture') continue
		const sha256 = piece.of === 'logo' ? readCompany(books)?.logo_sha256 : 'image' in piece.of ? piece.of.image : null
		if (!sha256) continue
		const { pictures } = await assetsWith(
			{ ...samplePaper(layout.kind), issuer: { ...samplePaper(layout.kind).issuer, logo: sha256 } },
			null,
			assetsOfBooks(books),
		)
		const picture = pictures.get(sha256)
		if (!picture)
			found.push({
				level: 'stop',
				piece: piece.id,
				code: 'picture',
				words: 'Its picture is not in the books. Choose one.',
			})
		else if (picture.pixels !== null) {
			const width = Math.min(piece.width, piece.height * picture.ratio)
			const dpi = Math.round(picture.pixels / (width / 72))
			if (dpi < leastDpi)
				found.push({
					level: 'look',
					piece: piece.id,
					code: 'dpi',
					words: `The picture has ${dpi} points to the inch here; from ${leastDpi} on it prints sharp.`,
				})
		}
	}
	return found
}

/** A third of a millimetre, in points, is what scanners and telephones still read from paper. */
const leastCell = 0.7

/** Codes that a machine does not read back as what they were to say, or that are drawn too fine for one. */
async function unreadableCodes(drawn: Drawn): Promise<LayoutFinding[]> {
	const found: LayoutFinding[] = []
	for (const { piece, symbol, text, cell } of drawn.codes) {
		const back = await readBack(encode(symbol, text), symbologies[symbol].bars)
		const right = back !== null && (back === text || (symbol === 'ean-13' && back.startsWith(text)))
		if (!right)
			found.push({
				level: 'stop',
				piece,
				code: 'unreadable',
				words: `The code cannot be read back as “${text.slice(0, 40)}”. Choose another symbol, or shorter text.`,
			})
		else if (cell < leastCell)
			found.push({
				level: 'stop',
				piece,
				code: 'fine',
				words: 'The cells of the code are too fine to be read from paper. Make it wider.',
			})
	}
	return found
}
