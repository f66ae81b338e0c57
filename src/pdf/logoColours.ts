import { inflateSync } from 'node:zlib'
import PNG from 'png-js'
import { contrast } from '@/layout/check'

/** WCAG 2.2, 1.4.3: what text of a colour needs on white paper. */
const readable = 4.5
const most = 5

/**
 * Colours of a logo that text can be set in on white, the most frequent first; greys left out. The bytes are those of a picture that was
 * taken as a logo (PNG or SVG of plain shapes).
 * @returns six hex digits each
 */
export async function logoColours({ type, bytes }: { type: string; bytes: Buffer }): Promise<string[]> {
	if (type === 'image/jpeg') return []
	const counts = type === 'image/png' ? await pngColours(bytes) : svgColours(bytes.toString('utf8'))
	return [...counts]
		.filter(([hex]) => isColour(hex) && contrast(hex, 'ffffff') >= readable)
		.sort((a, b) => b[1] - a[1])
		.map(([hex]) => hex)
		.slice(0, most)
}

/** Whether it is no shade of grey. */
function isColour(hex: string): boolean {
	const parts = [0, 2, 4].map((from) => Number.parseInt(hex.slice(from, from + 2), 16))
	return Math.max(...parts) - Math.min(...parts) > 24
}

function svgColours(svg: string): Map<string, number> {
	const counts = new Map<string, number>()
	for (const [, digits = ''] of svg.matchAll(/#([0-9a-f]{6}|[0-9a-f]{3})\b/gi)) {
		const hex = (digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits).toLowerCase()
		counts.set(hex, (counts.get(hex) ?? 0) + 1)
	}
	return counts
}

/** Counts of the colours of a PNG, each to the nearest sixteenth, so that edges that were smoothed fall together. */
async function pngColours(bytes: Buffer): Promise<Map<string, number>> {
	const png = new PNG(bytes)
	inflateSync(Buffer.from(png.imgData), { maxOutputLength: 40_000_000 })
	const pixels = await new Promise<Uint8Array>((resolve) => png.decode(resolve))
	const counts = new Map<string, number>()
	const nearest = (value: number) =>
		Math.min(255, Math.round(value / 16) * 16)
			.toString(16)
			.padStart(2, '0')
	const step = 4 * Math.max(1, Math.floor(pixels.length / 4 / 40_000))
	for (let at = 0; at + 3 < pixels.length; at += step) {
		if ((pixels[at + 3] ?? 0) < 128) continue
		const hex = [0, 1, 2].map((part) => nearest(pixels[at + part] ?? 0)).join('')
		counts.set(hex, (counts.get(hex) ?? 0) + 1)
	}
	return counts
}
