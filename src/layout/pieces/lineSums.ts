import { minorDigits } from '@/core/currency'
import { decimalText, parseDecimal, pow10 } from '@/core/decimal'
import type { At } from '../fieldTypes'

/** Adds figures up exactly; nothing counts as nought. */
export function sumOf(read: (at: At) => string | readonly string[], group: number[], at: At): string {
	const scale = minorDigits(at.content.currency)
	let units = 0n
	for (const place of group) {
		const raw = read({ ...at, place })
		if (typeof raw !== 'string' || raw === '') continue
		const value = parseDecimal(raw, 'figure', scale)
		units += value.units * pow10(scale - value.scale)
	}
	return decimalText({ units, scale }, scale)
}
