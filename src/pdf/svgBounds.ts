import { SaxesParser } from 'saxes'

// An SVG is read by the element before anything draws it: only shapes are let through, and only as many as a paper can bear.

const shapes = [
	...['svg', 'g', 'path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'defs', 'clippath', 'symbol'],
	...['title', 'desc', 'metadata', 'switch'],
]
/** In pictures that the books have from before: styles, and shapes that stand for others by reference. */
const before = ['style', 'use', 'a', 'marker']
const most = { bytes: 1_000_000, elements: 20_000, depth: 60, drawn: 100_000 }

type Node = { id: string; children: Node[]; refers: string }

/**
 * Why an SVG is not drawn; null where it may be.
 * @param kept whether the books have it, by the rules of its day: references are let through then, as far as what they come to is bounded
 */
export function svgFault(svg: string, kept: boolean): string | null {
	if (svg.length > most.bytes) return `The SVG has over ${most.bytes / 1_000_000} MB. Make it simpler, or choose a PNG.`
	const allowed = new Set(kept ? [...shapes, ...before] : shapes)
	const root: Node = { id: '', children: [], refers: '' }
	const open = [root]
	const named = new Map<string, Node>()
	let elements = 0
	let foreign = 0
	let fault: string | null = null
	// The names that an editor adds of its own are foreign to SVG and draw nothing.
	const parser = new SaxesParser({ xmlns: false, fragment: false })
	parser.on('error', () => {
		fault ??= 'The SVG cannot be read. Save it again as plain SVG and choose the new file.'
	})
	parser.on('opentag', ({ name, attributes }) => {
		if (fault) return
		const plain = name.toLowerCase().replace(/^svg:/, '')
		if (foreign > 0 || plain.includes(':')) {
			foreign++
			return
		}
		elements++
		if (!allowed.has(plain))
			fault = `The SVG holds <${name.slice(0, 30)}>, and only plain shapes are taken. Turn text into paths and use plain colours, or choose a PNG.`
		else if (elements > most.elements)
			fault = `The SVG has over ${most.elements} elements. Make it simpler, or choose a PNG.`
		else if (open.length > most.depth)
			fault = `The SVG is nested more than ${most.depth} deep. Make it simpler, or choose a PNG.`
		const text = (key: string) => {
			const value = (attributes as Record<string, unknown>)[key]
			return typeof value === 'string' ? value : ''
		}
		const refers = plain === 'use' ? (text('href') || text('xlink:href')).replace(/^#/, '') : ''
		const node: Node = { id: text('id'), children: [], refers }
		if (node.id !== '') named.set(node.id, node)
		open.at(-1)?.children.push(node)
		open.push(node)
	})
	parser.on('closetag', () => {
		if (foreign > 0) foreign--
		else if (open.length > 1) open.pop()
	})
	try {
		parser.write(svg).close()
	} catch {
		fault ??= 'The SVG cannot be read. Save it again as plain SVG and choose the new file.'
	}
	if (fault) return fault
	return drawnBy(root, named) > most.drawn
		? `The SVG comes to over ${most.drawn} shapes by its references. Make it simpler, or choose a PNG.`
		: null
}

/** How many elements are drawn, each reference counted as what it stands for; endless for one that comes back to itself. */
function drawnBy(root: Node, named: ReadonlyMap<string, Node>): number {
	const known = new Map<Node, number>()
	const under = new Set<Node>()
	const count = (node: Node): number => {
		const before = known.get(node)
		if (before !== undefined) return before
		if (under.has(node)) return Number.POSITIVE_INFINITY
		under.add(node)
		const target = named.get(node.refers)
		const sum = node.children.reduce((all, child) => all + count(child), 1) + (target ? count(target) : 0)
		under.delete(node)
		known.set(node, sum)
		return sum
	}
	return count(root)
}
