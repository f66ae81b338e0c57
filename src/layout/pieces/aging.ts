import { z } from 'zod'
import { formatAmount } from '@/core/format'
import { cell, plain } from '../blockKit'
import { bucketName, isNone } from '../fieldCatalogue'
import type { Node, Slab } from '../flow'
import type { PageItem } from '../page'
import { base, color, lettering, saidSchema } from '../schemaParts'
import { lineItems } from '../text'
import { baseline, type Doc, type Draw, type Frame, type Kit, plainLines, say, textSlabs, usualLead } from './kit'
import { leaf, nothing, onStatements } from './leaf'

const schema = z.strictObject({
	...base,
	type: z.literal('aging'),
	title: saidSchema.optional(),
	/** Side by side, or one below the other. */
	as: z.enum(['across', 'down']).optional(),
	/** Colour of what is late. */
	late: color.optional(),
	...lettering,
})
type Aging = z.infer<typeof schema>

/** What is owed by how late it is. */
function compileAging(piece: Aging, kit: Kit): Draw {
	const look = kit.look(piece)
	const small = kit.look({ size: Math.max(7, look.size - 0.5), color: piece.color })
	const late = piece.late === undefined ? look.color : kit.color(piece.late)
	return (doc, frame): Node[] => {
		const { content } = doc.at
		if (content.kind !== 'statement' || content.buckets.length === 0) return []
		const title =
			piece.title === undefined
				? []
				: textSlabs(plainLines(say(doc, piece.title), small, frame.width, doc), frame, piece.id, { keep: true })
		const sums = content.buckets.map(({ name, amount }, place) => ({
			name: bucketName(name, doc.at),
			amount: formatAmount(amount, content.locale),
			color: place > 0 && !isNone(amount) ? late : look.color,
		}))
		return [...title, ...(piece.as === 'down' ? sums.map((sum) => down(sum, doc, frame)) : [across(sums, doc, frame)])]
	}

	type Sum = { name: string; amount: string; color: string }
	function down({ name, amount, color }: Sum, doc: Doc, frame: Frame): Slab {
		const height = look.size * usualLead + 2
		const y = baseline(look.size, height)
		const [label] = plainLines(name, look, frame.width / 2, doc)
		const [value] = plainLines(amount, { ...look, color }, 1e6, doc)
		return {
			is: 'slab',
			height,
			items: [
				...(label ? lineItems(label, frame.x, frame.width / 2, y, 'left') : []),
				...(value ? lineItems(value, frame.x, frame.width, y, 'right') : []),
			],
			keep: true,
			piece: piece.id,
		}
	}

	function across(sums: Sum[], doc: Doc, frame: Frame): Slab {
		const width = frame.width / sums.length
		// Long amounts are written smaller, all alike, so that none runs into its neighbour.
		const widest = Math.max(...sums.map(({ amount }) => doc.tools.metrics.width(amount, look.face, look.size)))
		const size = widest > width - 8 ? Math.max(5.5, (look.size * (width - 8)) / widest) : look.size
		const items: PageItem[] = [
			{ type: 'rule', x: frame.x, y: 2, width: frame.width, thickness: 0.8, color: kit.color(undefined) },
		]
		const names = sums.map(({ name }) => plainLines(name, small, width - 8, doc))
		const tall = Math.max(...names.map(({ length }) => length)) * small.size * usualLead
		sums.forEach(({ amount, color }, place) => {
			const right = { x: frame.x + place * width, width: width - 6 }
			names[place]?.forEach((line, index) => {
				items.push(
					...lineItems(
						line,
						right.x,
						right.width,
						6 + index * small.size * usualLead + baseline(small.size, small.size * usualLead),
						'right',
					),
				)
			})
			const [value] = plainLines(amount, { ...look, size, color }, 1e6, doc)
			if (value) items.push(...lineItems(value, right.x, right.width, 8 + tall + look.size * 0.9, 'right'))
		})
		return { is: 'slab', height: 12 + tall + look.size * usualLead, items: items, piece: piece.id }
	}
}

export const aging = leaf<typeof schema>({
	schema,
	name: 'Aging',
	fits: onStatements,
	lettered: true,
	fresh: (id) => ({ type: 'aging', id }),
	names: nothing,
	draw: compileAging,
	blocks: (piece, saying) => {
		const { kit, at } = saying
		const { content } = at
		if (content.kind !== 'statement' || content.buckets.length === 0) return []
		const look = kit.look(piece)
		const title =
			piece.title === undefined
				? []
				: [plain(say(saying, piece.title), kit.look({ ...piece, bold: true }), 'left', true)]
		const names = content.buckets.map(({ name }) => cell(bucketName(name, at), look, 'right'))
		const sums = content.buckets.map(({ amount }) => cell(formatAmount(amount, content.locale), look, 'right'))
		const shares = names.map(() => 1 / names.length)
		return [...title, { is: 'table', head: names, rows: [{ cells: sums, strong: false }], shares, ruled: true }]
	},
})
