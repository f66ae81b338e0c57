import { selectAll } from 'css-select'
import { type CssNode, generate, parse, walk } from 'css-tree'
import type { AnyNode, Document, Element } from 'domhandler'
import type { Rule } from '../form'

/** What style sheets and an element's own `style` say of each element, by property; later and more exact rules over others (CSS Cascade 4, 6). */
export type StyleSheets = {
	of: (element: Element) => ReadonlyMap<string, string>
	/** What `@page` says. */
	page: ReadonlyMap<string, string>
	/** Rules that were not heeded, since looking where they hold would take too long. */
	passedOver: number
	/** Style sheets that lie elsewhere. */
	elsewhere: string[]
}

type Said = { property: string; value: string; important: boolean }
/** Each rule is tried on each element. */
const mostTries = 3_000_000

/** The declarations of a block, shorthands of four sides parted. */
function declarations(block: CssNode): Said[] {
	const out: Said[] = []
	walk(block, (node) => {
		if (node.type !== 'Declaration') return
		const value = generate(node.value).trim()
		out.push(...parted(node.property.toLowerCase(), value, node.important !== false))
	})
	return out
}

const sides = ['top', 'right', 'bottom', 'left']
function parted(property: string, value: string, important: boolean): Said[] {
	const one = (name: string, own: string): Said => ({ property: name, value: own, important })
	if (property === 'margin' || property === 'padding') {
		const [top = '0', right = top, bottom = top, left = right] = value.split(/\s+/)
		return [top, right, bottom, left].map((own, index) => one(`${property}-${sides[index]}`, own))
	}
	if (property === 'border') return sides.map((side) => one(`border-${side}`, value))
	if (property === 'background')
		return [one('background-color', value.split(/\s+/).find((part) => colorOf(part)) ?? '')]
	if (property === 'font') {
		const match = /(?:^|\s)([\d.]+(?:pt|px|em|rem|%|mm))(?:\/([\d.]+%?))?\s+(.+)$/.exec(value)
		return match
			? [
					one('font-size', match[1] ?? ''),
					...(match[2] ? [one('line-height', match[2])] : []),
					one('font-family', match[3] ?? ''),
					...(/\bbold\b|[6-9]00/.test(value) ? [one('font-weight', 'bold')] : []),
					...(/\b(italic|oblique)\b/.test(value) ? [one('font-style', 'italic')] : []),
				]
			: []
	}
	return [one(property, value)]
}

/** How exact a selector is: ids, then classes and attributes, then names. */
function exactness(selector: string): number {
	const ids = selector.match(/#[\w-]+/g)?.length ?? 0
	const classes = selector.match(/\.[\w-]+|\[[^\]]*\]|:(?!:)[\w-]+/g)?.length ?? 0
	const names = selector.match(/(?:^|[\s>+~])[a-z][\w-]*/gi)?.length ?? 0
	return ids * 10_000 + classes * 100 + names
}

/** Reads style sheets. What cannot be read of one is passed over, as browsers do. */
export function styleSheetsOf(document: Document, texts: readonly string[]): StyleSheets {
	const rules: { selector: string; said: Said[] }[] = []
	const page = new Map<string, string>()
	const elsewhere: string[] = []
	const read = (node: CssNode) => {
		if (node.type === 'StyleSheet') node.children.forEach(read)
		else if (node.type === 'Rule') {
			const said = declarations(node.block)
			for (const selector of generate(node.prelude).split(/,(?![^([]*[)\]])/))
				rules.push({ selector: selector.trim(), said })
		} else if (node.type === 'Atrule') {
			const about = node.prelude ? generate(node.prelude) : ''
			if (node.name === 'import') elsewhere.push(about)
			if (node.name === 'media' && node.block && !/\bscreen\b/.test(about)) node.block.children.forEach(read)
			if (node.name === 'page' && about === '' && node.block)
				for (const { property, value } of declarations(node.block)) page.set(property, value)
		}
	}
	for (const text of texts) read(parse(text, { parseCustomProperty: false }))

	const found = new Map<Element, { said: Said; weight: number }[]>()
	const count = selectAll<AnyNode, Element>('*', document).length
	const most = Math.floor(mostTries / Math.max(1, count))
	// Counting brothers and sisters takes as long as there are of them.
	const counts = count <= 500
	rules.slice(0, most).forEach(({ selector, said }, place) => {
		if (/:(?!first-child|last-child|nth-|not|root|is|where|empty|only-child)/.test(selector)) return
		if (!counts && /:nth-/.test(selector)) return
		let elements: Element[] = []
		try {
			elements = selectAll<AnyNode, Element>(selector, document)
		} catch {
			return
		}
		for (const element of elements) {
			const own = found.get(element) ?? []
			own.push(...said.map((one) => ({ said: one, weight: exactness(selector) * 10_000 + place })))
			found.set(element, own)
		}
	})
	return {
		page,
		passedOver: Math.max(0, rules.length - most),
		elsewhere,
		of: (element) => {
			const all = [...(found.get(element) ?? [])]
			const own = element.attribs.style
			if (own) {
				const block = parse(`x{${own.replace(/[{}]/g, '')}}`)
				all.push(...declarations(block).map((said) => ({ said, weight: 1e12 })))
			}
			all.sort((a, b) => Number(a.said.important) - Number(b.said.important) || a.weight - b.weight)
			return new Map(all.map(({ said }) => [said.property, said.value]))
		},
	}
}

