import { plainName } from '@/intake/kinds/field'
import type { LinesPiece } from '@/layout/pieces/linesSchema'
import {
	type Block,
	type Form,
	type Inline,
	type Manner,
	paragraphsIn,
	type Row,
	stacksOf,
	type Table,
	textOf,
} from './form'
import { fieldsNamed, labelFields, type Offer, offerFor, type Vocabulary } from './offers'
import { type Point, withPoints } from './points'

export type Source = LinesPiece['of']
/** What a clerk said of a mark: the field that it stands for, that it is text, or that nothing stands there. */
export type PlaceholderAnswer = { field: string } | { is: 'text' | 'nothing' }
/** What is kept of a mapping: answers by the keys of marks, of rows (what a row is repeated for) and of names (whether each place of it is a mark of its own). */
export type Answers = {
	marks: Record<string, PlaceholderAnswer>
	rows: Record<string, Source | 'once'>
	apart: Record<string, boolean>
	points: Record<string, Point>
}
export const noAnswers: Answers = { marks: {}, rows: {}, apart: {}, points: {} }

/** Where a mark stands, as a clerk would say it. */
export type Spot = { before: string; after: string; where: string; block: string }
export type Listed = {
	key: string
	name: string
	shown: string
	manner: Manner | 'picture'
	/** What the row is repeated for; null for a mark of the whole paper. */
	source: Source | null
	spots: Spot[]
	offer: Offer | null
	/** How many marks bear this name with other meanings. */
	others: number
	/** Whether the places of this name were parted by a clerk, or are together by one. */
	apart: boolean
}
/** A row of a table in which marks stand. */
export type ListedRow = {
	key: string
	table: string
	row: number
	says: string
	source: Source | null
	offered: Source | null
}

export type Understood = {
	form: Form
	marks: Listed[]
	rows: ListedRow[]
	/** What rows can be repeated for on a paper of this kind. */
	sources: readonly Source[]
	/** The key of the mark that stands at a place, by the paragraph and the place in it. */
	keyAt: ReadonlyMap<string, string>
	/** What a table's rows are repeated for, row by row; nothing for those that stand once. */
	sourceOf: (table: string, row: number) => Source | null
	/** The row in whose cells a paragraph with marks stands. */
	rowOfBlock: ReadonlyMap<string, ListedRow>
	/** Rows whose marks open or close what is repeated, and say nothing else. */
	edges: ReadonlySet<string>
}

const recordsOf: Record<Source, string> = {
	...{ lines: 'line', orders: 'order', taxes: 'tax', items: 'item', movements: 'movement' },
}
/** Fields without which rows are not taken for records of a kind. */
const core: Record<Source, RegExp> = {
	lines: /^line\.(item|description|quantity|price|own\.)/,
	orders: /^order\./,
	taxes: /^tax\.(rate|base)/,
	items: /^item\.(number|open|amount)/,
	movements: /^movement\.(words|balance)/,
}
const billSources: readonly Source[] = ['lines', 'taxes', 'orders']
const statementSources: readonly Source[] = ['items', 'movements']

const isMark = (inline: Inline): boolean =>
	inline.is === 'mark' || (inline.is === 'picture' && inline.mark !== undefined)
const nameOf = (inline: Inline): string =>
	inline.is === 'mark' ? inline.name : inline.is === 'picture' ? (inline.mark ?? '') : ''

const rowText = (row: Row): string =>
	row.cells
		.map(({ blocks }) =>
			paragraphsIn(blocks)
				.map(({ inlines }) => textOf(inlines))
				.join(' '),
		)
		.join(' | ')

type Found = {
	inline: Inline
	block: string
	index: number
	label: string
	before: string
	after: string
	where: string
	source: Source | null
}

