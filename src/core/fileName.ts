const reserved = /^(con|prn|aux|nul|com\d|lpt\d)$/i

/**
 * A file name that every file system takes: letters and digits of any script kept; characters that some refuse become "-";
 * no space or dot at either end, no name that Windows reserves, at most `most` bytes of UTF-8 before the ending.
 * @example fileName(['SK-10462', 'Brack Point / Sailing'], 'pdf') // "SK-10462 Brack Point - Sailing.pdf"
 */
export function fileName(parts: string[], ending: string, most = 120): string {
	const plain = parts
		.join(' ')
		.normalize('NFC')
		.replace(/[\p{Cc}\p{Cf}<>:"/\\|?*]+/gu, '-')
		.replace(/\s+/g, ' ')
		.replace(/^[ .]+|[ .]+$/g, '')
	const safe = withinBytes(plain, most).replace(/[ .]+$/, '') || 'document'
	return `${reserved.test(safe) ? `_${safe}` : safe}.${ending}`
}

/** As many whole characters from the first as have room in so many bytes of UTF-8. */
function withinBytes(text: string, most: number): string {
	const bytes = (part: string) => new TextEncoder().encode(part).length
	if (bytes(text) <= most) return text
	let room = most
	let kept = ''
	for (const char of text) {
		room -= bytes(char)
		if (room < 0) break
		kept += char
	}
	return kept
}

/**
 * Names of folders, one within the other, from parts put together: "/" in free words begins another, in a value it is a letter as any.
 * A folder that would have no name is left out; none has more than 60 bytes or an ending as files have, nor are there more than six.
 */
export function pathParts(parts: readonly { text: string; free: boolean }[]): string[] {
	const levels: string[] = ['']
	for (const { text, free } of parts) {
		const [first = '', ...rest] = free ? text.split('/') : [text]
		levels[levels.length - 1] += first
		levels.push(...rest)
	}
	return levels
		.filter((level) => /[\p{L}\p{N}]/u.test(level))
		.slice(0, 6)
		.map((level) =>
			fileName([level], 'x', 60)
				.slice(0, -2)
				.replace(/\.(?=[a-z]{3,4}$)/i, '-'),
		)
}
