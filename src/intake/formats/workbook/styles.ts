import { readXml } from '@/archive/xml'
import type { Archive } from '@/archive/zip'

/** What a number in a cell stands for, by the way it is shown. */
export type Shown = 'number' | 'percent' | 'day'

// ECMA-376 part 1, 18.8.30: the formats that every workbook knows.
const dayFormats = new Set([14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 34, 35, 36, 50, 51, 52, 53, 54, 57, 58])
const percentFormats = new Set([9, 10])

/** A format's own text: quoted words, colours and escapes say nothing; a year or a day makes it a day. */
function shownBy(code: string): Shown {
	const [first = ''] = code.replace(/"[^"]*"|\\.|_.|\*./g, '').split(';')
	const bare = first.replace(/\[[^\]]*\]/g, '')
	return bare.includes('%') ? 'percent' : /[yd]/i.test(bare) && !/general/i.test(bare) ? 'day' : 'number'
}

/** What each style of a workbook shows numbers as, by its place. */
export async function readStyles(archive: Archive, path: string): Promise<Shown[]> {
	if (!archive.names.includes(path)) return []
	const own = new Map<number, Shown>()
	const styles: Shown[] = []
	let inCells = false
	await readXml(await archive.open(path), {
		open: (name, attributes) => {
			if (name === 'numFmt') own.set(Number(attributes.numFmtId), shownBy(attributes.formatCode ?? ''))
			if (name === 'cellXfs') inCells = true
			if (name === 'xf' && inCells) {
				const id = Number(attributes.numFmtId ?? 0)
				styles.push(own.get(id) ?? (dayFormats.has(id) ? 'day' : percentFormats.has(id) ? 'percent' : 'number'))
			}
		},
		close: (name) => {
			if (name === 'cellXfs') inCells = false
		},
	})
	return styles
}
