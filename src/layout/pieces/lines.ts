import { recordOf } from '../fields'
import type { At, Of } from '../fieldTypes'
import type { Node, Slab } from '../flow'
import type { PageItem } from '../page'
import { breakLines, type Line, lineItems, type Span } from '../text'
import { compileCondition, compileInlines, writeValue } from '../values'
import {
	baseline,
	type Doc,
	type Draw,
	type Frame,
	gap,
	type Kit,
	plainLines,
	say,
	spansOf,
	textSlabs,
	usualLead,
	withLooks,
} from './kit'
import { everywhere, leaf } from './leaf'
import { chooser } from './lineChoice'
import { type Column, type Place, placeColumns, type Written } from './lineColumns'
import { sumOf } from './lineSums'
import { linesBlocks } from './linesBlocks'
import { type LinesPiece, linesSchema } from './linesSchema'

/** A row with more lines of text than this goes on over pages line by line. */
const tallest = 12

/** A record's cells, broken into lines. */
type Cells = { lines: Line[]; picture: { sha256: string; width: number; height: number } | null }[]
const optional = <Value>(value: Value | null): Value[] => (value === null ? [] : [value])

/** The repeated table: its columns, chosen records in their order, in groups with a head and a subtotal. */
function compileLines(piece: LinesPiece, kit: Kit): Draw {
	const base = { size: piece.size, color: piece.color }
	const headSize = piece.head?.size ?? Math.max(7, kit.look(base).size - 0.5)
	const columns: Column[] = piece.columns.map((own) => ({
		own,
		align: own.align,
		shown: compileCondition(own.when, kit.fields),
		cell: own.cell.map((inlines) =>
			withLooks(compileInlines(inlines, kit.fields), kit, { ...base, ...own, color: own.color ?? piece.color }),
		),
		head: kit.look({ size: headSize, bold: piece.head?.bold, color: piece.head?.color }),
		picture: own.picture ? pictureReader(own.picture.field, kit) : null,
	}))
	const choose = chooser(piece, kit)
	const groupHead = piece.group && withLooks(compileInlines(piece.group.head, kit.fields), kit, { ...base, bold: true })
	const titleLook = kit.look({ ...base, bold: true })
	const subtotalLook = kit.look({ ...base, bold: true })
	const rules = piece.rules ?? 'lines'
	const ruleColor = kit.color(piece.ruleColor)
	const pad = piece.pad ?? 2.5
	const tint = piece.tint === undefined ? null : kit.color(piece.tint)
	const fill = piece.head?.fill === undefined ? null : kit.color(piece.head.fill)

	return (doc, frame) => {
		const groups = choose(doc.at)
		const chosen = groups.flatMap(({ places }) => places)
		if (chosen.length === 0) {
			if (piece.none === undefined) return []
			return textSlabs(plainLines(say(doc, piece.none), kit.look(base), frame.width, doc), frame, piece.id)
		}
		const shown = columns.filter((column) => column.shown(doc.at))
		const inset = tint || fill ? 4 : 0
		const inner = { x: frame.x + inset, width: frame.width - 2 * inset }
		const records = chosen.map((place, row): Written => {
			const at = { ...doc.at, place, row: row + 1 }
			return { at, cells: shown.map(({ cell }) => cell.flatMap((runs) => optional(spansOf(runs, at)))) }
		})
		const places = placeColumns(shown, records, inner, doc)
		shown.forEach(({ own }, index) => {
			const at = places[index]
			if (at) doc.columns.push({ piece: piece.id, column: own.id, ...at })
		})
		const head = drawHead(shown, places, frame, doc)
		const rows: Slab[] = []
		let [from, striped] = [0, 0]
		groups.forEach((group, groupIndex) => {
			const lastGroup = groupIndex === groups.length - 1
			const own = records.slice(from, from + group.places.length)
			from += group.places.length
			const first = own[0]
			if (groupHead && first && group.titled) {
				const lines = breakLines(spansOf(groupHead, first.at) ?? [], inner.width, doc.tools.metrics)
				textSlabs(lines, inner, piece.id, { keep: true }).forEach((slab, index) => {
					if (index === 0) raise(slab, rows.length > 0 ? 5 : 3)
					slab.keep = true
					rows.push(slab)
				})
			}
			own.forEach((record, index) => {
				const lastOfAll = lastGroup && index === own.length - 1 && !piece.group?.subtotal
				const cells = shown.map((column, place) => cellOf(column, places[place]?.width ?? 0, record, place, doc))
				const ground = tint && striped++ % 2 === 1 ? tint : null
				const slabs = drawRow(shown, places, cells, frame, ground)
				const last = slabs.at(-1)
				if (last && lastOfAll && piece.keep) last.keep = true
				rows.push(...slabs)
			})
			if (piece.group?.subtotal) {
				const slab = subtotalRow(group.places, shown, places, inner, doc)
				const before = rows.at(-1)
				if (before) before.keep = true
				if (slab && lastGroup && piece.keep) slab.keep = true
				if (slab) rows.push(slab)
			}
		})
		return [
			...(piece.title === undefined
				? []
				: [
						...textSlabs(plainLines(say(doc, piece.title), titleLook, frame.width, doc), frame, piece.id, {
							keep: true,
						}).map((slab) => ({ ...slab, keep: true })),
						...gap(2),
					]),
			{ is: 'table', headHeight: head.height, head: () => copyOf(head), rows, piece: piece.id } satisfies Node,
		]
	}

	function drawHead(shown: Column[], places: Place[], frame: Frame, doc: Doc): Slab {
		const lead = headSize * 1.22
		const heads = shown.map(({ own, head }, index) =>
			plainLines(say(doc, own.head), head, places[index]?.width ?? 0, doc),
		)
		const most = Math.max(...heads.map(({ length }) => length))
		const said = shown.some(({ own }) => say(doc, own.head) !== '')
		const height = said ? most * lead + (fill ? 6 : 3.5) : fill ? 4 : 1
		const items: PageItem[] = fill ? [{ type: 'box', x: frame.x, y: 0, width: frame.width, height, color: fill }] : []
		heads.forEach((lines, index) => {
			const place = places[index]
			lines.forEach((line, at) => {
				// Heads of one line stand at the foot, beside the last line of taller ones.
				const y = (most - lines.length + at) * lead + baseline(line.size, lead) + (fill ? 3 : 0)
				items.push(...lineItems(line, place?.x ?? 0, place?.width ?? 0, y, shown[index]?.align))
			})
		})
		if (rules !== 'none' && !fill)
			items.push({
				type: 'rule',
				x: frame.x,
				y: height,
				width: frame.width,
				thickness: 0.8,
				color: kit.color(undefined),
			})
		return { is: 'slab', height: height + 2, items: items, keep: true, piece: piece.id }
	}

	function cellOf(column: Column, width: number, { at, cells }: Written, place: number, doc: Doc): Cells[number] {
		const lines: Line[] = []
		for (const spans of cells[place] ?? []) {
			const broken = breakLines(spans, width, doc.tools.metrics)
			if (broken.length > 1) sayTooWide(column, spans, width, doc)
			lines.push(...broken)
		}
		const sha256 = column.picture?.(at) ?? ''
		const found = sha256 === '' ? null : doc.tools.picture(sha256)
		if (sha256 !== '' && !found) doc.notes.push({ piece: piece.id, what: 'a picture of a line is missing' })
		const wide = Math.min(column.own.picture?.width ?? 0, width)
		return { lines, picture: found ? { sha256, width: wide, height: wide / found.ratio } : null }
	}

	/** A word or figure that its column had to break. A figure in two parts is misread, so that it is no paper to send. */
	function sayTooWide(column: Column, spans: readonly Span[], width: number, doc: Doc): void {
		const words = spans
			.map(({ text }) => text)
			.join('')
			.split(/[ \n\t]/)
		const look = spans[0]
		const wide = look && words.find((one) => doc.tools.metrics.width(one, look.face, look.size) > width + 0.01)
		if (!wide || !/^[\p{L}\p{N}\p{P}\p{Sc}\u00a0\u202f+-]+$/u.test(wide) || /[\u2e80-\u9fff]/.test(wide)) return
		const figure = /\d/.test(wide) && !/\p{L}{4}/u.test(wide) && column.align === 'right'
		doc.notes.push({
			piece: piece.id,
			what: `“${wide.slice(0, 30)}” is wider than its column “${say(doc, column.own.head)}”`,
			...(figure ? { stop: true } : {}),
		})
	}

	/** A row as one strip, or as several where it is very tall. */
	function drawRow(shown: Column[], places: Place[], cells: Cells, frame: Frame, ground: string | null): Slab[] {
		const leadOf = (line: Line) => line.size * usualLead
		const heights = cells.map(
			({ lines, picture }) => (picture ? picture.height + 2 : 0) + lines.reduce((sum, line) => sum + leadOf(line), 0),
		)
		const height = Math.max(...heights, kit.look(base).size * usualLead) + 2 * pad
		const most = Math.max(...cells.map(({ lines }) => lines.length))
		const ruled = rules === 'lines'
		const rule = (y: number): PageItem[] =>
			ruled ? [{ type: 'rule', x: frame.x, y: y - 0.4, width: frame.width, thickness: 0.4, color: ruleColor }] : []
		const under = (tall: number): PageItem[] =>
			ground ? [{ type: 'box', x: frame.x, y: 0, width: frame.width, height: tall, color: ground }] : []
		if (most <= tallest) {
			const items: PageItem[] = under(height)
			cells.forEach(({ lines, picture }, index) => {
				const place = places[index]
				if (!place) return
				let y = pad
				if (picture) {
					items.push({
						type: 'image',
						x: place.x,
						y,
						width: picture.width,
						height: picture.height,
						sha256: picture.sha256,
					})
					y += picture.height + 2
				}
				for (const line of lines) {
					items.push(
						...lineItems(line, place.x, place.width, y + baseline(line.size, leadOf(line)), shown[index]?.align),
					)
					y += leadOf(line)
				}
			})
			return [{ is: 'slab', height, items: [...items, ...rule(height)], piece: piece.id }]
		}
		// Line by line: the first two and the last three of them stay together.
		const slabs: Slab[] = []
		for (let at = 0; at < most; at++) {
			const here = cells.map(({ lines }) => lines[at])
			const tall = Math.max(...here.map((line) => (line ? leadOf(line) : 0))) + (at === 0 || at === most - 1 ? pad : 0)
			const items = under(tall)
			here.forEach((line, index) => {
				const place = places[index]
				if (line && place)
					items.push(
						...lineItems(
							line,
							place.x,
							place.width,
							(at === 0 ? pad : 0) + baseline(line.size, leadOf(line)),
							shown[index]?.align,
						),
					)
			})
			if (at === most - 1) items.push(...rule(tall))
			slabs.push({
				is: 'slab',
				height: tall,
				items: items,
				keep: at === 0 || (at >= most - 3 && at < most - 1),
				piece: piece.id,
			})
		}
		return slabs
	}

	function subtotalRow(group: number[], shown: Column[], places: Place[], frame: Frame, doc: Doc): Slab | null {
		const subtotal = piece.group?.subtotal
		const field = subtotal && kit.fields.get(subtotal.of)
		if (!subtotal || !field) return null
		const text = writeValue(sumOf(field.read, group, doc.at), field, { money: 'none' }, doc.at)
		const own = shown.findIndex(({ own }) =>
			own.cell.flat().some((inline) => 'field' in inline && inline.field === subtotal.of),
		)
		const place = places[own === -1 ? shown.length - 1 : own]
		if (!place) return null
		const height = subtotalLook.size * usualLead + 2 * pad
		const y = pad + baseline(subtotalLook.size, subtotalLook.size * usualLead)
		const value = plainLines(text, subtotalLook, 1e6, doc)
		const label = plainLines(say(doc, subtotal.label), subtotalLook, Math.max(40, place.x - frame.x - 12), doc)
		return {
			is: 'slab',
			height,
			items: [
				...label.slice(0, 1).flatMap((line) => lineItems(line, frame.x, place.x - frame.x - 8, y, 'right')),
				...value.flatMap((line) => lineItems(line, place.x + place.width - line.width, line.width, y, 'left')),
			],
			piece: piece.id,
		}
	}
}

