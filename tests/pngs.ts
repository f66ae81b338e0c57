import { PNG } from 'pngjs'

/** A PNG of one colour. */
export function png(width: number, height: number, [red, green, blue]: [number, number, number]): Buffer {
	const picture = new PNG({ width, height })
	for (let at = 0; at < picture.data.length; at += 4) picture.data.set([red, green, blue, 255], at)
	return PNG.sync.write(picture, { colorType: 2 })
}

/** A PNG whose head says a size, with data that may be another's; its sums are not right either. */
export function pngWith(width: number, height: number, packed: Buffer): Buffer {
	const whole = png(1, 1, [0, 0, 0])
	const data = whole.indexOf('IDAT')
	const [head, end] = [whole.subarray(0, data - 4), whole.subarray(whole.indexOf('IEND') - 4)]
	head.writeUInt32BE(width, 16)
	head.writeUInt32BE(height, 20)
	const size = Buffer.alloc(4)
	size.writeUInt32BE(packed.length)
	return Buffer.concat([head, size, Buffer.from('IDAT'), packed, Buffer.alloc(4), end])
}
