import { deflateSync } from 'node:zlib'

/** A picture of dark cells on white (ISO/IEC 15948), `scale` points a unit across and down. Cells as a code has them: left, top, width, height. */
export function pngOfCells(
	cells: readonly (readonly [number, number, number, number])[],
	size: { width: number; height: number },
	scale: { x: number; y: number },
): Buffer {
	const width = Math.ceil(size.width * scale.x)
	const height = Math.ceil(size.height * scale.y)
	const rows = Buffer.alloc((width + 1) * height, 255)
	for (let row = 0; row < height; row++) rows[row * (width + 1)] = 0
	for (const [left, top, wide, tall] of cells)
		for (let y = Math.round(top * scale.y); y < Math.round((top + tall) * scale.y); y++)
			rows.fill(
				0,
				y * (width + 1) + 1 + Math.round(left * scale.x),
				y * (width + 1) + 1 + Math.round((left + wide) * scale.x),
			)
	const head = Buffer.alloc(13)
	head.writeUInt32BE(width, 0)
	head.writeUInt32BE(height, 4)
	head.set([8, 0, 0, 0, 0], 8)
	return Buffer.concat([
		Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
		chunk('IHDR', head),
		chunk('IDAT', deflateSync(rows, { level: 9 })),
		chunk('IEND', Buffer.alloc(0)),
	])
}

function chunk(name: string, data: Buffer): Buffer {
	const body = Buffer.concat([Buffer.from(name, 'latin1'), data])
	const out = Buffer.alloc(body.length + 8)
	out.writeUInt32BE(data.length, 0)
	body.copy(out, 4)
	out.writeUInt32BE(crc(body), body.length + 4)
	return out
}

function crc(bytes: Buffer): number {
	let value = 0xffffffff
	for (const byte of bytes) {
		value ^= byte
		for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1
	}
	return (value ^ 0xffffffff) >>> 0
}
