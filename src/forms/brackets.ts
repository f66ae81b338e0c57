import { type Inline, type Placeholder, type Style, sameStyle } from './form'

// Names in brackets: {name}, {{name}}, [name], [[name]], <name>, <<name>>, «name», each with a sign before it or within it ($ # % @ & = !)
// or without. In double brackets, and behind a sign, anything short is a name; in single ones it must read like one.

const sign = '[$#%@&=!]?'
const name = '[^\\s{}\\[\\]<>«»|:][^{}\\[\\]<>«»\\n]{0,79}'
const single = '[\\p{L}_][\\p{L}\\p{N}_.-]*(?: [\\p{L}\\p{N}_.-]+){0,3}'
const inside = '([$#/^%@&=!]?) ?'
const forms = [
	`${sign}\\{\\{\\{? ?${inside}(${name}?) ?\\}?\\}\\}`,
	`${sign}\\[\\[ ?${inside}(${name}?) ?\\]\\]`,
	`${sign}<< ?${inside}(${name}?) ?>>`,
	`${sign}« ?${inside}(${name}?) ?»`,
	`[$#%@&]\\{ ?${inside}(${name}?) ?\\}`,
	`${sign}\\{ ?${inside}(${single}) ?\\}`,
	`${sign}\\[ ?${inside}(${single}) ?\\]`,
	`${sign}< ?${inside}(${single}) ?>`,
]
const marks = new RegExp(forms.map((form) => `(?:${form})`).join('|'), 'gu')

type Found = { from: number; to: number; name: string; sign: string; shown: string }

/** The marks in brackets of a text, in their order. What stands behind a | or a : in one is no part of its name. */
function bracketsIn(text: string): Found[] {
	return [...text.matchAll(marks)].flatMap((match) => {
		const groups = match.slice(1)
		const at = groups.findIndex((group, index) => index % 2 === 1 && group !== undefined)
		const whole = groups[at]?.trim() ?? ''
		const named = whole.split(/[|:]/)[0]?.trim() ?? ''
		if (!/[\p{L}\p{N}]/u.test(named)) return []
		const from = match.index ?? 0
		return [{ from, to: from + match[0].length, name: named, sign: groups[at - 1] ?? '', shown: match[0] }]
	})
}

/** A bracket that is opened twice and not closed. */
export const unclosedIn = (text: string): string | null => unclosed.exec(text.replace(marks, ''))?.[0] ?? null
const unclosed = /(?:\{\{(?!.{0,200}\}\})|\[\[(?!.{0,200}\]\])|<<(?!.{0,200}>>)|«(?!.{0,200}»)).{0,30}/

/** Parts of text found as marks, wherever a program has parted their letters into runs. A mark has the looks of its first letter. */
export function withBrackets(inlines: readonly Inline[]): Inline[] {
	const out: Inline[] = []
	let run: { text: string; style: Style }[] = []
	const flush = () => {
		out.push(...markRun(run))
		run = []
	}
	for (const inline of inlines) {
		if (inline.is === 'text') run.push({ text: inline.text, style: inline.style })
		else {
			flush()
			out.push(inline)
		}
	}
	flush()
	return out
}

function markRun(run: readonly { text: string; style: Style }[]): Inline[] {
	const text = run.map((part) => part.text).join('')
	const found = bracketsIn(text)
	const out: Inline[] = []
	/** The run that is next, and where it begins: marks come in their order, so that no run is looked at twice. */
	let next = 0
	let begins = 0
	/** Puts the text up to a place, in its runs. @returns the looks of what stands there */
	const copy = (from: number, to: number): Style => {
		for (let at = from; next < run.length; ) {
			const part = run[next]
			if (!part) break
			const ends = begins + part.text.length
			const own = part.text.slice(Math.max(0, at - begins), Math.max(0, to - begins))
			if (own !== '') {
				const last = out.at(-1)
				if (last?.is === 'text' && sameStyle(last.style, part.style)) last.text += own
				else out.push({ is: 'text', text: own, style: part.style })
			}
			if (to < ends) return part.style
			at = Math.max(at, ends)
			begins = ends
			next++
		}
		return {}
	}
	let from = 0
	for (const one of found) {
		const style = copy(from, one.from)
		const edge: Placeholder['edge'] =
			one.sign === '#' || one.sign === '^' ? 'begin' : one.sign === '/' ? 'end' : undefined
		out.push({
			is: 'mark',
			manner: 'brackets',
			name: one.name,
			shown: one.shown,
			style,
			...(edge ? { edge } : {}),
		})
		from = one.to
	}
	copy(from, text.length)
	return out
}

/** The mark that a picture's description is, where it is one: its name in brackets. */
export const pictureMark = (described: string): { mark?: string } => {
	const [found] = bracketsIn(described)
	return found ? { mark: found.name } : {}
}
