import { z } from 'zod'
import { cell, plain } from '../blockKit'
import type { Node } from '../flow'
import type { PageItem } from '../page'
import { base, lettering, saidSchema } from '../schemaParts'
import { breakLines, lineItems } from '../text'
import { compileCondition, compileInlines } from '../values'
import { factRow, rowNames, rowsSaid } from './facts'
import { baseline, type Draw, type Kit, plainLines, say, spansOf, usualLead, withLooks } from './kit'
import { leaf, onStatements } from './leaf'

const schema = z.strictObject({
	...base,
	type: z.literal('slip'),
	title: saidSchema,
	rows: z.array(factRow).max(12),
	/** Over the line on which the customer writes what they pay. */
	paid: saidSchema,
	...lettering,
})
type Slip = z.infer<typeof schema>

/** To be cut off and returned with a payment: who pays what, and a line to write the amount on. */
function compileSlip(piece: Slip, kit: Kit): Draw {
	const look = kit.look(piece)
	const strong = kit.look({ ...piece, bold: true })
	const mute = kit.look({ size: piece.size, color: piece.color })
	const rows = piece.rows.map((row) => ({
		label: row.label,
		shown: compileCondition(row.when, kit.fields),
		runs: withLooks(compileInlines(row.value, kit.fields), kit, { size: piece.size }),
	}))
	return (doc, frame): Node[] => {
		const { issuer } = doc.at.content
		const lead = look.size * usualLead + 1.5
		const items: PageItem[] = []
		for (let x = frame.x; x < frame.x + frame.width; x += 7)
			items.push({
				type: 'rule',
				x,
				y: 0,
				width: Math.min(4, frame.x + frame.width - x),
				thickness: 0.6,
				color: look.color,
			})
		const half = frame.width * 0.5
		const title = plainLines(say(doc, piece.title), strong, half - 8, doc)
		const names = plainLines(issuer.name, mute, half, doc)
		title.forEach((line, index) => {
			items.push(...lineItems(line, frame.x, half, 8 + index * lead + baseline(line.size, lead), undefined))
		})
		names.forEach((line, index) => {
			items.push(...lineItems(line, frame.x + half, half, 8 + index * lead + baseline(line.size, lead), 'right'))
		})
		let y = 12 + Math.max(title.length, names.length) * lead
		const first = y
		const labelWidth = Math.min(90, frame.width * 0.2)
		const valueWidth = frame.width * 0.66 - labelWidth
		for (const { label, shown, runs } of rows) {
			const spans = shown(doc.at) ? spansOf(runs, doc.at) : null
			if (!spans) continue
			const labels = plainLines(say(doc, label), mute, labelWidth - 6, doc)
			const values = breakLines(spans, valueWidth, doc.tools.metrics)
			labels.forEach((line, index) => {
				items.push(...lineItems(line, frame.x, labelWidth, y + index * lead + baseline(line.size, lead), 'left'))
			})
			values.forEach((line, index) => {
				items.push(
					...lineItems(line, frame.x + labelWidth, valueWidth, y + index * lead + baseline(line.size, lead), undefined),
				)
			})
			y += Math.max(labels.length, values.length) * lead
		}
		const paid = { x: frame.x + frame.width * 0.7, width: frame.width * 0.3 }
		const paidLines = plainLines(say(doc, piece.paid), mute, paid.width, doc)
		paidLines.forEach((line, index) => {
			items.push(...lineItems(line, paid.x, paid.width, first + index * lead + baseline(line.size, lead), 'left'))
		})
		const ruleAt = first + paidLines.length * lead + 18
		items.push({ type: 'rule', x: paid.x, y: ruleAt, width: paid.width, thickness: 0.6, color: kit.color(undefined) })
		return [{ is: 'slab', height: Math.max(y, ruleAt + 2), items: items, piece: piece.id }]
	}
}

export const slip = leaf<typeof schema>({
	schema,
	name: 'Slip to return',
	fits: onStatements,
	lettered: true,
	fresh: (id) => ({
		type: 'slip',
		id,
		title: 'To return with your payment',
		rows: [{ label: 'From', value: [{ field: 'customer.name' }] }],
		paid: 'Amount paid',
	}),
	names: rowNames,
	draw: compileSlip,
	blocks: (piece, saying) => {
		const look = saying.kit.look(piece)
		return [
			plain(say(saying, piece.title), saying.kit.look({ ...piece, bold: true }), 'left', true),
			{
				is: 'table',
				head: null,
				rows: [
					...rowsSaid(piece, look, saying),
					{ cells: [cell(say(saying, piece.paid), look), cell('', look)], strong: false },
				],
				shares: [0.4, 0.6],
				ruled: false,
			},
		]
	},
})
