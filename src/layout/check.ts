import type { OwnField } from '@/core/ownFields'
import { type Fields, hasField, ownFieldAt, placesOf } from './fields'
import type { At, Of } from './fieldTypes'
import { type Language, languageNames, languages } from './languages'
import { leafOf, namesOf } from './pieceTypes'
import type { Layout, Piece } from './schema'
import { allWithin, colourKeys, withinOf } from './schema'
import type { Paragraph } from './schemaParts'
import { fieldsOf } from './values'

/** What is wrong with a layout: a stop keeps it from being released, a look is to be known of. `piece` is where. */
export type LayoutFinding = {
	level: 'stop' | 'look'
	piece: string
	code: string
	words: string
	/** What of the piece it is about, where the piece and the code do not say it: the same on two papers is one finding. */
	about?: string
}

const least = 7
/** WCAG 2.2, 1.4.3. */
const leastContrast = 4.5

/** What can be told of a layout by itself. @param ownFields the firm's own fields; without them no such field is doubted */
export function checkLayout(layout: Layout, ownFields?: readonly OwnField[]): LayoutFinding[] {
	const fields = fieldsOf(layout, ownFields)
	return [
		...strayFields(layout, fields, ownFields),
		...strayColours(layout),
		...lettering(layout),
		...structure(layout),
	]
}

/** A field as a layout names it: where, and whose fields may stand there. */
type Named = { piece: string; key: string; of: readonly Of[]; empty: boolean }

/** Every field that a layout names, with its place. */
function namedFields(layout: Layout): Named[] {
	const named: Named[] = []
	const paper: readonly Of[] = ['paper']
	for (const piece of allWithin([...layout.head, ...layout.body, ...layout.foot])) {
		const field = (key: string, of = paper, empty = true) => named.push({ piece: piece.id, key, of, empty })
		namesOf(piece, {
			field,
			inlines: (inlines, of) => {
				for (const inline of inlines) if ('field' in inline) field(inline.field, of, inline.empty === undefined)
			},
			condition: (condition, of) => {
				for (const test of condition ? ('all' in condition ? condition.all : condition.any) : [])
					field(test.field, of, false)
			},
		})
	}
	return named
}

function strayFields(layout: Layout, fields: Fields, ownFields: readonly OwnField[] | undefined): LayoutFinding[] {
	const isGone = (key: string) => {
		const named = ownFieldAt(key)?.ownField
		return (
			named &&
			ownFields &&
			!ownFields.some(({ of, key, type }) => of === named.of && key === named.key && type === named.type)
		)
	}
	const found = new Map<string, LayoutFinding>()
	for (const { piece, key, of } of namedFields(layout)) {
		const field = fields.get(key)
		const words =
			!field || isGone(key)
				? `There is no field “${key}” (any more). Put another in its place, or take it out.`
				: !hasField(field, layout.kind)
					? `“${field.name}” is not on papers of this kind. Put another field in its place, or take it out.`
					: !of.includes(field.of)
						? `“${field.name}” belongs to a ${field.of}, and there is none here. Use it in a table of these.`
						: ''
		if (words) found.set(`${piece} ${key}`, { level: 'stop', piece, code: 'field', about: key, words })
	}
	for (const { name, how } of layout.reckoned) {
		const keys =
			how.is === 'joined' || how.is === 'count'
				? []
				: [how.of, ...('by' in how && 'field' in how.by ? [how.by.field] : [])]
		for (const key of keys)
			if (!fields.get(key) || isGone(key))
				found.set(`reckoned ${name}`, {
					level: 'stop',
					piece: '',
					code: 'field',
					about: name,
					words: `The reckoned field “${name}” is of “${key}”, which there is not.`,
				})
	}
	return [...found.values()]
}

/** Colours that pieces name, by the property that names them. */
function coloursOf(value: unknown): string[] {
	if (Array.isArray(value)) return value.flatMap(coloursOf)
	if (typeof value !== 'object' || value === null) return []
	return Object.entries(value).flatMap(([key, inner]) =>
		colourKeys.has(key) && typeof inner === 'string' ? [inner] : key === 'pieces' ? [] : coloursOf(inner),
	)
}

