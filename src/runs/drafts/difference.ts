import type { BillContent, DocumentDiscount, Unpriced } from '@/core/document'
import { chargeName } from '@/core/freight'
import type { Part } from '@/store/changes'

const names = {
	quantity: 'quantity',
	unitPrice: 'price',
	discountPercent: 'discount',
	description: 'text',
	taxCode: 'tax code',
} as const

/** A discount of a document in words. */
export const discountWords = (discount: DocumentDiscount): string =>
	`${discount.label || 'the order’s discount'} ${sizeOf(discount)}`

const sizeOf = (share: { percent: string } | { amount: string }): string =>
	'percent' in share ? `${share.percent}%` : share.amount

/** A line by what it stands for, so that a line taken out or put in moves no other. */
const identity = ({ line, credits, creditsCharge }: BillContent['lines'][number], place: number): string =>
	line !== 0
		? `line ${line}`
		: credits !== null || creditsCharge !== null
			? `credits ${credits} ${creditsCharge}`
			: `at ${place}`

/** What of a draft is different, as data. */
export function touched(before: BillContent, after: Unpriced, emailBefore: string, emailAfter: string): Part[] {
	const differs = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b)
	const parts: [Part, boolean][] = [
		['lines', differs(before.lines, after.lines)],
		['terms', differs([before.discounts, before.charges], [after.discounts, after.charges])],
		['due', before.dueDay !== after.dueDay],
		['email', emailBefore !== emailAfter],
	]
	return parts.flatMap(([part, is]) => (is ? [part] : []))
}

/** What is different, in words: "line 2: price none → 4.20". */
export function difference(before: BillContent, after: Unpriced, emailBefore: string, emailAfter: string): string[] {
	const old = new Map(before.lines.map((line, place) => [identity(line, place), { line, place }]))
	const lines = after.lines.flatMap((line, place) => {
		const own = old.get(identity(line, place))
		if (!own) return [`with line ${place + 1}`]
		old.delete(identity(line, place))
		const parts = (Object.keys(names) as (keyof typeof names)[]).filter((key) => own.line[key] !== line[key])
		return parts.map(
			(key) => `line ${own.place + 1}: ${names[key]} ${own.line[key] || 'none'} → ${line[key] ?? 'none'}`,
		)
	})
	const gone = [...old.values()].map(({ place }) => `without line ${place + 1}`)
	const shares = (content: Pick<Unpriced, 'discounts' | 'charges' | 'orders'>) => [
		...content.discounts.map(discountWords),
		...content.charges.map((charge, place) => `${chargeName(content, place)} ${sizeOf(charge)}`),
	]
	const [had, has] = [shares(before), shares(after)]
	const off = had.filter((words) => !has.includes(words)).map((words) => `without ${words}`)
	const on = has.filter((words) => !had.includes(words)).map((words) => `with ${words}`)
	const due = before.dueDay === after.dueDay ? [] : [`due ${before.dueDay} → ${after.dueDay}`]
	const email = emailBefore === emailAfter ? [] : [`email ${emailBefore || 'none'} → ${emailAfter || 'none'}`]
	return [...lines, ...gone, ...off, ...on, ...due, ...email]
}

/** What of a customer's particulars on a paper is different, in words. */
export const customerWords = (before: BillContent['customer'], after: BillContent['customer']): string[] => [
	...(JSON.stringify(before.address) === JSON.stringify(after.address) ? [] : ['address']),
	...(before.name === after.name ? [] : [`name ${before.name} → ${after.name}`]),
	...(before.taxNumber === after.taxNumber ? [] : ['tax number']),
	...(before.tax === after.tax ? [] : [`tax ${before.tax} → ${after.tax}`]),
]
