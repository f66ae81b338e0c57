/**
 * A stream with its dictionary, which may hold others: what a picture or a font is made of, apart from any file. Strings are names
 * (ISO 32000, 7.3.5); texts are given as bytes in hexadecimal by `text`.
 */
export type PdfObject = { dict: PdfDict; stream?: Uint8Array }
export type PdfDict = { [key: string]: PdfValue }
/** Written as it stands: an atom of another file. */
type PdfRaw = { raw: string }
export type PdfValue = number | string | PdfRaw | PdfText | PdfObject | PdfRef | PdfDict | readonly PdfValue[]
/** An object of the file that is being written, by its number. */
export type PdfRef = { ref: number }
type PdfText = { text: string }

const isRaw = (value: object): value is PdfRaw => 'raw' in value && typeof value.raw === 'string'
const isText = (value: object): value is PdfText => 'text' in value
const isRef = (value: object): value is PdfRef => 'ref' in value && typeof value.ref === 'number'
const isObject = (value: object): value is PdfObject => 'dict' in value

/** Numbers as PDF has them: no exponent, no more decimals than matter. */
export const pdfNumber = (value: number): string => String(Math.round(value * 1000) / 1000)

/** A text as UTF-16 in hexadecimal, so that every letter of any language can stand in it (ISO 32000, 7.9.2). */
function hexText(text: string): string {
	let hex = 'feff'
	for (let index = 0; index < text.length; index++) hex += text.charCodeAt(index).toString(16).padStart(4, '0')
	return `<${hex}>`
}

export type PdfFile = {
	/** Gives a number to an object that is put later. */
	reserve: () => PdfRef
	put: (object: PdfObject, as?: PdfRef) => PdfRef
	/** Puts an object whose dictionary is written already. */
	putRaw: (dict: string, stream?: Uint8Array) => PdfRef
	end: (root: PdfRef, info: PdfRef) => Buffer
}

/** Writes a PDF file's objects and the table of where they lie (ISO 32000, 7.5). The same calls give the same bytes. */
export function pdfFile(): PdfFile {
	const chunks: Uint8Array[] = []
	const offsets: number[] = []
	let length = 0
	let count = 0
	const write = (chunk: Uint8Array | string) => {
		const bytes = typeof chunk === 'string' ? Buffer.from(chunk, 'latin1') : chunk
		chunks.push(bytes)
		length += bytes.length
	}
	const reserve = (): PdfRef => ({ ref: ++count })
	const putDict = (dict: string, stream: Uint8Array | undefined, { ref }: PdfRef): PdfRef => {
		offsets[ref] = length
		if (stream === undefined) write(`${ref} 0 obj\n${dict}\nendobj\n`)
		else {
			write(`${ref} 0 obj\n${dict.slice(0, -2)}/Length ${stream.length}>>\nstream\n`)
			write(stream)
			write('\nendstream\nendobj\n')
		}
		return { ref }
	}
	const put: PdfFile['put'] = ({ dict, stream }, as) => putDict(written(dict), stream, as ?? reserve())
	const written = (value: PdfValue): string => {
		if (typeof value === 'number') return pdfNumber(value)
		if (typeof value === 'string') return `/${value}`
		if (Array.isArray(value)) return `[${value.map(written).join(' ')}]`
		const one = value as PdfRaw | PdfText | PdfObject | PdfRef | PdfDict
		if (isRaw(one)) return one.raw
		if (isRef(one)) return `${one.ref} 0 R`
		if (isText(one)) return hexText(String(one.text))
		if (isObject(one)) return `${putOnce(one).ref} 0 R`
		return `<<${Object.entries(one)
			.map(([key, inner]) => `/${key} ${written(inner)}`)
			.join('')}>>`
	}
	// What is named twice within others is one object, and what names itself has its number before it is written.
	const within = new Map<PdfObject, PdfRef>()
	const putOnce = (object: PdfObject): PdfRef => {
		const known = within.get(object)
		if (known) return known
		const ref = reserve()
		within.set(object, ref)
		return put(object, ref)
	}
	write('%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n')
	return {
		reserve,
		put,
		putRaw: (dict, stream) => putDict(dict, stream, reserve()),
		end: (root, info) => {
			const start = length
			const rows = Array.from(
				{ length: count },
				(_, index) => `${String(offsets[index + 1] ?? 0).padStart(10, '0')} 00000 n \n`,
			)
			write(`xref\n0 ${count + 1}\n0000000000 65535 f \n${rows.join('')}`)
			write(`trailer\n<</Size ${count + 1}/Root ${root.ref} 0 R/Info ${info.ref} 0 R>>\nstartxref\n${start}\n%%EOF\n`)
			return Buffer.concat(chunks, length)
		},
	}
}