function strayColours(layout: Layout): LayoutFinding[] {
	const names = new Set(layout.palette.map(({ name }) => name))
	return allWithin([...layout.head, ...layout.body, ...layout.foot]).flatMap(({ type, ...piece }) => {
		const own = 'columns' in piece && type === 'beside' ? { ...piece, columns: [] } : piece
		const stray = [...new Set(coloursOf(own).filter((name) => !names.has(name)))]
		return stray.map(
			(name): LayoutFinding => ({
				level: 'stop',
				piece: piece.id,
				code: 'colour',
				about: name,
				words: `The palette has no colour “${name}”. Choose one that it has.`,
			}),
		)
	})
}

/** Sizes that a piece sets. */
function sizesOf(value: unknown): number[] {
	if (Array.isArray(value)) return value.flatMap(sizesOf)
	if (typeof value !== 'object' || value === null) return []
	return Object.entries(value).flatMap(([key, inner]) =>
		(key === 'size' || key === 'nameSize') && typeof inner === 'number'
			? [inner]
			: key === 'pieces'
				? []
				: sizesOf(inner),
	)
}

/** Text that is too small to read, or too pale on what it stands on. */
function lettering(layout: Layout): LayoutFinding[] {
	const palette = new Map(layout.palette.map(({ name, color }) => [name, color]))
	const found: LayoutFinding[] = []
	const walk = (pieces: readonly Piece[], ground: string) => {
		for (const piece of pieces) {
			const own = piece.type === 'beside' ? { ...piece, columns: [] } : piece
			const small = sizesOf(own).filter((size) => size < least)
			if (small.length > 0)
				found.push({
					level: 'stop',
					piece: piece.id,
					code: 'size',
					words: `Text of ${Math.min(...small)} points is too small to read; ${least} are the least.`,
				})
			if (piece.type !== 'box' && piece.type !== 'beside' && leafOf(piece).lettered) {
				for (const name of new Set(textColours(piece, layout.text.color))) {
					const color = palette.get(name)
					const on =
						piece.type === 'lines' && name === piece.head?.color && piece.head.fill
							? (palette.get(piece.head.fill) ?? ground)
							: ground
					if (color && contrast(color, on) < leastContrast)
						found.push({
							level: 'stop',
							piece: piece.id,
							code: 'contrast',
							words: `Text in “${name}” is too pale on its ground (${contrast(color, on).toFixed(1)} to 1; ${leastContrast} is the least).`,
						})
				}
			}
			const inner = piece.type === 'box' && piece.fill ? (palette.get(piece.fill) ?? ground) : ground
			for (const stack of withinOf(piece)) walk(stack, inner)
		}
	}
	walk([...layout.head, ...layout.body, ...layout.foot], 'ffffff')
	return found
}

function textColours(piece: Piece, usual: string): string[] {
	const found: string[] = []
	const look = (value: unknown) => {
		if (Array.isArray(value)) value.forEach(look)
		else if (typeof value === 'object' && value !== null)
			for (const [key, inner] of Object.entries(value)) {
				if (['color', 'labelColor', 'late'].includes(key) && typeof inner === 'string') found.push(inner)
				else look(inner)
			}
	}
	look(piece)
	return found.length > 0 ? found : [usual]
}

/** Contrast of two colours (WCAG 2.2, relative luminance). */
export function contrast(a: string, b: string): number {
	const luminance = (hex: string) => {
		const [red = 0, green = 0, blue = 0] = [0, 2, 4].map((from) => {
			const part = Number.parseInt(hex.slice(from, from + 2), 16) / 255
			return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
		})
		return 0.2126 * red + 0.7152 * green + 0.0722 * blue
	}
	const [light = 0, dark = 0] = [luminance(a), luminance(b)].sort((one, other) => other - one)
	return (light + 0.05) / (dark + 0.05)
}

function structure(layout: Layout): LayoutFinding[] {
	const found: LayoutFinding[] = []
	const stop = (piece: string, code: string, words: string) => found.push({ level: 'stop', piece, code, words })
	const { margins, size, across } = layout.page
	const width = (across ? { A4: 842, Letter: 792, A5: 595 } : { A4: 595, Letter: 612, A5: 420 })[size]
	if (width - margins.left - margins.right < 150)
		stop('', 'margins', 'The margins leave less than 150 points across the page. Make them smaller.')
	for (const piece of allWithin(layout.body))
		if (piece.type === 'words')
			for (const paragraphs of Object.values(piece.says))
				for (const { runs } of paragraphs ?? [])
					for (const run of runs)
						if ('field' in run && (run.field === 'page' || run.field === 'pages'))
							stop(piece.id, 'page', 'Page numbers are known only at the head or foot of pages. Move the piece there.')
	if (
		layout.kind !== 'statement' &&
		!allWithin(layout.body).some((piece) => piece.type === 'lines' && piece.of === 'lines')
	)
		stop('', 'no lines', 'It lists nothing of what was supplied (article 226 (6)). Put a table of lines in.')
	const flowing = new Set(layout.body)
	for (const piece of allWithin([...layout.head, ...layout.body, ...layout.foot]))
		if (piece.type === 'turn' && !flowing.has(piece))
			stop(
				piece.id,
				'turn',
				'A page begins where text flows, not within a box or at the head or foot. Move the piece there.',
			)
	for (const piece of layout.body)
		if (piece.on)
			stop(piece.id, 'on', 'What flows stands once. Move the piece to the head or foot of pages to have it on several.')
	return found
}

