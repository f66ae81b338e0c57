import bwipjs from 'bwip-js/node'
import type { Encoded } from '@/layout/pieces/kit'
import { type SymbolName, symbologies } from '@/layout/symbologies'

/** What the library calls each. */
const names: Record<SymbolName, string> = {
	qr: 'qrcode',
	'data matrix': 'datamatrix',
	'code 128': 'code128',
	'ean-13': 'ean13',
}
const kept = new Map<string, Encoded>()
const mostKept = 2000

/** The cells of a symbol for a text; refused where the symbol cannot say it. */
export function encode(symbol: SymbolName, text: string): Encoded {
	const key = `${symbol} ${text}`
	const known = kept.get(key)
	if (known) return known
	if (kept.size > mostKept) kept.clear()
	const made = encodeAnew(symbol, text)
	kept.set(key, made)
	return made
}

function encodeAnew(symbol: SymbolName, text: string): Encoded {
	const { bars, holds } = symbologies[symbol]
	const refused = (why: string): Encoded => ({
		ok: false,
		message: `“${text.slice(0, 40)}” cannot be written as this code: ${why}`,
	})
	if (symbol === 'ean-13' && !/^\d{12,13}$/.test(text)) return refused(holds)
	if (symbol === 'code 128' && !/^[\x20-\x7e]{1,80}$/.test(text)) return refused(holds)
	try {
		// What it is given is the bytes of the text, so that every letter comes out as it went in.
		const bytes = Buffer.from(text, 'utf8').toString('latin1')
		const [raw] = bwipjs.raw({
			bcid: names[symbol],
			text: bars ? text : bytes,
			...(symbol === 'qr' ? { eclevel: 'M' } : {}),
			...(bars ? {} : { binarytext: true }),
		})
		if (!raw) return refused(holds)
		return 'pixs' in raw ? fromMatrix(raw.pixs, raw.pixx) : fromBars(raw.sbs)
	} catch {
		return refused(holds)
	}
}

/** Neighbouring dark cells of a row are one. */
function fromMatrix(pixels: ArrayLike<number>, width: number): Encoded {
	const cells: [number, number, number, number][] = []
	const rows = pixels.length / width
	for (let y = 0; y < rows; y++)
		for (let x = 0; x < width; x++) {
			if (!pixels[y * width + x]) continue
			let end = x
			while (end < width && pixels[y * width + end]) end++
			cells.push([x, y, end - x, 1])
			x = end
		}
	return { ok: true, cells, height: rows }
}

/** Widths of bars and of the spaces between them, in turn. */
function fromBars(widths: ArrayLike<number>): Encoded {
	const cells: [number, number, number, number][] = []
	let x = 0
	for (let index = 0; index < widths.length; index++) {
		const width = widths[index] ?? 0
		if (index % 2 === 0) cells.push([x, 0, width, 1])
		x += width
	}
	return { ok: true, cells, height: 1 }
}
