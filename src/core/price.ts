import { allocateDiscount } from './allocateDiscount'
import { amountText, isCurrency, minorDigits, parseAmount } from './currency'
import { type Decimal, decimalText, parseDecimal, percentOf, pow10, type Rounding, roundQuotient } from './decimal'
import { attempt, type Result, refuse } from './refusal'

/** A share of an amount, or an amount (decimal text). */
export type Discount = { percent: string } | { amount: string }
export type Charge = Discount & { taxCode: string }
type PriceLine = {
	quantity: string
	unitPrice: string
	/** The quantity that `unitPrice` buys; "1" when left out. */
	pricePer?: string
	taxCode: string
	discounts?: Discount[]
	/** Whether document discounts count on this line; true when left out. */
	discountable?: boolean
	/** Figures that are not computed but what is left of a line that was credited in parts; amounts as decimal text. */
	given?: { gross: string; discount: string; documentDiscount: string }
}
type CustomerTax = 'standard' | 'exempt' | 'reverse-charge'
export type PriceInput = {
	currency: string
	taxCodes: { code: string; rate: string }[]
	lines: PriceLine[]
	discounts?: Discount[]
	charges?: Charge[]
	customerTax?: CustomerTax
	taxRounding?: 'per-group' | 'per-line'
	pricesIncludeTax?: boolean
	rounding?: Rounding
	prepaid?: string
	/** Discounts and tax rows that are what is left of an invoice that was credited in parts. The lines' shares are then given too. */
	given?: { discounts: string[]; taxes: { code: string; rate: string; base: string; tax: string }[] }
}

/** All amounts in minor units of the currency. */
export type Priced = {
	currency: string
	lines: { gross: bigint; discount: bigint; net: bigint; documentDiscount: bigint }[]
	subtotal: bigint
	discounts: bigint[]
	discountTotal: bigint
	charges: bigint[]
	chargeTotal: bigint
	taxes: { code: string; rate: string; base: bigint; tax: bigint }[]
	net: bigint
	taxTotal: bigint
	total: bigint
	prepaid: bigint
	amountDue: bigint
}

/** How a figure was reached, as data; `core/working.ts` puts it into words. */
export type How =
	| { by: 'product'; quantity: Decimal; unitPrice: Decimal; per: Decimal; numerator: bigint; denominator: bigint }
	| { by: 'less'; gross: bigint; discount: bigint }
	| { by: 'percent'; percent: Decimal; base: bigint; of: string }
	| { by: 'amount'; of: string; off: boolean }
	| { by: 'share'; total: bigint; net: bigint; base: bigint }
	| { by: 'sum'; nets: readonly bigint[] }
	| { by: 'no tax'; code: string; base: bigint }
	| { by: 'tax'; code: string; rate: Decimal; base: bigint; parts: number; included: boolean; perLine: boolean }
	| { by: 'net'; subtotal: bigint; discounts: bigint; charges: bigint; taxWithin: bigint | null }
	| { by: 'total'; net: bigint; tax: bigint }
	| { by: 'due'; total: bigint; prepaid: bigint }
	| { by: 'rest'; of: string }
/** One figure and how it was reached. `path` is its place in the priced document, `lines.0.net` for instance. */
type PriceStep = { path: string; amount: bigint; how: How }
/** Called with a maker of the step, so that a run without an audience makes none. */
type Note = (step: () => PriceStep) => void

const silent: Note = () => {}
const sum = (amounts: readonly bigint[]): bigint => amounts.reduce((total, amount) => total + amount, 0n)
const size = (amount: bigint): bigint => (amount < 0n ? -amount : amount)

type Part = { amount: bigint; code: string }
type Context = {
	currency: string
	rounding: Rounding
	rates: Map<string, Decimal>
	perLine: boolean
	text: (minor: bigint) => string
	note: Note
}

/**
 * Computes every figure of a document (CALCULATION, a document; the arithmetic of EN 16931).
 * Refused with the path of the field: no lines, an unknown tax code or currency, a price or amount below zero, a percent
 * outside 0 to 100, discounts above what they are taken on, prices with tax for a customer who pays none, a value that is
 * not a number.
 *
 * @param onStep hears how each figure was reached, in the order of the arithmetic
 */
