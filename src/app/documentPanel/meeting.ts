import type { PanelView } from '@/runs/bench/panel'

// Where two changed one draft, what the form of the later holds meets what the draft is now, field by field.

/** What of a draft's view the form of a change is about. */
export type FormView = Pick<PanelView, 'lines' | 'discounts' | 'charges'> & {
	document: Pick<PanelView['document'], 'due_day' | 'email' | 'number'>
}

/** A field in which what was typed, and what another did meanwhile, are not the same. */
export type Apart = { field: string; opened: string; typed: string; now: string }

/** The field of a discount, by its label: their places change with what is on. */
export const takenOf = (label: string): string => `taken ${label}`

/** Whether two states of a draft have the same lines and freight, so that what was typed for one stands at its place on the other. */
export const sameShape = (one: FormView, other: FormView): boolean =>
	JSON.stringify(one.lines.map(({ order, item }) => [order, item])) ===
		JSON.stringify(other.lines.map(({ order, item }) => [order, item])) && one.charges?.length === other.charges?.length

/** What the form's fields hold when it is opened on a view, by their names, and what each is called. */
function fieldsOf({ lines, discounts, charges, document }: FormView): Map<string, { label: string; value: string }> {
	const fields = new Map<string, { label: string; value: string }>()
	lines.forEach((line, index) => {
		const of = `line ${index + 1}`
		fields.set(`description${index}`, { label: `text of ${of}`, value: line.description })
		fields.set(`quantity${index}`, { label: `quantity of ${of}`, value: line.quantity })
		fields.set(`price${index}`, { label: `price of ${of}`, value: line.unitPrice ?? '' })
		fields.set(`discount${index}`, { label: `discount of ${of}`, value: line.discountPercent })
		fields.set(`tax${index}`, { label: `tax code of ${of}`, value: line.taxCode })
	})
	for (const { label, words, on } of discounts) fields.set(takenOf(label), { label: words, value: on ? 'on' : '' })
	for (const [place, charge] of [...(charges ?? []), null].entries())
		fields.set(`charge${place}`, { label: charge?.label || 'freight', value: charge?.typed ?? '' })
	fields.set('dueDay', { label: 'due', value: document.due_day })
	fields.set('email', { label: 'send to', value: document.email })
	return fields
}

/**
 * What the form is to show once another changed its draft. What was left alone follows the draft; what was typed stays, beside theirs.
 * @param typed what a field of the form holds, by its name
 * @returns `follow` the values that fields of the form take over; none where the draft has other lines now, or is numbered
 */
export function meet(
	opened: FormView,
	now: FormView,
	typed: (name: string) => string,
): { follow: Map<string, string>; apart: Apart[] } {
	const was = fieldsOf(opened)
	const is = fieldsOf(now)
	const same = sameShape(opened, now) && now.document.number === null
	const follow = new Map<string, string>()
	const apart: Apart[] = []
	for (const name of new Set([...was.keys(), ...(same ? is.keys() : [])])) {
		const mine = typed(name).trim()
		const before = was.get(name)?.value ?? ''
		const theirs = is.get(name)?.value ?? ''
		if (same && mine === before && theirs !== before) follow.set(name, theirs)
		if (mine !== before || theirs !== before)
			apart.push({ field: (is.get(name) ?? was.get(name))?.label ?? name, opened: before, typed: mine, now: theirs })
	}
	return { follow, apart }
}
