/** A record longer than this has lost its end. */
const longestRecord = 10_000_000

/** What hinders the reading of records, with the record that it was met in. */
export class TornRecord extends Error {
	constructor(
		readonly why: 'a quote is never closed' | 'it has no end',
		readonly record: number,
	) {
		super(why)
	}
}

/**
 * Parts text into records of cells (RFC 4180, read generously): a cell that begins with a quote ends with one, before a delimiter or the end
 * of the record, with doubled quotes inside standing for one; in every other cell a quote is a character like any other. Records end with a
 * line feed, a carriage return, or both. Text comes in pieces; `end` gives what is left.
 * @throws TornRecord where a quote is never closed, or a record never ends
 */
export function recordReader(delimiter: string, onRecord: (cells: string[]) => void) {
	let text = ''
	let place = 0
	let count = 0
	/** Gives records while they are whole; what may go on in the next piece stays. */
	const go = (last: boolean) => {
		place = 0
		while (place < text.length) {
			const next = plainRecord(last) ?? quotedRecord(last)
			if (!next) break
			count++
			onRecord(next.cells)
			place = next.end
		}
		text = text.slice(place)
		if (text.length > longestRecord) throw new TornRecord('it has no end', count + 1)
	}
	/** Where the next quote stands in the text, at or after `place`; -1 before it was looked for. */
	let quote = -1
	/** A record without quotes, which most are: parted at once. Null where it holds one, or may not be whole. */
	const plainRecord = (last: boolean): { cells: string[]; end: number } | null => {
		let end = text.indexOf('\n', place)
		if (end < 0) {
			if (!last) return null
			end = text.length
		}
		if (quote < place) {
			quote = text.indexOf('"', place)
			if (quote < 0) quote = Number.POSITIVE_INFINITY
		}
		if (quote < end) return null
		const line = text.slice(place, text.charCodeAt(end - 1) === 13 && end > place ? end - 1 : end)
		if (line.includes('\r')) return null
		return { cells: line.split(delimiter), end: end + 1 }
	}
	/** A record cell by cell. Null where it may go on in the next piece. */
	const quotedRecord = (last: boolean): { cells: string[]; end: number } | null => {
		const cells: string[] = []
		let at = place
		const endsAt = (index: number): number => {
			const char = text.charCodeAt(index)
			if (char === 10) return index + 1
			if (char !== 13) return -1
			// A carriage return at the end of a piece may have its line feed in the next.
			if (index + 1 >= text.length && !last) return -2
			return text.charCodeAt(index + 1) === 10 ? index + 2 : index + 1
		}
		for (;;) {
			let cell: string | null = null
			let after = at
			if (text.charCodeAt(at) === 34) {
				const quoted = quotedCell(at, last)
				if (quoted === 'open') {
					if (last) throw new TornRecord('a quote is never closed', count + 1)
					return null
				}
				if (quoted) {
					cell = quoted.cell
					after = quoted.end
				}
			}
			if (cell === null) {
				after = at
				while (after < text.length) {
					const char = text.charCodeAt(after)
					if (char === 10 || char === 13 || text.startsWith(delimiter, after)) break
					after++
				}
				cell = text.slice(at, after)
			}
			cells.push(cell)
			if (after >= text.length) return last ? { cells, end: after } : null
			if (text.startsWith(delimiter, after)) {
				at = after + delimiter.length
				if (at >= text.length && !last) return null
				continue
			}
			const end = endsAt(after)
			return end === -2 ? null : { cells, end }
		}
	}
	/** A quoted cell and where it ends; null where what looks like one is none; "open" where its end is not in sight. */
	const quotedCell = (at: number, last: boolean): { cell: string; end: number } | 'open' | null => {
		let cell = ''
		let from = at + 1
		for (;;) {
			const close = text.indexOf('"', from)
			if (close < 0) return 'open'
			cell += text.slice(from, close)
			const next = text.charCodeAt(close + 1)
			if (close + 1 >= text.length) return last ? { cell, end: close + 1 } : 'open'
			if (next === 34) {
				cell += '"'
				from = close + 2
				continue
			}
			return next === 10 || next === 13 || text.startsWith(delimiter, close + 1) ? { cell, end: close + 1 } : null
		}
	}
	return {
		write: (piece: string) => {
			text = text === '' ? piece : text + piece
			quote = -1
			go(false)
		},
		end: () => {
			quote = -1
			go(true)
		},
	}
}

/** The records of the start of a text; what its last, torn record breaks is left away. */
export function records(start: string, delimiter: string): string[][] {
	const found: string[][] = []
	const reader = recordReader(delimiter, (cells) => found.push(cells))
	try {
		reader.write(start)
		if (found.length === 0) reader.end()
	} catch (error) {
		if (!(error instanceof TornRecord)) throw error
	}
	return found.length > 0 ? found : start.split(/\r?\n/).map((line) => line.split(delimiter))
}
