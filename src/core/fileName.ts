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
