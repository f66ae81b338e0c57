import { amountText, parseAmount } from './currency'
import { parseDecimal, percentOf, pow10, roundQuotient } from './decimal'
import { type BillContent, priceInputOf, type Rest, type Unpriced } from './document'
import { homeTax } from './law'
import { price } from './price'
import { priceBill } from './priceBill'

// A bill that is credited in parts: each part is priced by its own quantities, and the last of a line, or of the bill, takes what is left of
// every figure. Parts that are rounded up can come to more than the whole; then a part takes less than its own arithmetic says, so that what
// is left is never less than nothing.

/** The bill's discounts on the lines that are credited: a percent as it is, an amount in the share of the lines' nets that is credited. */
export function creditedDiscounts(bill: BillContent, lines: BillContent['lines']): BillContent['discounts'] {
	const { currency } = bill
	const base = (part: BillContent['lines']): bigint => {
		const priced = price({ ...priceInputOf({ ...bill, lines: part }), discounts: [], charges: [] })
		return priced.ok ? priced.value.subtotal : 0n
	}
	if (!bill.discounts.some((discount) => 'amount' in discount)) return bill.discounts
	const [whole, credited] = [base(bill.lines), base(lines)]
	return bill.discounts.map((discount) => {
		if (!('amount' in discount) || whole === 0n) return discount
		const share = roundQuotient(parseAmount(discount.amount, currency, 'discount') * credited, whole, 'half-away')
		return { label: discount.label, amount: amountText(share < 0n ? -share : share, currency) }
	})
}

type Home = NonNullable<BillContent['home']>
type Figures = { gross: bigint; discount: bigint; net: bigint; documentDiscount: bigint }
type TaxRow = { code: string; rate: string; base: bigint; tax: bigint }
/** What is left of every figure of a bill, minor units. */
type Left = { lines: Figures[]; discounts: bigint[]; taxes: TaxRow[] }

const sum = (amounts: readonly bigint[]): bigint => amounts.reduce((total, amount) => total + amount, 0n)
const size = (amount: bigint): bigint => (amount < 0n ? -amount : amount)
const least = (a: bigint, b: bigint): bigint => (a < b ? a : b)
const greatest = (a: bigint, b: bigint): bigint => (a > b ? a : b)

/** What is left of a bill beside its credit notes, whose figures are below zero where the bill's are above. */
function leftOf(bill: BillContent, notes: readonly BillContent[]): Left {
	const minor = (amount: string | undefined) => parseAmount(amount ?? '0', bill.currency, 'rest')
	const lines = bill.priced.lines.map((own, place) => {
		const all = [
			own,
			...notes.flatMap((note) =>
				note.lines.flatMap(({ credits }, index) => (credits === place ? (note.priced.lines[index] ?? []) : [])),
			),
		]
		const left = (key: keyof Figures) => sum(all.map((figures) => minor(figures[key])))
		return {
			...{ gross: left('gross'), discount: left('discount') },
			...{ net: left('net'), documentDiscount: left('documentDiscount') },
		}
	})
	const discounts = bill.discounts.map((_, index) =>
		sum([bill, ...notes].map(({ priced }) => minor(priced.discounts[index]))),
	)
	const rows = [bill, ...notes].flatMap(({ priced }) => priced.taxes)
	const keys = [...new Set(rows.map(({ code, rate }) => `${code} ${rate}`))]
	const taxes = keys.flatMap((key): TaxRow[] => {
		const own = rows.filter(({ code, rate }) => `${code} ${rate}` === key)
		const [first] = own
		if (!first) return []
		const of = (part: 'base' | 'tax') => sum(own.map((row) => minor(row[part])))
		return [{ code: first.code, rate: first.rate, base: of('base'), tax: of('tax') }]
	})
	return { lines, discounts, taxes }
}

const figuresText = (figures: Figures, currency: string) => {
	const text = (amount: bigint) => amountText(amount, currency)
	const { gross, discount, net, documentDiscount } = figures
	return {
		...{ gross: text(gross), discount: text(discount) },
		...{ net: text(net), documentDiscount: text(documentDiscount) },
	}
}
const taxText = ({ code, rate, base, tax }: TaxRow, currency: string) => ({
	...{ code, rate },
	...{ base: amountText(base, currency), tax: amountText(tax, currency) },
})

type Taken = { last: boolean; lines: { line: number }[]; charges: number }

