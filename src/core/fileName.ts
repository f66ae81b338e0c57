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
	let kept = ''
	for (const char of plain) {
		if (new TextEncoder().encode(kept + char).length > most) break
		kept += char
	}
	const safe = kept.replace(/[ .]+$/, '') || 'document'
	return `${reserved.test(safe) ? `_${safe}` : safe}.${ending}`
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
