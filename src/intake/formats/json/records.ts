import { type JsonTypes, Tokenizer, TokenParser, TokenType } from '@streamparser/json'
import { refuse } from '@/core/refusal'

type Json = JsonTypes.JsonPrimitive | JsonTypes.JsonStruct | undefined

/** Where the records of a JSON source stand: outermost values that follow one another, an outermost array, or a list in one object. */
export type Shape = { records: 'lines' } | { records: 'array' } | { records: 'list'; list: string }

// A number is handed on as text that no file can hold, so that it keeps the digits that it is written with.
const numberMark = '\u0000#'
/** A number of JSON as it was written; null for anything else. */
export const numberOf = (value: Json): string | null =>
	typeof value === 'string' && value.startsWith(numberMark) ? value.slice(numberMark.length) : null

/** A tokenizer that remembers how the number it gives was written. */
class ExactTokenizer extends Tokenizer {
	written = ''
	protected override parseNumber(text: string): number {
		this.written = text
		return super.parseNumber(text)
	}
}

const deepest = 40
const largestRecord = 500_000

/**
 * Reads JSON as it comes and gives each record once it is whole.
 * @returns what takes the bytes, and what is to be called at their end
 * @throws a refusal (`refuse`) where the text is no JSON, or is nested too deep
 */
export function jsonRecords(shape: Shape, onRecord: (record: Json) => void) {
	const tokenizer = new ExactTokenizer({ separator: '' })
	const paths = { lines: ['$'], array: ['$.*'], list: ['$.*.*'] }[shape.records]
	const parser = new TokenParser({ paths, keepStack: false, separator: '' })
	let [depth, tokens] = [0, 0]
	parser.onValue = ({ value, stack }) => {
		tokens = 0
		if (shape.records !== 'list' || stack.at(1)?.key === shape.list) onRecord(value)
	}
	tokenizer.onToken = (info) => {
		const { token } = info
		if (token === TokenType.LEFT_BRACE || token === TokenType.LEFT_BRACKET) depth++
		if (token === TokenType.RIGHT_BRACE || token === TokenType.RIGHT_BRACKET) depth--
		if (depth > deepest) refuse('file', `It is nested more than ${deepest} deep: it is no list of orders.`)
		if (++tokens > largestRecord)
			refuse('file', 'One record of it holds more than 500,000 values: it is no list of orders.')
		if (token === TokenType.STRING && typeof info.value === 'string' && info.value.startsWith(numberMark))
			refuse('file', 'It holds a control character where text belongs.')
		if (token === TokenType.NUMBER) parser.write({ token: TokenType.STRING, value: numberMark + tokenizer.written })
		else parser.write(info)
	}
	const rethrow = (error: Error) => {
		throw error
	}
	tokenizer.onError = rethrow
	parser.onError = rethrow
	return {
		write: (text: string) => tokenizer.write(text),
		end: () => {
			tokenizer.end()
			if (depth !== 0) throw new Error('it ends in the middle')
		},
	}
}

/** The lists of objects in an outermost object, the names of its other members, and how many outermost values the start holds. */
export function outline(start: Buffer): {
	first: 'array' | 'object' | 'other'
	values: number
	lists: string[]
	plain: string[]
} {
	const found: ReturnType<typeof outline> = { first: 'other', values: 0, lists: [], plain: [] }
	const tokenizer = new Tokenizer({ separator: '' })
	let depth = 0
	let key = ''
	let expectsKey = false
	let began = false
	let inArray = false
	tokenizer.onToken = ({ token, value }) => {
		const opens = token === TokenType.LEFT_BRACE || token === TokenType.LEFT_BRACKET
		if (!began) {
			found.first = token === TokenType.LEFT_BRACKET ? 'array' : token === TokenType.LEFT_BRACE ? 'object' : 'other'
			began = true
		}
		if (found.values === 0 && depth === 1 && token === TokenType.STRING && expectsKey) {
			key = String(value)
			expectsKey = false
			found.plain.push(key)
		} else if (depth === 1 && token === TokenType.COMMA) expectsKey = true
		if (found.values === 0 && depth === 2 && token === TokenType.LEFT_BRACE && found.plain.at(-1) === key && inArray)
			found.lists.push(found.plain.pop() ?? '')
		if (opens) {
			depth++
			if (depth === 1) expectsKey = token === TokenType.LEFT_BRACE
			if (depth === 2) inArray = token === TokenType.LEFT_BRACKET
		}
		if (token === TokenType.RIGHT_BRACE || token === TokenType.RIGHT_BRACKET) {
			depth--
			if (depth === 0) found.values++
		}
	}
	tokenizer.onError = () => {}
	try {
		tokenizer.write(start)
	} catch {
		// The start of a file may end in the middle.
	}
	return found
}
