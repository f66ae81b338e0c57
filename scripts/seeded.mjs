/** Chance from a fixed seed (Mulberry32: small, and the same everywhere), and the writing of CSV files. */
export function seeded(seed) {
	let state = seed
	const random = () => {
		state = (state + 0x6d2b79f5) | 0
		let t = Math.imul(state ^ (state >>> 15), 1 | state)
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296
	}
	return {
		random,
		pick: (list) => list[Math.floor(random() * list.length)],
		between: (from, to) => from + Math.floor(random() * (to - from + 1)),
		chance: (share) => random() < share,
	}
}

const quote = (cell) => (/[",\n]/.test(String(cell)) ? `"${String(cell).replaceAll('"', '""')}"` : String(cell))
export const csv = (rows) => `${rows.map((row) => row.map(quote).join(',')).join('\r\n')}\r\n`
/** Minor units as the firm's systems print them: 1,234.50. */
export const money = (minor, digits = 2) => (minor / 10 ** digits).toFixed(digits).replace(/\B(?=(\d{3})+(?!\d))/g, ',')