/** What is left of the figures that a credit note takes the last of. */
export function restOf(bill: BillContent, notes: readonly BillContent[], taken: Taken): Rest {
	const { currency } = bill
	const left = leftOf(bill, notes)
	const lines = taken.lines.flatMap(({ line }) => {
		const own = left.lines[line]
		return own ? [{ line, own: { ...own } }] : []
	})
	if (taken.last) {
		// Of bills that were credited before the last of a line took all of its share, shares may be a unit off: the first line settles it.
		const [first] = lines
		if (first) first.own.documentDiscount += sum(left.discounts) - sum(lines.map(({ own }) => own.documentDiscount))
	}
	return {
		last: taken.last,
		lines: Object.fromEntries(lines.map(({ line, own }) => [String(line), figuresText(own, currency)])),
		charges: Object.fromEntries(
			Array.from({ length: taken.charges }, (_, index) => [String(index), bill.priced.charges[index] ?? '0']),
		),
		discounts: taken.last ? left.discounts.map((amount) => amountText(amount, currency)) : [],
		taxes: taken.last ? left.taxes.map((row) => taxText(row, currency)) : [],
		home: bill.home && { ...bill.home, tax: taken.last ? homeLeft(bill.home, notes) : bill.home.tax },
	}
}

/** What the credit notes left of an invoice's tax in the home currency. */
function homeLeft(home: Home, notes: readonly BillContent[]): string {
	const taxes = [home, ...notes.flatMap((note) => note.home ?? [])]
	return amountText(sum(taxes.map(({ tax }) => parseAmount(tax, home.currency, 'home'))), home.currency)
}

/**
 * A credit note of a part that leaves nothing below nothing: as it is where its own figures do, else with figures that are held to what is
 * left. The last of a line takes all that is left of it, whatever else stays.
 * @param quantityLeft of each line of the bill before this credit note
 */
export function withinWhatIsLeft(
	bill: BillContent,
	notes: readonly BillContent[],
	note: Unpriced,
	quantityLeft: readonly string[],
): Unpriced {
	const { rest } = note
	if (!rest || rest.last) return note
	const left = leftOf(bill, notes)
	const own = takenBy(note)
	const lines = new Map<number, Figures>()
	note.lines.forEach(({ credits, quantity }, index) => {
		const most = credits === null ? undefined : left.lines[credits]
		if (credits === null || !most) return
		const share = shareOfLeft(most, quantity, quantityLeft[credits] ?? '0')
		lines.set(credits, rest.lines[credits] ? most : hold(own?.lines[index] ?? share, most))
	})
	const taxes = taxesOf(bill, note, lines, left.taxes)
	const discounts = discountsOf(own?.discounts ?? [], left.discounts, sum([...lines.values()].map(shareIn)))
	const same =
		own !== null &&
		note.lines.every(({ credits }, index) => credits === null || sameFigures(lines.get(credits), own.lines[index])) &&
		JSON.stringify(own.taxes.map((row) => taxText(row, bill.currency))) ===
			JSON.stringify(taxes.map((row) => taxText(row, bill.currency)))
	const text = (amount: bigint) => amountText(amount, bill.currency)
	const held: Rest = same
		? rest
		: {
				...{ last: false, held: true },
				lines: Object.fromEntries([...lines].map(([line, figures]) => [line, figuresText(figures, bill.currency)])),
				...{ charges: rest.charges, discounts: discounts.map(text) },
				...{ taxes: taxes.map((row) => taxText(row, bill.currency)), home: rest.home },
			}
	const taxLeft = sum(left.taxes.map(({ tax }) => tax)) - sum(taxes.map(({ tax }) => tax))
	return { ...note, rest: withHome(bill, notes, held, { tax: sum(taxes.map(({ tax }) => tax)), taxLeft }) }
}

/** What a credit note takes by its own arithmetic, in the direction of its bill; null where it cannot be priced. */
function takenBy(note: Unpriced): { lines: Figures[]; discounts: bigint[]; taxes: TaxRow[] } | null {
	const priced = priceBill(note)
	if (!priced.ok) return null
	const { lines, discounts, taxes } = priced.value
	return {
		lines: lines.map(({ gross, discount, net, documentDiscount }) => ({
			...{ gross: -gross, discount: -discount },
			...{ net: -net, documentDiscount: -documentDiscount },
		})),
		discounts: discounts.map((amount) => -amount),
		taxes: taxes.map((row) => ({ ...row, base: -row.base, tax: -row.tax })),
	}
}

const shareIn = ({ documentDiscount }: Figures): bigint => documentDiscount
const sameFigures = (a: Figures | undefined, b: Figures | undefined): boolean =>
	a !== undefined && b !== undefined && a.gross === b.gross && a.net === b.net && shareIn(a) === shareIn(b)