/**
 * Fields of the whole paper, and pictures of lines, that are named and empty on some of the given papers: which field, where, on how
 * many, the first few.
 */
export function emptyOn(
	layout: Layout,
	papers: readonly { name: string; at: At }[],
	ownFields: readonly OwnField[] = [],
): { piece: string; field: string; count: number; first: string[] }[] {
	const fields = fieldsOf(layout, ownFields)
	const seen = new Set<string>()
	return namedFields(layout).flatMap(({ piece, key, empty }) => {
		const field = fields.get(key)
		const ofLines = field?.of === 'line' && field.type === 'picture'
		if (!empty || !field || !(field.of === 'paper' || ofLines) || field.group === 'Page' || seen.has(`${piece} ${key}`))
			return []
		seen.add(`${piece} ${key}`)
		const isEmpty = (at: At) => {
			const raw = field.read(at)
			return typeof raw === 'string' ? raw.trim() === '' : raw.length === 0
		}
		const without = papers.filter(({ at }) =>
			ofLines
				? Array.from({ length: placesOf.lines?.(at.content) ?? 0 }).some((_, place) => isEmpty({ ...at, place }))
				: isEmpty(at),
		)
		return without.length === 0
			? []
			: [{ piece, field: field.name, count: without.length, first: without.slice(0, 5).map(({ name }) => name) }]
	})
}

/** Every place where a layout says something in several languages: its piece, and the languages that have words. */
function saidIn(layout: Layout): { piece: string; of: Set<string> }[] {
	const places: { piece: string; of: Set<string> }[] = []
	const known = new Set<string>(languages)
	const look = (value: unknown, piece: string) => {
		if (Array.isArray(value)) for (const one of value) look(one, piece)
		else if (typeof value === 'object' && value !== null) {
			const keys = Object.keys(value)
			const ofLanguages = keys.length > 0 && keys.every((key) => known.has(key))
			const paragraphs = ofLanguages ? Object.values(value).filter((one) => Array.isArray(one)) : []
			if (paragraphs.length > 0) {
				// Paragraphs of fields and of words in several languages do for all; letters of their own are of one.
				if (paragraphs.some(hasLetters)) places.push({ piece, of: new Set(keys) })
				look(paragraphs, piece)
				return
			}
			if (ofLanguages) {
				places.push({
					piece,
					of: new Set(Object.entries(value).flatMap(([key, words]) => (words === '' ? [] : [key]))),
				})
				return
			}
			for (const inner of Object.values(value)) look(inner, piece)
		}
	}
	for (const piece of allWithin([...layout.head, ...layout.body, ...layout.foot]))
		look(piece.type === 'box' ? {} : piece.type === 'beside' ? {} : piece, piece.id)
	for (const reckoned of layout.reckoned) look(reckoned.how, '')
	return places
}

/** Whether paragraphs have letters that are the same in every language. */
const hasLetters = (paragraphs: readonly Paragraph[]): boolean =>
	paragraphs.some(({ runs }) =>
		runs.some((run) => 'text' in run && typeof run.text === 'string' && /\p{L}/u.test(run.text)),
	)

/** Pieces without words in a language that a customer's papers are in, though they have them in others. */
export function missingWords(layout: Layout, language: Language): LayoutFinding[] {
	const pieces = new Set(saidIn(layout).flatMap(({ piece, of }) => (of.size > 0 && !of.has(language) ? [piece] : [])))
	return [...pieces].map((piece) => ({
		level: 'look',
		piece,
		code: `language ${language}`,
		words: `It has no words in ${languageNames[language]}; for such customers others stand there. Write them, or leave it so.`,
	}))
}
