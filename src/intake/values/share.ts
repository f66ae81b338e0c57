/** 0.125 → "12.5". */
export function percentOfShare(share: string): string {
	const [whole = '0', decimals = ''] = share.split('.')
	const padded = decimals.padEnd(2, '0')
	const text = `${whole}${padded.slice(0, 2)}.${padded.slice(2)}`.replace(/^(-?)0+(?=\d)/, '$1')
	return text.includes('.') ? text.replace(/\.?0*$/, '') || '0' : text
}
