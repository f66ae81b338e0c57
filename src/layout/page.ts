/** The two faces of papers issued before layouts were data; later ones are named by family and style: "source-serif/bold italic". */
export type Face = string
/** Widths of text, in points; comes in as data so that a layout stays pure. */
export type Metrics = { width: (text: string, face: Face, size: number) => number }

/** What stands on a page: points from the top left; text by its baseline. Colours as six hex digits. */
export type PageItem =
	| { type: 'text'; x: number; y: number; text: string; face: Face; size: number; color: string; turn?: number }
	| { type: 'rule'; x: number; y: number; width: number; thickness: number; color: string }
	| { type: 'box'; x: number; y: number; width: number; height: number; color: string }
	/** A box with rounded corners, filled or with an edge or both; `color` fills. */
	| {
			type: 'round'
			x: number
			y: number
			width: number
			height: number
			radius: number
			color: string | null
			edge: { color: string; thickness: number } | null
	  }
	| { type: 'image'; x: number; y: number; width: number; height: number; sha256: string }
	/** The dark cells of a code: left, top, width, height of each, from its own corner. */
	| {
			type: 'cells'
			x: number
			y: number
			color: string
			cells: readonly (readonly [number, number, number, number])[]
	  }
export type Page = PageItem[]

/** A4 in points. */
export const a4 = { width: 595.28, height: 841.89 }

/** Moves items down the page by `down` points, in their place. */
export function lower(items: readonly PageItem[], down: number): void {
	for (const item of items) item.y += down
}
