import { type Layout, layoutSchema } from './schema'

/** What is wrong with a layout's text, and where: a path such as "body.3.columns.0.head". */
type Misread = { path: string; message: string }

/** How deep JSON may be nested before it is looked at more closely; a layout is never nearly as deep. */
const deepestJson = 60
const mostBytes = 2_000_000

/**
 * Reads a layout from JSON. Refused: what is no JSON, is over 2 MB or nested without end, names what there is not, or breaks a rule of
 * the schema; each fault with its place.
 */
export function readLayout(text: string): { ok: true; layout: Layout } | { ok: false; faults: Misread[] } {
	const fault = (message: string) => ({ ok: false as const, faults: [{ path: '', message }] })
	if (text.length > mostBytes) return fault('The layout is over 2 MB. Leave pictures out of it; they travel beside it.')
	if (tooDeep(text)) return fault(`The layout is nested more than ${deepestJson} deep. Take boxes out of boxes.`)
	let read: unknown
	try {
		read = JSON.parse(text)
	} catch (error) {
		return fault(`It is no JSON: ${error instanceof Error ? error.message : String(error)}`)
	}
	const parsed = layoutSchema.safeParse(read)
	if (parsed.success) return { ok: true, layout: parsed.data }
	return {
		ok: false,
		faults: parsed.error.issues.slice(0, 50).map(({ path, message }) => ({ path: path.join('.'), message })),
	}
}

/** Whether brackets stand within brackets too deep, told without reading it into a tree. */
function tooDeep(text: string): boolean {
	let depth = 0
	let quoted = false
	for (let index = 0; index < text.length; index++) {
		const char = text[index]
		if (quoted) {
			if (char === '\\') index++
			else if (char === '"') quoted = false
		} else if (char === '"') quoted = true
		else if (char === '{' || char === '[') {
			depth++
			if (depth > deepestJson) return true
		} else if (char === '}' || char === ']') depth--
	}
	return false
}