export function price(input: PriceInput, onStep?: (step: PriceStep) => void): Result<Priced> {
	return attempt(() => compute(input, onStep ? (step) => onStep(step()) : silent))
}

function compute(input: PriceInput, note: Note): Priced {
	const { currency } = input
	if (!isCurrency(currency)) return refuse('currency', `"${currency}" is not a currency code of ISO 4217.`)
	if (input.lines.length === 0) return refuse('lines', 'A document needs at least one line.')
	const customerTax = input.customerTax ?? 'standard'
	if (input.pricesIncludeTax && customerTax !== 'standard') {
		return refuse('pricesIncludeTax', `Prices cannot include tax for a customer who is ${customerTax}.`)
	}
	const context: Context = {
		currency,
		rounding: input.rounding ?? 'half-away',
		rates: new Map(input.taxCodes.map(({ code, rate }, index) => [code, readPercent(rate, `taxCodes.${index}.rate`)])),
		perLine: input.taxRounding === 'per-line',
		text: (minor) => amountText(minor, currency),
		note,
	}

	const priced = input.lines.map((line, index) => priceLine(line, `lines.${index}`, context))
	const nets = priced.map(({ net }) => net)
	const subtotal = sum(nets)
	note(() => ({ path: 'subtotal', amount: subtotal, how: { by: 'sum', nets } }))

	const discountable = input.lines.flatMap((line, index) => (line.discountable === false ? [] : [index]))
	const base = sum(discountable.map((index) => nets[index] ?? 0n))
	const discounts = input.given
		? input.given.discounts.map((amount, index) => takeRest(amount, `discounts.${index}`, 'discount', context))
		: takeDiscounts(input.discounts ?? [], base, 'discounts', 'the discountable lines', context)
	const discountTotal = sum(discounts)
	const shares = input.given
		? input.lines.map(({ given }) => parseAmount(given?.documentDiscount ?? '0', currency, 'given'))
		: spread(discountTotal, discountable, nets, base, context)

	const chargeBase = subtotal - discountTotal
	const charges = takeCharges(input.charges ?? [], chargeBase, context)
	const chargeTotal = sum(charges)

	const parts: Part[] = [
		...input.lines.map((line, index) => ({ amount: (nets[index] ?? 0n) - (shares[index] ?? 0n), code: line.taxCode })),
		...(input.charges ?? []).map((charge, index) => ({ amount: charges[index] ?? 0n, code: charge.taxCode })),
	]
	const taxes = input.given
		? restOfTaxes(input.given.taxes, context)
		: taxRows(parts, customerTax, input.pricesIncludeTax === true, context)
	const taxTotal = sum(taxes.map(({ tax }) => tax))
	const carried = subtotal - discountTotal + chargeTotal
	const net = input.pricesIncludeTax ? carried - taxTotal : carried
	const total = net + taxTotal
	const prepaid = parseAmount(input.prepaid ?? '0', currency, 'prepaid')
	const amountDue = total - prepaid
	noteTotals({ subtotal, discountTotal, chargeTotal, net, taxTotal, total, prepaid, amountDue }, input, context)
	return {
		currency,
		lines: priced.map((line, index) => ({ ...line, documentDiscount: shares[index] ?? 0n })),
		subtotal,
		discounts,
		discountTotal,
		charges,
		chargeTotal,
		taxes,
		net,
		taxTotal,
		total,
		prepaid,
		amountDue,
	}
}

