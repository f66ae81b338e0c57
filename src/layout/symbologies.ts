/** A symbol that machines read. */
type Symbology = {
	name: string
	/** Cells that stay clear on each side of it, as its standard asks. */
	quiet: number
	/** Whether it is of bars, which may be as high as one likes; else of cells as high as they are wide. */
	bars: boolean
	/** What it can say, in words. */
	holds: string
}

const list = {
	/** ISO/IEC 18004 */
	qr: { name: 'QR', quiet: 4, bars: false, holds: 'A QR code holds up to about 2,300 letters.' },
	/** ISO/IEC 16022 */
	'data matrix': {
		name: 'Data Matrix',
		quiet: 1,
		bars: false,
		holds: 'A Data Matrix code holds up to about 1,500 letters.',
	},
	/** ISO/IEC 15417 */
	'code 128': {
		name: 'Code 128',
		quiet: 10,
		bars: true,
		holds: 'Code 128 holds plain letters, digits and signs, about forty of them.',
	},
	/** ISO/IEC 15420 */
	'ean-13': {
		name: 'EAN-13',
		quiet: 11,
		bars: true,
		holds: 'EAN-13 holds twelve digits, or thirteen with the right last one.',
	},
} satisfies Record<string, Symbology>

export type SymbolName = keyof typeof list
/** Each symbol with all that is particular to it; a new one is a record here, and its name in the library (`pdf/codes.ts`). */
export const symbologies: Readonly<Record<SymbolName, Symbology>> = list
export const symbolNames = Object.keys(list).filter((name): name is SymbolName => name in list)