/** A length in points; `em` is the size that it is a part of, `whole` what a percentage is of. */
export function lengthOf(text: string | undefined, em = 12, whole?: number): number | undefined {
	const match = /^(-?\d*\.?\d+)(pt|px|em|rem|cm|mm|in|pc|%)?$/.exec((text ?? '').trim())
	if (!match) return undefined
	const value = Number(match[1])
	const unit = match[2]
	if (unit === undefined) return value === 0 ? 0 : undefined
	if (unit === '%') return whole === undefined ? undefined : (value * whole) / 100
	const factors: Record<string, number> = { pt: 1, px: 0.75, em, rem: 12, cm: 28.3465, mm: 2.83465, in: 72, pc: 12 }
	return value * (factors[unit] ?? 1)
}

const names: Record<string, string> = {
	...{
		black: '000000',
		silver: 'c0c0c0',
		gray: '808080',
		grey: '808080',
		white: 'ffffff',
		maroon: '800000',
		red: 'ff0000',
	},
	...{ purple: '800080', fuchsia: 'ff00ff', green: '008000', lime: '00ff00', olive: '808000', yellow: 'ffff00' },
	...{ navy: '000080', blue: '0000ff', teal: '008080', aqua: '00ffff', orange: 'ffa500', brown: 'a52a2a' },
	...{ darkblue: '00008b', darkgreen: '006400', darkred: '8b0000', darkgray: 'a9a9a9', darkgrey: 'a9a9a9' },
	...{ lightgray: 'd3d3d3', lightgrey: 'd3d3d3', dimgray: '696969', whitesmoke: 'f5f5f5', steelblue: '4682b4' },
	...{ slategray: '708090', gold: 'ffd700', crimson: 'dc143c', indigo: '4b0082', tomato: 'ff6347', beige: 'f5f5dc' },
}
const hex = (value: number): string =>
	Math.max(0, Math.min(255, Math.round(value)))
		.toString(16)
		.padStart(2, '0')

/** A colour as six digits; undefined for none, or one that is seen through. */
export function colorOf(text: string | undefined): string | undefined {
	const own = (text ?? '').trim().toLowerCase()
	const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/.exec(own)
	if (short) return `${short[1]}${short[1]}${short[2]}${short[2]}${short[3]}${short[3]}`
	if (/^#[0-9a-f]{6}$/.test(own)) return own.slice(1)
	const parts = /^rgba?\(([^)]+)\)$/.exec(own)?.[1]?.split(/[\s,/]+/)
	if (parts && parts.length >= 3) {
		if (parts[3] !== undefined && Number.parseFloat(parts[3]) === 0) return undefined
		return parts
			.slice(0, 3)
			.map((part) => hex(part.endsWith('%') ? Number.parseFloat(part) * 2.55 : Number(part)))
			.join('')
	}
	return names[own]
}

/** A border such as "1px solid #ccc". */
export function ruleOf(text: string | undefined): Rule | undefined {
	const parts = (text ?? '').split(/\s+(?![^(]*\))/)
	if (
		!text ||
		parts.some((part) => part === 'none' || part === 'hidden' || part === '0') ||
		!parts.some((part) => /^(solid|dashed|dotted|double|groove|ridge|inset|outset)$/.test(part))
	)
		return undefined
	const thickness = parts.map((part) => lengthOf(part)).find((one) => one !== undefined) ?? 0.75
	return { thickness: Math.min(6, Math.max(0.25, thickness)), color: parts.map(colorOf).find(Boolean) ?? '000000' }
}
