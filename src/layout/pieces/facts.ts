import { z } from 'zod'
import { cell, inlinesOf, type Saying, type Row as TableRow } from '../blockKit'
import type { Node, Slab } from '../flow'
import type { Said } from '../languages'
import { align, base, color, conditionSchema, inlines, points, saidSchema, style } from '../schemaParts'
import { breakLines, lineItems, type Span } from '../text'
import { compileCondition, compileInlines } from '../values'
import {
	baseline,
	type Doc,
	type Draw,
	type Frame,
	gap,
	type Kit,
	type Look,
	plainLines,
	say,
	spansOf,
	textSlabs,
	together,
	usualLead,
	withLooks,
} from './kit'
import { everywhere, leaf, type Named } from './leaf'

/** A label with its value. */
export const factRow = z.strictObject({ label: saidSchema, value: inlines, when: conditionSchema.optional() })
const schema = z.strictObject({
	...base,
	type: z.literal('facts'),
	rows: z.array(factRow).max(60),
	/** Labels left of their values, or above them. */
	labels: z.enum(['left', 'above']).optional(),
	/** How many stand side by side. */
	across: z.number().int().min(1).max(6).optional(),
	labelWidth: points(10, 400).optional(),
	labelColor: color.optional(),
	align,
	...style,
})
type FactRow = z.infer<typeof factRow>

/** Names the fields of rows of labels and values. */
export const rowNames = ({ rows }: { rows: readonly FactRow[] }, named: Named): void => {
	for (const { value, when } of rows) {
		named.inlines(value)
		named.condition(when)
	}
}
/** Rows with their labels, those left out whose value is empty. */
export const rowsSaid = (
	piece: Parameters<Kit['look']>[0] & { rows: readonly FactRow[] },
	labels: Look,
	saying: Saying,
): TableRow[] =>
	piece.rows.flatMap(({ label, value, when }): TableRow[] => {
		const runs = compileCondition(when, saying.kit.fields)(saying.at) ? inlinesOf(value, piece, saying) : null
		return runs
			? [{ cells: [cell(say(saying, label), labels), { lines: [runs], align: 'left', picture: null }], strong: false }]
			: []
	})

/** A row that is shown, as it is written. */
type Row = { label: Said; spans: Span[] }

/** Labels with their values; one whose value is empty is left out. */
function compileFacts(piece: z.infer<typeof schema>, kit: Kit): Draw {
	const rows = piece.rows.map((row) => ({
		shown: compileCondition(row.when, kit.fields),
		label: row.label,
		runs: withLooks(compileInlines(row.value, kit.fields), kit, piece),
	}))
	const valueLook = kit.look(piece)
	const labelLook = kit.look({ color: piece.labelColor, size: piece.size })
	const smallLook = { ...labelLook, size: Math.max(7, labelLook.size - 1) }
	const above = piece.labels === 'above'
	const across = piece.across ?? 1
	const space = 12

	const drawLeft = (doc: Doc, frame: Frame, { label, spans }: Row): Slab => {
		const labels = plainLines(say(doc, label), labelLook, 1e6, doc)
		const width = Math.min(piece.labelWidth ?? frame.width * 0.36, frame.width - 20)
		const broken = labels.every((line) => line.width <= width)
			? labels
			: plainLines(say(doc, label), labelLook, width, doc)
		const own = { x: frame.x + width + 6, width: frame.width - width - 6 }
		const values = breakLines(spans, own.width, doc.tools.metrics)
		const lead = valueLook.size * usualLead * 1.1
		return {
			is: 'slab',
			height: lead * Math.max(broken.length, values.length),
			items: [
				...broken.flatMap((line, place) =>
					lineItems(line, frame.x, width, place * lead + baseline(line.size, lead), undefined),
				),
				...values.flatMap((line, place) =>
					lineItems(line, own.x, own.width, place * lead + baseline(line.size, lead), piece.align),
				),
			],
			piece: piece.id,
		}
	}
	const drawAbove = (doc: Doc, frame: Frame, { label, spans }: Row): Slab =>
		together(
			[
				...textSlabs(plainLines(say(doc, label), smallLook, frame.width, doc), frame, piece.id, { align: piece.align }),
				...textSlabs(breakLines(spans, frame.width, doc.tools.metrics), frame, piece.id, {
					align: piece.align,
				}),
			],
			piece.id,
		)
	return (doc, frame) => {
		const shown = rows.flatMap(({ shown, label, runs }): Row[] => {
			const spans = shown(doc.at) ? spansOf(runs, doc.at) : null
			return spans ? [{ label, spans }] : []
		})
		const width = (frame.width - space * (across - 1)) / across
		const nodes: Node[] = []
		for (let from = 0; from < shown.length; from += across) {
			const slabs = shown
				.slice(from, from + across)
				.map((row, place) => (above ? drawAbove : drawLeft)(doc, { x: frame.x + place * (width + space), width }, row))
			if (above && from > 0) nodes.push(...gap(6))
			nodes.push({
				is: 'slab',
				height: Math.max(...slabs.map(({ height }) => height)),
				items: slabs.flatMap(({ items }) => items),
				piece: piece.id,
			})
		}
		return nodes
	}
}

export const facts = leaf<typeof schema>({
	schema,
	name: 'Facts',
	fits: everywhere,
	lettered: true,
	fresh: (id) => ({ type: 'facts', id, rows: [{ label: 'Date', value: [{ field: 'day' }] }] }),
	names: rowNames,
	draw: compileFacts,
	blocks: (piece, saying) => {
		const rows = rowsSaid(piece, saying.kit.look({ color: piece.labelColor, size: piece.size }), saying)
		return rows.length === 0 ? [] : [{ is: 'table', head: null, rows, shares: [0.4, 0.6], ruled: false }]
	},
})
