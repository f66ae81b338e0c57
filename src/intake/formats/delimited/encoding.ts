import { chunksOf, type Source } from '@/archive/source'
import { refuse } from '@/core/refusal'
import type { Encoding } from './encodings'

const boms: [Encoding, number[]][] = [
	['UTF-8', [0xef, 0xbb, 0xbf]],
	['UTF-16LE', [0xff, 0xfe]],
	['UTF-16BE', [0xfe, 0xff]],
]
const bomOf = (start: Buffer) => boms.find(([, bytes]) => bytes.every((byte, place) => start[place] === byte))

/**
 * How a text is written down (READING, rule 2): by its mark, else UTF-16 by its noughts, else UTF-8 where it is valid, else Windows-1252; but
 * the letters of DOS where that would put marks such as „ and † into the midst of words.
 */
export function findEncoding(source: Source): Encoding {
	const start = source.read(0, 4096)
	const bom = bomOf(start)
	if (bom) return bom[0]
	const noughts = (parity: number) => {
		let count = 0
		for (let place = parity; place < start.length; place += 2) if (start[place] === 0) count++
		return count
	}
	const [even, odd] = [noughts(0), noughts(1)]
	const half = start.length / 2
	if (odd > half * 0.7 && even === 0) return 'UTF-16LE'
	if (even > half * 0.7 && odd === 0) return 'UTF-16BE'
	const decoder = new TextDecoder('utf-8', { fatal: true })
	try {
		for (const bytes of chunksOf(source)) decoder.decode(bytes, { stream: true })
		decoder.decode()
		return 'UTF-8'
	} catch {
		return hasLettersOfDos(source) ? 'Code page 850' : 'Windows-1252'
	}
}

/** How a text is written down where a reader keeps how the ones before were: its way counts where the text itself says nothing. */
export function encodingAsKept(source: Source, kept: Encoding): Encoding {
	const found = findEncoding(source)
	if (found === kept) return found
	if (found === 'UTF-8') return isAscii(source) && !kept.startsWith('UTF-16') ? kept : found
	// That a text is not of DOS is told by no letter of it.
	return found === 'Windows-1252' && kept === 'Code page 850' ? kept : found
}

function isAscii(source: Source): boolean {
	for (const bytes of chunksOf(source)) if (bytes.some((byte) => byte > 0x7f)) return false
	return true
}

// Letters of code page 850 that are in Windows-1252 nothing at all (ü ì Å É Ø), marks that open a quotation and end no word (é ä), or marks
// that stand within none (å ç ê ï ö ø í ó ú ñ Ñ).
const lettersOfDos =
	/[A-Za-z][\u0081\u0082\u0084\u008d\u008f\u0090\u009d]|[\u0081\u008d\u008f\u0090\u009d](?=[A-Za-z])|[A-Za-z][\u0086-\u0088\u008b\u0094\u009b\u00a1-\u00a5](?=[A-Za-z])/g
const letterWithin = /[A-Za-z][\u00c0-\u00ff](?=[A-Za-z])/g

/** Whether more letters of DOS stand in words than letters of Windows-1252. */
function hasLettersOfDos(source: Source): boolean {
	let [dos, other] = [0, 0]
	for (const bytes of chunksOf(source)) {
		const text = bytes.toString('latin1')
		dos += text.match(lettersOfDos)?.length ?? 0
		other += text.match(letterWithin)?.length ?? 0
	}
	return dos > other
}

/** The text, a piece at a time. Refused: control characters, since what holds them is no text; what printers are told is, in what is `printed`. */
export function* decoded(source: Source, encoding: Encoding, as: keyof typeof controls = 'cells'): Generator<string> {
	const skip = bomOf(source.read(0, 4))?.[1].length ?? 0
	const own = encoding === 'Windows-1252' || encoding === 'Code page 850' ? singleBytes[encoding] : null
	const decoder = own ? null : new TextDecoder(encoding.toLowerCase())
	let line = 1
	let place = skip
	for (const bytes of chunksOf(source, skip)) {
		place += bytes.length
		const last = place >= source.size
		const text = own ? own(bytes) : (decoder?.decode(bytes, { stream: !last }) ?? '')
		line = checkControls(text, line, last, controls[as])
		yield last ? withoutEndMark(text) : text
	}
}

// Tab, line feed, form feed and carriage return part a text; an end mark of old systems (0x1A) may close it.
const controls = {
	// biome-ignore lint/suspicious/noControlCharactersInRegex: it is control characters that are looked for
	cells: /[\u0000-\u0008\u000b\u000e-\u001f]/,
	// biome-ignore lint/suspicious/noControlCharactersInRegex: a printer goes back by 0x08, and is told by what 0x1B begins
	printed: /[\u0000-\u0007\u000b\u000e-\u001a\u001c-\u001f]/,
}
const endMark = '\u001a'
const withoutEndMark = (text: string): string => (text.trimEnd().endsWith(endMark) ? text.trimEnd().slice(0, -1) : text)

const linesIn = (text: string): number => text.split('\n').length - 1

function checkControls(text: string, from: number, last: boolean, controls: RegExp): number {
	const found = controls.exec(text)
	const isEndMark = found?.[0] === endMark && last && found.index >= text.length - 2
	if (found && !isEndMark) {
		const line = from + linesIn(text.slice(0, found.index))
		return refuse(
			`line ${line}`,
			`This is not a text file: a control character stands in line ${line}. Save the sheet as CSV or XLSX and choose that.`,
		)
	}
	return from + linesIn(text)
}

// What stands from 0x80 on where ISO 8859-1 has something else; Node's own decoder leaves out the first, and does not know the second.
const windows1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'
const codePage850 =
	'ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜø£Ø×ƒáíóúñÑªº¿®¬½¼¡«»░▒▓│┤ÁÂÀ©╣║╗╝¢¥┐└┴┬├─┼ãÃ╚╔╩╦╠═╬¤ðÐÊËÈıÍÎÏ┘┌█▄¦Ì▀ÓßÔÒõÕµþÞÚÛÙýÝ¯´\u00ad±‗¾¶§÷¸°¨·¹³²■\u00a0'

const from0x80 =
	(letters: string) =>
	(bytes: Buffer): string =>
		bytes.toString('latin1').replace(/[\u0080-\u00ff]/g, (char) => letters[char.charCodeAt(0) - 0x80] ?? char)
const singleBytes = { 'Windows-1252': from0x80(windows1252), 'Code page 850': from0x80(codePage850) }
