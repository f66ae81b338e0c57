import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'
import type { Encoded } from '@/layout/pieces/kit'

let ready = false
/** The decoder, its program read from the package and not from any network. */
function prepare(): void {
	if (ready) return
	const root = process.env.NORTH_TALLY_ROOT ?? process.cwd()
	const wasm = readFileSync(join(root, 'node_modules/zxing-wasm/dist/reader/zxing_reader.wasm'))
	prepareZXingModule({
		overrides: { wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer },
	})
	ready = true
}

/** Points of a picture a cell of the code is drawn with, and the clear cells round it. */
const scale = 4
const clear = 12

/** What a machine reads in a code as it is printed; null where it cannot. */
export async function readBack(encoded: Encoded, bars: boolean): Promise<string | null> {
	if (!encoded.ok) return null
	prepare()
	const width = Math.max(...encoded.cells.map(([left, , wide]) => left + wide), 1)
	const height = bars ? 30 : encoded.height
	const [across, down] = [(width + 2 * clear) * scale, (height + 2 * clear) * scale]
	const data = new Uint8ClampedArray(across * down * 4).fill(255)
	for (const [left, top, wide, tall] of encoded.cells) {
		const high = bars ? height : tall
		for (let y = (top + clear) * scale; y < (top + clear + high) * scale; y++)
			for (let x = (left + clear) * scale; x < (left + clear + wide) * scale; x++)
				data.fill(0, (y * across + x) * 4, (y * across + x) * 4 + 3)
	}
	const [found] = await readBarcodes({ data, width: across, height: down, colorSpace: 'srgb' } as ImageData, {
		tryHarder: true,
		maxNumberOfSymbols: 1,
	})
	return found?.isValid ? found.text : null
}
