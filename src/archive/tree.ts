import type { Readable } from 'node:stream'
import { refuse } from '@/core/refusal'
import { readXml } from './xml'

/** An element of XML with its name without a prefix; attributes by their names with and without one. */
export type Element = { name: string; attributes: Record<string, string>; children: (Element | string)[] }

/** What is deeper or larger is made to fill the memory, or is no text that people read. */
const deepest = 200
const mostElements = 600_000

/** Reads a part of an archive into a tree. Refused beside what `readXml` refuses: one nested more than 200 deep, or of more than 600,000 elements. */
export async function readTree(stream: Readable, what: string): Promise<Element> {
	const root: Element = { name: '', attributes: {}, children: [] }
	const open: Element[] = [root]
	let count = 0
	await readXml(stream, {
		open: (name, attributes) => {
			if (open.length > deepest || ++count > mostElements)
				return refuse('file', `${what} is larger than people read: save it again with what belongs to one page alone.`)
			const element: Element = { name, attributes: {}, children: [] }
			for (const [key, value] of Object.entries(attributes)) {
				element.attributes[key] = value
				const local = key.slice(key.indexOf(':') + 1)
				element.attributes[local] ??= value
			}
			open.at(-1)?.children.push(element)
			open.push(element)
		},
		text: (text) => open.at(-1)?.children.push(text),
		close: () => open.pop(),
	})
	return root.children.find((child) => typeof child !== 'string') ?? root
}

/** The elements directly within one, of a name where one is given. */
export const within = (element: Element | undefined, name?: string): Element[] =>
	(element?.children ?? []).flatMap((child) =>
		typeof child === 'string' || (name !== undefined && child.name !== name) ? [] : [child],
	)
/** The first element directly within one by its name, and so on down the path. */
export function under(element: Element | undefined, ...path: string[]): Element | undefined {
	let at = element
	for (const name of path) at = within(at, name)[0]
	return at
}
/** Every element of the names anywhere within one, in their order. */
export function all(element: Element | undefined, ...names: string[]): Element[] {
	return within(element).flatMap((child) => [...(names.includes(child.name) ? [child] : []), ...all(child, ...names)])
}
/** All text within an element. */
export const textIn = (element: Element | string | undefined): string =>
	typeof element === 'string' ? element : (element?.children ?? []).map(textIn).join('')
