import { join } from 'node:path'

/** Where something is printed: left, top, right and bottom in points from the top left of a page. */
export type Ink = readonly [left: number, top: number, right: number, bottom: number]

/**
 * Where the pages of a letter paper are printed on, as boxes round its texts, pictures and shapes. What covers more than half of a page
 * is its ground, on which text may stand, and is left out; so are shapes that are white. At most so many boxes a page.
 */
export async function inkOf(bytes: Uint8Array, most = 400): Promise<Ink[][]> {
	const { getDocument, OPS, Util, GlobalWorkerOptions } = await import('pdfjs-dist/legacy/build/pdf.mjs')
	GlobalWorkerOptions.workerSrc = join(
		process.env.NORTH_TALLY_ROOT ?? process.cwd(),
		'node_modules/pdfjs-dist/legacy/build/pdf.worker.mjs',
	)
	const task = getDocument({ data: new Uint8Array(bytes), isEvalSupported: false, useSystemFonts: false, verbosity: 0 })
	try {
		const pdf = await task.promise
		const pages: Ink[][] = []
		for (let number = 1; number <= Math.min(pdf.numPages, 2); number++) {
			const page = await pdf.getPage(number)
			const viewport = page.getViewport({ scale: 1 })
			const boxes: Ink[] = []
			const add = (box: readonly number[], transform: readonly number[]) => {
				const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = box
				const corners = [
					[x0, y0],
					[x1, y0],
					[x0, y1],
					[x1, y1],
				].map(([x = 0, y = 0]) => at(at([x, y], transform), viewport.transform))
				const [xs, ys] = [corners.map(([x]) => x ?? 0), corners.map(([, y]) => y ?? 0)]
				const ink: Ink = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
				const area = (ink[2] - ink[0]) * (ink[3] - ink[1])
				if (area < (viewport.width * viewport.height) / 2 && boxes.length < most) boxes.push(ink)
			}
			const { items } = await page.getTextContent()
			for (const item of items)
				if ('str' in item && item.str.trim() !== '') {
					const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = item.transform as number[]
					const size = Math.hypot(c, d) || 1
					add([0, -0.2 * size, item.width, 0.8 * size], [a / size, b / size, c / size, d / size, e, f])
				}
			const operators = await page.getOperatorList()
			let transform: number[] = [1, 0, 0, 1, 0, 0]
			const kept: number[][] = []
			let white = false
			operators.fnArray.forEach((fn: number, index: number) => {
				const args: unknown[] = operators.argsArray[index] ?? []
				if (fn === OPS.save) kept.push(transform)
				else if (fn === OPS.restore) transform = kept.pop() ?? transform
				else if (fn === OPS.transform) transform = Util.transform(transform, args as number[])
				else if (fn === OPS.paintFormXObjectBegin) {
					kept.push(transform)
					if (Array.isArray(args[0])) transform = Util.transform(transform, args[0] as number[])
				} else if (fn === OPS.paintFormXObjectEnd) transform = kept.pop() ?? transform
				else if (fn === OPS.setFillRGBColor) white = isWhite(args)
				else if (fn === OPS.paintImageXObject || fn === OPS.paintImageMaskXObject || fn === OPS.paintInlineImageXObject)
					add([0, 0, 1, 1], transform)
				else if (fn === OPS.constructPath) {
					const box = args[2]
					const paints = args[0] !== OPS.endPath
					if (paints && !white && box && typeof box === 'object' && 'length' in box)
						add(Array.from(box as ArrayLike<number>), transform)
				}
			})
			pages.push(boxes)
		}
		return pages
	} finally {
		await task.destroy()
	}
}

const at = (
	[x = 0, y = 0]: readonly number[],
	[a = 1, b = 0, c = 0, d = 1, e = 0, f = 0]: readonly number[],
): number[] => [a * x + c * y + e, b * x + d * y + f]

const isWhite = (args: unknown[]): boolean =>
	(typeof args[0] === 'string' && args[0].toLowerCase() === '#ffffff') || args.slice(0, 3).every((part) => part === 255)