/** The part of what is left of a line that goes with a part of the quantity that is. */
function shareOfLeft({ gross, discount, net, documentDiscount }: Figures, quantity: string, most: string): Figures {
	const [asked, all] = [quantity, most].map((text) => parseDecimal(text, 'quantity', 6))
	if (!asked || !all || all.units === 0n) return { gross, discount, net, documentDiscount }
	const of = (amount: bigint) =>
		roundQuotient(amount * size(asked.units) * pow10(all.scale), size(all.units) * pow10(asked.scale), 'half-away')
	return { gross: of(gross), discount: of(discount), net: of(net), documentDiscount: of(documentDiscount) }
}

/** Figures of a line held between nothing and what is left, so that each of them, and what it comes to, leaves nothing below nothing. */
function hold(wanted: Figures, most: Figures): Figures {
	const sign = most.gross < 0n ? -1n : 1n
	const between = (amount: bigint, low: bigint, high: bigint) => greatest(low, least(amount, high))
	const [all, net, share] = [sign * most.gross, sign * most.net, sign * most.documentDiscount]
	const gross = between(sign * wanted.gross, 0n, all)
	const taken = between(sign * wanted.net, greatest(0n, gross - (all - net)), least(net, gross))
	const off = between(sign * wanted.documentDiscount, greatest(0n, taken - (net - share)), least(share, taken))
	return {
		...{ gross: sign * gross, discount: sign * (gross - taken) },
		...{ net: sign * taken, documentDiscount: sign * off },
	}
}

/** Tax by code of what is credited. Where nothing of a base is left, all of its tax is taken; what is left of a tax never turns against its base. */
function taxesOf(
	bill: BillContent,
	note: Unpriced,
	lines: ReadonlyMap<number, Figures>,
	left: readonly TaxRow[],
): TaxRow[] {
	const standard = bill.customer.tax === 'standard'
	const bases = new Map<string, bigint>()
	for (const { credits, creditsCharge, taxCode } of note.lines) {
		const figures = credits === null ? undefined : lines.get(credits)
		const charge =
			creditsCharge === null ? 0n : parseAmount(bill.priced.charges[creditsCharge] ?? '0', bill.currency, 'charge')
		const code = standard ? taxCode : (left[0]?.code ?? taxCode)
		bases.set(code, (bases.get(code) ?? 0n) + (figures ? figures.net - figures.documentDiscount : charge))
	}
	return [...bases].flatMap(([code, base]): TaxRow[] => {
		const own = left.find((row) => row.code === code)
		const rate = own?.rate ?? '0'
		const [baseLeft, taxLeft] = [(own?.base ?? 0n) - base, own?.tax ?? 0n]
		const usual = percentOf(base, parseDecimal(rate, 'rate', 4), 'half-away')
		const turns = baseLeft > 0n ? taxLeft - usual < 0n : taxLeft - usual > 0n
		const tax = baseLeft === 0n || turns ? taxLeft : usual
		return base === 0n && tax === 0n ? [] : [{ code, rate, base, tax }]
	})
}

/** Discounts that come to `wanted` together, each as it is by itself as far as that goes. */
function discountsOf(own: readonly bigint[], left: readonly bigint[], wanted: bigint): bigint[] {
	const taken = left.map((_, place) => own[place] ?? 0n)
	let out = wanted - sum(taken)
	return taken.map((amount, place) => {
		const end = place === taken.length - 1
		const room = (left[place] ?? 0n) - amount
		const moved = end ? out : out > 0n ? least(out, greatest(room, 0n)) : greatest(out, least(-amount, 0n))
		out -= moved
		return amount + moved
	})
}

/** The rest with what it takes of the tax in the home currency, where that is not its own: with the last of the tax, or more than there is. */
function withHome(
	bill: BillContent,
	notes: readonly BillContent[],
	rest: Rest,
	{ tax, taxLeft }: { tax: bigint; taxLeft: bigint },
): Rest {
	if (!bill.home) return rest
	const minor = (amount: string) => parseAmount(amount, bill.home?.currency ?? '', 'home')
	const left = homeLeft(bill.home, notes)
	const taxTotal = amountText(-tax, bill.currency)
	const own = homeTax({ currency: bill.currency, priced: { ...bill.priced, taxTotal }, rest }, '', null)
	const over = own !== null && size(minor(own.tax)) > size(minor(left))
	return taxLeft === 0n || over ? { ...rest, home: { ...bill.home, tax: left }, takesHome: true } : rest
}