function priceLine(line: PriceLine, path: string, context: Context) {
	const { currency, rates, rounding, note } = context
	const quantity = parseDecimal(line.quantity, `${path}.quantity`, 6)
	const unitPrice = parseDecimal(line.unitPrice, `${path}.unitPrice`, 6)
	if (unitPrice.units < 0n) {
		return refuse(`${path}.unitPrice`, 'A price cannot be below zero. For a return, make the quantity negative.')
	}
	const per = parseDecimal(line.pricePer ?? '1', `${path}.pricePer`, 6)
	if (per.units <= 0n) return refuse(`${path}.pricePer`, 'The quantity that a price is for must be above zero.')
	if (!rates.has(line.taxCode)) return refuseCode(line.taxCode, path)
	if (line.given) {
		const gross = takeRest(line.given.gross, `${path}.gross`, 'gross', context)
		const discount = parseAmount(line.given.discount, currency, path)
		const net = gross - discount
		note(() => ({ path: `${path}.net`, amount: net, how: { by: 'less', gross, discount } }))
		return { gross, discount, net }
	}

	const scale = quantity.scale + unitPrice.scale
	const numerator = quantity.units * unitPrice.units * pow10(per.scale + minorDigits(currency))
	const denominator = per.units * pow10(scale)
	const gross = roundQuotient(numerator, denominator, rounding)
	note(() => ({
		path: `${path}.gross`,
		amount: gross,
		how: { by: 'product', quantity, unitPrice, per, numerator, denominator },
	}))
	const discount = sum(
		takeDiscounts(line.discounts ?? [], gross, `${path}.discounts`, 'the gross of the line', context),
	)
	const net = gross - discount
	note(() => ({ path: `${path}.net`, amount: net, how: { by: 'less', gross, discount } }))
	return { gross, discount, net }
}

/** A figure that is what is left of the invoice's. */
function takeRest(text: string, path: string, of: string, { currency, note }: Context): bigint {
	const amount = parseAmount(text, currency, path)
	note(() => ({ path, amount, how: { by: 'rest', of } }))
	return amount
}

function restOfTaxes(rows: NonNullable<PriceInput['given']>['taxes'], context: Context): Priced['taxes'] {
	return rows
		.map(({ code, rate, base, tax }) => ({
			code,
			rate,
			base: parseAmount(base, context.currency, 'given'),
			tax: parseAmount(tax, context.currency, 'given'),
		}))
		.filter(({ base, tax }) => base !== 0n || tax !== 0n)
		.map((row, index) => {
			context.note(() => ({ path: `taxes.${index}.tax`, amount: row.tax, how: { by: 'rest', of: `tax ${row.code}` } }))
			return row
		})
}

const refuseCode = (code: string, path: string): never =>
	refuse(`${path}.taxCode`, `There is no tax code "${code}". Add it under Items and rates, or change the code.`)

function readPercent(value: string, path: string): Decimal {
	const percent = parseDecimal(value, path, 4)
	if (percent.units < 0n || percent.units > 100n * pow10(percent.scale)) {
		return refuse(path, `${value} is not a percent from 0 to 100.`)
	}
	return percent
}

/** One discount or charge on `base`: a percent is rounded by itself; an amount is as it is given. */
function takeShare(share: Discount, base: bigint, path: string, of: string, context: Context): bigint {
	const { currency, rounding, note } = context
	if ('percent' in share) {
		const percent = readPercent(share.percent, `${path}.percent`)
		const amount = percentOf(base, percent, rounding)
		note(() => ({ path, amount, how: { by: 'percent', percent, base, of } }))
		return amount
	}
	const amount = parseAmount(share.amount, currency, `${path}.amount`)
	if (amount < 0n) return refuse(`${path}.amount`, 'A discount or charge cannot be below zero.')
	return amount
}

function takeDiscounts(discounts: Discount[], base: bigint, path: string, of: string, context: Context): bigint[] {
	const taken = discounts.map((discount, index) => {
		const amount = takeShare(discount, base, `${path}.${index}`, of, context)
		if ('percent' in discount) return amount
		const signed = base < 0n ? -amount : amount
		context.note(() => ({ path: `${path}.${index}`, amount: signed, how: { by: 'amount', of, off: true } }))
		return signed
	})
	const total = sum(taken)
	if (size(total) > size(base)) {
		return refuse(
			path,
			`Discounts of ${context.text(total)} are more than the ${context.text(base)} they are taken on.`,
		)
	}
	return taken
}

function takeCharges(charges: Charge[], base: bigint, context: Context): bigint[] {
	return charges.map((charge, index) => {
		const path = `charges.${index}`
		if (!context.rates.has(charge.taxCode)) return refuseCode(charge.taxCode, path)
		const amount = takeShare(charge, base, path, 'net of lines and discounts', context)
		if ('amount' in charge) context.note(() => ({ path, amount, how: { by: 'amount', of: '', off: false } }))
		return amount
	})
}

