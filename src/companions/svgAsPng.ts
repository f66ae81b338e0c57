import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { initWasm, Resvg } from '@resvg/resvg-wasm'

let ready: Promise<void> | null = null
const drawn = new Map<string, Buffer>()
const mostKept = 100

/** An SVG as points, for readers that know no SVG: so many across. The same picture is drawn once a process. */
export async function svgAsPng(sha256: string, svg: Uint8Array, across: number): Promise<Buffer> {
	const key = `${sha256} ${across}`
	const known = drawn.get(key)
	if (known) return known
	ready ??= initWasm(
		readFileSync(join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'node_modules/@resvg/resvg-wasm/index_bg.wasm')),
	)
	await ready
	const picture = new Resvg(svg, { fitTo: { mode: 'width', value: across }, font: { loadSystemFonts: false } })
	const png = Buffer.from(picture.render().asPng())
	picture.free()
	if (drawn.size > mostKept) drawn.clear()
	drawn.set(key, png)
	return png
}