const copyOf = (slab: Slab): Slab => ({ ...slab, items: slab.items.map((item) => ({ ...item })) })

function raise(slab: Slab, by: number): void {
	slab.height += by
	for (const item of slab.items) item.y += by
}

function pictureReader(key: string, kit: Kit): (at: At) => string {
	const field = kit.fields.get(key)
	return (at) => {
		const raw = field?.read(at) ?? ''
		return typeof raw === 'string' ? raw : ''
	}
}

/** A column with one field, at the right. */
const figureColumn = (id: string, head: string, field: string, money = true) => ({
	...{ id, head, width: { most: 100 }, align: 'right' as const },
	cell: [[money ? { field, format: { money: 'none' as const } } : { field }]],
})

const sourceWords = {
	lines: 'Lines',
	orders: 'Orders',
	taxes: 'Tax table',
	items: 'Open items',
	movements: 'What happened',
} satisfies Record<LinesPiece['of'], string>

export const lines = leaf<typeof linesSchema>({
	schema: linesSchema,
	lettered: true,
	name: 'Lines',
	fits: everywhere,
	fresh: (id, { kind }) => ({
		type: 'lines',
		id,
		of: kind === 'statement' ? 'items' : 'lines',
		columns:
			kind === 'statement'
				? [
						{ id: 'number', head: 'Number', cell: [[{ field: 'item.number' }]], width: 'rest' },
						figureColumn('open', 'Open', 'item.open'),
					]
				: [
						{ id: 'text', head: 'Description', cell: [[{ field: 'line.description' }]], width: 'rest' },
						kind === 'unpriced'
							? figureColumn('quantity', 'Quantity', 'line.quantity', false)
							: figureColumn('amount', 'Amount', 'line.net'),
					],
	}),
	names: ({ of, columns, sort, only, group }, named) => {
		const record: readonly Of[] = ['paper', recordOf[of] ?? 'paper']
		for (const { cell, when, picture } of columns) {
			for (const inlines of cell) named.inlines(inlines, record)
			named.condition(when)
			if (picture) named.field(picture.field, record)
		}
		for (const { field } of sort ?? []) named.field(field, record, false)
		named.condition(only, record)
		if (!group) return
		named.field(group.by, record, false)
		named.inlines(group.head, record)
		if (group.subtotal) named.field(group.subtotal.of, record, false)
	},
	called: ({ of }) => sourceWords[of],
	draw: compileLines,
	blocks: linesBlocks,
})