/** The document discount's share of every line, 0 for a line that takes none. */
function spread(total: bigint, discountable: number[], nets: bigint[], base: bigint, context: Context): bigint[] {
	const { note } = context
	const shares = nets.map(() => 0n)
	allocateDiscount(
		total,
		discountable.map((index) => nets[index] ?? 0n),
	).forEach((share, place) => {
		const index = discountable[place]
		if (index === undefined) return
		shares[index] = share
		if (total === 0n) return
		note(() => ({
			path: `lines.${index}.documentDiscount`,
			amount: share,
			how: { by: 'share', total, net: nets[index] ?? 0n, base },
		}))
	})
	return shares
}

function taxRows(parts: Part[], customerTax: CustomerTax, included: boolean, context: Context): Priced['taxes'] {
	const { rates, rounding, perLine, note } = context
	if (customerTax !== 'standard') {
		const base = sum(parts.map(({ amount }) => amount))
		const code = customerTax === 'exempt' ? 'EXEMPT' : 'REVERSE'
		if (base === 0n) return []
		note(() => ({ path: 'taxes.0.tax', amount: 0n, how: { by: 'no tax', code, base } }))
		return [{ code, rate: '0', base, tax: 0n }]
	}
	const groups = new Map<string, bigint[]>()
	for (const { code, amount } of parts) groups.set(code, [...(groups.get(code) ?? []), amount])
	const rows: Priced['taxes'] = []
	for (const [code, amounts] of groups) {
		const rate = rates.get(code) ?? { units: 0n, scale: 0 }
		const hundred = 100n * pow10(rate.scale)
		const taxOf = (amount: bigint): bigint =>
			included
				? amount - roundQuotient(amount * hundred, hundred + rate.units, rounding)
				: percentOf(amount, rate, rounding)
		const amount = sum(amounts)
		const tax = perLine ? sum(amounts.map(taxOf)) : taxOf(amount)
		const base = included ? amount - tax : amount
		if (base === 0n && tax === 0n) continue
		const path = `taxes.${rows.length}.tax`
		rows.push({ code, rate: decimalText(rate), base, tax })
		note(() => ({
			path,
			amount: tax,
			how: { by: 'tax', code, rate, base: amount, parts: amounts.length, included, perLine },
		}))
	}
	return rows
}

type Totals = Omit<Priced, 'currency' | 'lines' | 'discounts' | 'charges' | 'taxes'>

function noteTotals(t: Totals, input: PriceInput, { note }: Context): void {
	const { subtotal, discountTotal: discounts, chargeTotal: charges } = t
	const taxWithin = input.pricesIncludeTax ? t.taxTotal : null
	note(() => ({ path: 'net', amount: t.net, how: { by: 'net', subtotal, discounts, charges, taxWithin } }))
	note(() => ({ path: 'total', amount: t.total, how: { by: 'total', net: t.net, tax: t.taxTotal } }))
	if (t.prepaid !== 0n)
		note(() => ({ path: 'amountDue', amount: t.amountDue, how: { by: 'due', total: t.total, prepaid: t.prepaid } }))
}

/** The figures with amounts as decimal text, the shape of CALCULATION's worked cases. */
export function pricedText(priced: Priced) {
	const text = (minor: bigint): string => amountText(minor, priced.currency)
	return {
		lines: priced.lines.map((line) => ({
			gross: text(line.gross),
			discount: text(line.discount),
			net: text(line.net),
			documentDiscount: text(line.documentDiscount),
		})),
		subtotal: text(priced.subtotal),
		discounts: priced.discounts.map(text),
		discountTotal: text(priced.discountTotal),
		charges: priced.charges.map(text),
		chargeTotal: text(priced.chargeTotal),
		taxes: priced.taxes.map(({ code, rate, base, tax }) => ({ code, rate, base: text(base), tax: text(tax) })),
		net: text(priced.net),
		taxTotal: text(priced.taxTotal),
		total: text(priced.total),
		prepaid: text(priced.prepaid),
		amountDue: text(priced.amountDue),
	}
}
export type PricedText = ReturnType<typeof pricedText>