/** Everything that a mapping shows of a form: its marks in their order with what is offered for each, and the rows that are repeated. */
export function understand(given: Form, answers: Answers, vocabulary: Vocabulary): Understood {
	const form = withPoints(given, answers.points)
	const statement = vocabulary.fields.has('item.number')
	const sources = statement ? statementSources : billSources
	const found: Found[] = []
	const rows: ListedRow[] = []
	const chosen = new Map<string, Source | null>()
	const edges = new Set<string>()
	const rowOfBlock = new Map<string, ListedRow>()
	const seenRows = new Map<string, number>()
	const pairs = pairsIn(form)
	const isEdge = (inline: Inline): boolean =>
		inline.is === 'mark' && inline.edge !== undefined && pairs.has(plainName(inline.name))

	const walk = (blocks: readonly Block[], band: string, source: Source | null, heading = '', beside = '') => {
		let previous = ''
		blocks.forEach((block, place) => {
			if (block.is === 'table') {
				walkTable(block, band)
				previous = ''
				return
			}
			const text = textOf(block.inlines)
			let before = ''
			block.inlines.forEach((inline, index) => {
				const own = textOf([inline])
				if (isMark(inline)) {
					const lead = before.trim()
					// What stands between this mark and the one before it, else the cell beside, the head of the column, the line above.
					const label =
						lastWords(lead) || (lead === '' && place === 0 ? beside || heading : lead === '' ? labelLine(previous) : '')
					found.push({
						inline,
						block: block.id,
						index,
						label: lead === '' && place === 0 && source ? heading || beside : label,
						before: text.slice(Math.max(0, before.length - 40), before.length),
						after: text.slice(before.length + own.length, before.length + own.length + 24),
						where: band,
						source,
					})
				}
				before += own
			})
			previous = text
		})
	}
	const walkTable = (table: Table, band: string) => {
		const parts = repeatedRows(table, isEdge)
		let heads: string[] = []
		table.rows.forEach((row, index) => {
			const says = rowText(row)
			const inlines = row.cells.flatMap(({ blocks }) => paragraphsIn(blocks).flatMap((one) => one.inlines))
			const marks = inlines.filter(isMark)
			if (marks.length === 0) {
				if (says.replace(/[| ]/g, '') !== '') heads = headsOf(row)
			}
			const onlyEdges =
				marks.length > 0 &&
				marks.every(isEdge) &&
				says.replace(/\{\{?[#/^][^}]*\}?\}|[| ]|<<?[#/][^>]*>?>|\[\[?[#/][^\]]*\]?\]/g, '') === ''
			if (onlyEdges) edges.add(`${table.id} ${index}`)
			let source: Source | null = null
			if (marks.length > 0 && !onlyEdges) {
				const base = plainName(says).slice(0, 60)
				const count = (seenRows.get(base) ?? 0) + 1
				seenRows.set(base, count)
				const key = count === 1 ? base : `${base}#${count}`
				const offered = sourceOffered(row, heads, parts.get(index))
				const answer = answers.rows[key]
				source = answer === undefined ? offered : answer === 'once' ? null : sources.includes(answer) ? answer : null
				const own: ListedRow = { key, table: table.id, row: index, says, source, offered }
				rows.push(own)
				for (const { id } of row.cells.flatMap(({ blocks }) => paragraphsIn(blocks))) rowOfBlock.set(id, own)
			}
			chosen.set(`${table.id} ${index}`, source)
			const named = heads
			// What stands below a repeated row has no head.
			if (source) heads = []
			let column = 0
			row.cells.forEach((cell, at) => {
				const left = at > 0 ? rowText({ cells: [row.cells[at - 1] ?? cell] }).trim() : ''
				const besideIsLabel =
					left !== '' &&
					!row.cells[at - 1]?.blocks.some((block) => paragraphsIn([block]).some(({ inlines }) => inlines.some(isMark)))
				walk(cell.blocks, band, source, named[column] ?? '', besideIsLabel ? left : '')
				column += cell.span
			})
		})
	}
	const sourceOffered = (row: Row, heads: readonly string[], said: string | undefined): Source | null => {
		let best: { source: Source; count: number } | null = null
		// A row in whose cells tables stand is one that sets these out.
		if (said === undefined && row.cells.some(({ blocks }) => blocks.some(({ is }) => is === 'table'))) return null
		for (const source of sources) {
			const record = recordsOf[source]
			let column = 0
			const named = row.cells.flatMap((cell) => {
				const head = heads[column] ?? ''
				column += cell.span
				return paragraphsIn(cell.blocks).flatMap(({ inlines }) =>
					inlines.filter(isMark).flatMap((inline) => {
						const offer = offerFor(vocabulary, nameOf(inline), head, [record])
						const alone = fieldsNamed(vocabulary, nameOf(inline), ['paper']).length === 0
						return offer ? [{ field: offer.field, alone }] : []
					}),
				)
			})
			const distinct = new Set(named.map(({ field }) => field))
			const headed = heads.filter((head) => labelFields(vocabulary, head, [record]).length > 0).length >= 2
			// Names that are of such records alone say it without the heads of columns.
			const alone = new Set(named.flatMap(({ field, alone }) => (alone ? [field] : [])))
			const enough =
				said !== undefined
					? distinct.size >= 1
					: distinct.size >= (headed ? 1 : 2) && (source === 'lines' || headed || alone.size >= 2)
			if (enough && [...distinct].some((key) => core[source].test(key)) && (!best || distinct.size > best.count))
				best = { source, count: distinct.size }
		}
		return best?.source ?? (said !== undefined ? (sources[0] ?? null) : null)
	}
	for (const { band, blocks } of stacksOf(form)) walk(blocks, band, null)
	const live = found.filter(({ inline }) => !isEdge(inline))
	const { marks, keyAt } = listed(live, answers, vocabulary)
	return {
		form,
		marks: apartFrom(marks, vocabulary),
		keyAt,
		rows,
		sources,
		sourceOf: (table, row) => chosen.get(`${table} ${row}`) ?? null,
		edges,
		rowOfBlock,
	}
}

/** Names that are both opened and closed somewhere: an opening alone is a mark with a sign. */
function pairsIn(form: Form): ReadonlySet<string> {
	const seen = { begin: new Set<string>(), end: new Set<string>() }
	for (const { blocks } of stacksOf(form))
		for (const { inlines } of paragraphsIn(blocks))
			for (const inline of inlines)
				if (inline.is === 'mark' && inline.edge) seen[inline.edge].add(plainName(inline.name))
	return new Set([...seen.begin].filter((name) => seen.end.has(name)))
}

/** Rows that the form itself repeats: by a section of its format, or between marks that open and close. */
function repeatedRows(table: Table, isEdge: (inline: Inline) => boolean): Map<number, string> {
	const out = new Map<number, string>()
	let open: string | null = null
	table.rows.forEach((row, index) => {
		const marks = row.cells.flatMap(({ blocks }) =>
			paragraphsIn(blocks).flatMap(({ inlines }) =>
				inlines.flatMap((one) => (one.is === 'mark' && isEdge(one) ? [one] : [])),
			),
		)
		const begins = marks.find(({ edge }) => edge === 'begin')
		if (begins) open = begins.name
		if (row.repeated !== undefined) out.set(index, row.repeated)
		else if (open !== null) out.set(index, open)
		if (marks.some(({ edge }) => edge === 'end')) open = null
	})
	return out
}

const headsOf = (row: Row): string[] =>
	row.cells.flatMap((cell) => [rowText({ cells: [cell] }).trim(), ...Array.from({ length: cell.span - 1 }, () => '')])

/** What stands last before a mark on its line: behind a tab, a comma or another mark. */
function lastWords(lead: string): string {
	const [last = ''] = lead.split(/[\t,;]|\s{2,}|[}\]>»]/).slice(-1)
	return last.replace(/[\s:.…]+$/u, '').trim()
}
/** A line that ends with a colon names what stands below it. */
const labelLine = (line: string): string => (/:\s*$/.test(line) && line.length < 40 ? line.trim() : '')

function listed(
	found: readonly Found[],
	answers: Answers,
	vocabulary: Vocabulary,
): Pick<Understood, 'marks' | 'keyAt'> {
	const marks = new Map<string, Listed>()
	const keyAt = new Map<string, string>()
	/** Meanings of a name in a row or on the paper, in their order: by what stands before it. */
	const meanings = new Map<string, string[]>()
	const nameCounts = new Map<string, Set<string>>()
	for (const [index, one] of found.entries()) {
		const name = nameOf(one.inline)
		const base = `${one.source ?? 'paper'}|${plainName(name) || name}`
		const records = one.source ? [recordsOf[one.source], 'paper'] : ['paper']
		const offer = offerFor(vocabulary, name, one.label, records)
		const placed = labelFields(vocabulary, one.label, records)[0] ?? ''
		const apart = answers.apart[base]
		const own = meanings.get(base) ?? []
		const meaning = apart === true ? String(index) : apart === false ? '' : placed
		let at = own.indexOf(meaning)
		// A place that says nothing of its own is that of the first meaning.
		if (at === -1 && meaning === '' && own.length > 0) at = 0
		if (at === -1) {
			if (own.length === 1 && own[0] === '' && apart === undefined) own[0] = meaning
			else own.push(meaning)
			at = own.indexOf(meaning)
		}
		meanings.set(base, own)
		const key = at === 0 ? base : `${base}#${at + 1}`
		keyAt.set(`${one.block} ${one.index}`, key)
		nameCounts.set(base, (nameCounts.get(base) ?? new Set()).add(key))
		const spot: Spot = { before: one.before, after: one.after, where: one.where, block: one.block }
		const known = marks.get(key)
		if (known) {
			known.spots.push(spot)
			known.offer ??= offer
		} else
			marks.set(key, {
				key,
				name,
				shown: one.inline.is === 'mark' ? one.inline.shown : name,
				manner: one.inline.is === 'mark' ? one.inline.manner : 'picture',
				source: one.source,
				spots: [spot],
				offer,
				others: 0,
				apart: apart === true,
			})
	}
	for (const [base, keys] of nameCounts)
		for (const key of keys) {
			const mark = marks.get(key)
			if (mark) mark.others = keys.size - 1
			if (mark && keys.size === 1 && answers.apart[base] === true) mark.apart = true
		}
	return { marks: [...marks.values()], keyAt }
}

/** Where a name fits several fields, the one that is offered for no other mark: "Firma" is the firm's where "Kunde" is the customer. */
function apartFrom(marks: readonly Listed[], vocabulary: Vocabulary): Listed[] {
	return marks.map((mark) => {
		const { offer } = mark
		const rival =
			offer?.by === 'name' &&
			marks.some((other) => other !== mark && other.source === mark.source && other.offer?.field === offer.field)
		if (!offer || !rival) return mark
		const records = mark.source ? [recordsOf[mark.source], 'paper'] : ['paper']
		const other = fieldsNamed(vocabulary, mark.name, records).find(
			(field) => !marks.some((one) => one.source === mark.source && one.offer?.field === field),
		)
		return other ? { ...mark, offer: { field: other, by: 'name' } } : mark
	})
}

/** The key under which it is kept whether the places of a mark's name are marks of their own. */
export const nameKey = (key: string): string => key.replace(/#\d+$/, '')
