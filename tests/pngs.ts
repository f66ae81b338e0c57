import { deflateSync } from 'node:zlib'

/** A PNG of one colour. */
export function png(width: number, height: number, [red, green, blue]: [number, number, number]): Buffer {
	const row = Buffer.concat([Buffer.from([0]), ...Array.from({ length: width }, () => Buffer.from([red, green, blue]))])
	const rows = Buffer.concat(Array.from({ length: height }, () => row))
	return pngWith(width, height, deflateSync(rows))
}

/** A PNG whose head says a size, with data that may be another's. */
export function pngWith(width: number, height: number, packed: Buffer): Buffer {
	const chunk = (type: string, data: Buffer) => {
		const named = Buffer.concat([Buffer.from(type, 'latin1'), data])
		const [size, sum] = [Buffer.alloc(4), Buffer.alloc(4)]
		size.writeUInt32BE(data.length)
		sum.writeUInt32BE(crc(named))
		return Buffer.concat([size, named, sum])
	}
	const head = Buffer.alloc(13)
	head.writeUInt32BE(width, 0)
	head.writeUInt32BE(height, 4)
	head.set([8, 2, 0, 0, 0], 8)
	return Buffer.concat([
		Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
		chunk('IHDR', head),
		chunk('IDAT', packed),
		chunk('IEND', Buffer.alloc(0)),
	])
}

function crc(bytes: Buffer): number {
	let value = 0xffffffff
	for (const byte of bytes) {
		value ^= byte
		for (let bit = 0; bit < 8; bit++) value = (value >>> 1) ^ (value & 1 ? 0xedb88320 : 0)
	}
	return (value ^ 0xffffffff) >>> 0
}
