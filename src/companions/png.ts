import { PNG } from 'pngjs'

/**
 * A picture of dark cells on white, as a PNG of greys.
 *
 * @param cells left, top, width and height of each, in the units of `size`
 * @param scale points a unit, across and down
 */
export function pngOfCells(
	cells: readonly (readonly [number, number, number, number])[],
	size: { width: number; height: number },
	scale: { x: number; y: number },
): Buffer {
	const width = Math.ceil(size.width * scale.x)
	const height = Math.ceil(size.height * scale.y)
	const greys = Buffer.alloc(width * height, 255)
	for (const [left, top, wide, tall] of cells)
		for (let y = Math.round(top * scale.y); y < Math.round((top + tall) * scale.y); y++)
			greys.fill(0, y * width + Math.round(left * scale.x), y * width + Math.round((left + wide) * scale.x))
	const png = Object.assign(new PNG({ width, height }), { data: greys })
	return PNG.sync.write(png, {
		colorType: 0,
		inputColorType: 0,
		inputHasAlpha: false,
		filterType: 0,
		deflateLevel: 9,
		deflateStrategy: 0,
	})
}
