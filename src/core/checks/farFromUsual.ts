import { formatMinor } from '../format'
import type { Checked, Finding } from './finding'

/** A first invoice, or a net that is many times (or a small part of) the middle of the customer's latest. */
export function farFromUsual({ content, net, usualNets, usualTimes, usualPart }: Checked): Finding[] {
	if (content.kind !== 'invoice' || content.refersTo !== null) return []
	if (usualNets.length === 0) {
		return [
			{
				code: 'first-invoice',
				level: 'look',
				brief: 'first invoice',
				text: `This is the first invoice to this customer in ${content.currency}. Check address, terms and tax.`,
			},
		]
	}
	if (usualNets.length < 3) return []
	const sorted = [...usualNets].sort((a, b) => a - b)
	const middle = sorted[Math.floor(sorted.length / 2)] ?? 0
	if (middle <= 0 || net <= 0n) return []
	// Exact, so that four times is four times; settings have at most a few decimals.
	const [most, least] = [usualTimes, usualPart].map((set) => BigInt(Math.round(set * 10_000)))
	const usual = BigInt(middle)
	if (net * 10_000n <= usual * (most ?? 0n) && net * 1_000_000n >= usual * (least ?? 0n)) return []
	const times = Number(net) / middle
	const compared = times >= 1 ? `${times.toFixed(1)} times` : `${Math.round(times * 100)}% of`
	const text = (minor: number) => formatMinor(minor, content.currency)
	return [
		{
			code: 'far-from-usual',
			level: 'look',
			brief: times >= 1 ? `${times.toFixed(1)}× usual` : `${Math.round(times * 100)}% of usual`,
			text: `Net ${text(Number(net))} is ${compared} the usual: their last ${sorted.length} invoices were ${text(sorted[0] ?? 0)} to ${text(sorted.at(-1) ?? 0)}, the middle one ${text(middle)}.`,
		},
	]
}
