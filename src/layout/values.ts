import { minorDigits } from '@/core/currency'
import { type Decimal, decimalText, parseDecimal, pow10, roundQuotient } from '@/core/decimal'
import { formatAmount, formatDayAs, formatDecimal, formatFixed, formatMoney, formatPercent } from '@/core/format'
import type { OwnField } from '@/core/ownFields'
import { FieldMap, type Fields, fieldsByKey, ownFieldAt, ownKeysOf, placesOf, recordOf } from './fields'
import type { At, Field, Raw } from './fieldTypes'
import { sayIn } from './languages'
import type { Reckoned } from './reckoned'
import type { Condition, Format, Inline, Test } from './schemaParts'

// Values of fields: read, compared, reckoned and written.

/** The fields that a layout can use: the catalogue's, the firm's own, and those that it reckons. */
export function fieldsOf(layout: { reckoned: readonly Reckoned[] }, ownFields: readonly OwnField[] = []): Fields {
	if (layout.reckoned.length === 0 && ownFields.length === 0) return fieldsByKey
	const fields = new FieldMap(fieldsByKey)
	for (const key of ownFields.flatMap(ownKeysOf)) {
		const field = ownFieldAt(key, ownFields)
		if (field) fields.set(key, field)
	}
	for (const reckoned of layout.reckoned) {
		const field = reckonedField(reckoned, fields)
		fields.set(field.key, field)
	}
	return fields
}

const decimal = (raw: Raw): Decimal | null =>
	typeof raw === 'string' && /^-?\d+(\.\d+)?$/.test(raw) ? parseDecimal(raw, 'figure', 20) : null
const upTo = (value: Decimal, scale: number): bigint => value.units * pow10(scale - value.scale)
const sum = (a: Decimal, b: Decimal): Decimal => {
	const scale = Math.max(a.scale, b.scale)
	return { units: upTo(a, scale) + upTo(b, scale), scale }
}
/** Below, at or above 0, as a is below, at or above b. */
function compareDecimals(a: Decimal, b: Decimal): number {
	const scale = Math.max(a.scale, b.scale)
	const difference = upTo(a, scale) - upTo(b, scale)
	return difference < 0n ? -1 : difference > 0n ? 1 : 0
}
const rounded = ({ units, scale }: Decimal, decimals: number): string =>
	decimalText(
		scale <= decimals
			? { units, scale }
			: { units: roundQuotient(units, pow10(scale - decimals), 'half-away'), scale: decimals },
		decimals,
	)

/** A field that a layout puts together, by exact arithmetic; empty where a part of it is. */
function reckonedField({ key, name, how }: Reckoned, fields: Fields): Field {
	const base = { key: `reckoned.${key}`, name, group: 'Reckoned', of: 'paper' as const }
	if (how.is === 'joined') {
		const parts = compileInlines(how.parts, fields)
		return { ...base, type: 'text', read: (at) => joined(parts, at) }
	}
	if (how.is === 'count') {
		const only = compileCondition(how.only, fields)
		const count = placesOf[how.of]
		return {
			...base,
			type: 'count',
			read: (at) => String(places(count?.(at.content) ?? 0).filter((place) => only({ ...at, place })).length),
		}
	}
	const of = fields.get(how.of)
	if (how.is === 'sum' || how.is === 'least' || how.is === 'most') {
		const only = compileCondition(how.only, fields)
		const source = Object.entries(recordOf).find(([, record]) => record === of?.of)?.[0] ?? ''
		return {
			...base,
			type: of?.type ?? 'number',
			read: (at) => {
				const values = places(placesOf[source]?.(at.content) ?? 0)
					.filter((place) => only({ ...at, place }))
					.flatMap((place) => decimal(of?.read({ ...at, place }) ?? '') ?? [])
				if (how.is === 'sum') return decimalText(values.reduce(sum, { units: 0n, scale: 0 }), moneyScale(of, at))
				const wanted = how.is === 'least' ? -1 : 1
				const [first, ...rest] = values
				if (!first) return ''
				return decimalText(
					rest.reduce((kept, one) => (compareDecimals(one, kept) === wanted ? one : kept), first),
					moneyScale(of, at),
				)
			},
		}
	}
	if (!('by' in how)) throw new Error(`There is no way to reckon "${name}".`)
	const { by, is, decimals } = how
	const other = 'field' in by ? fields.get(by.field) : undefined
	return {
		...base,
		of: of?.of === 'paper' ? (other?.of ?? 'paper') : (of?.of ?? 'paper'),
		type: is === 'share' ? 'percent' : is === 'times' ? 'number' : (of?.type ?? 'number'),
		read: (at) => {
			const a = decimal(of?.read(at) ?? '')
			const b = decimal('figure' in by ? by.figure : (other?.read(at) ?? ''))
			if (!a || !b) return ''
			if (is === 'plus') return rounded(sum(a, b), decimals)
			if (is === 'minus') return rounded(sum(a, { ...b, units: -b.units }), decimals)
			if (is === 'times') return rounded({ units: a.units * b.units, scale: a.scale + b.scale }, decimals)
			if (b.units === 0n) return ''
			const quotient = roundQuotient(a.units * 100n * pow10(b.scale + decimals), b.units * pow10(a.scale), 'half-away')
			return decimalText({ units: quotient, scale: decimals }, decimals)
		},
	}
}

const places = (count: number): number[] => Array.from({ length: count }, (_, place) => place)
const moneyScale = (of: Field | undefined, { content }: At) =>
	of?.type === 'money' ? minorDigits(content.currency) : 0

const emptyRaw = (raw: Raw): boolean => (typeof raw === 'string' ? raw.trim() === '' : raw.length === 0)
const plain = (raw: Raw): string => (typeof raw === 'string' ? raw : raw.join('\n'))

/** How two values stand to each other: by figure where both are figures, else by the letters, whatever their case. */
export function compareRaw(a: Raw, b: Raw): number {
	const [left, right] = [decimal(a), decimal(b)]
	if (left && right) return compareDecimals(left, right)
	const [one, other] = [plain(a), plain(b)]
	return collator.compare(one, other)
}
const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

function holds({ is, value = '', values = [] }: Test, raw: Raw): boolean {
	if (is === 'empty') return emptyRaw(raw)
	if (is === 'not empty') return !emptyRaw(raw)
	if (is === 'is') return compareRaw(raw, value) === 0
	if (is === 'is not') return compareRaw(raw, value) !== 0
	if (is === 'one of') return values.some((one) => compareRaw(raw, one) === 0)
	// What is empty, or no figure beside one, is neither above nor below.
	if (emptyRaw(raw) || (decimal(value) !== null && decimal(raw) === null)) return false
	return is === 'above' ? compareRaw(raw, value) > 0 : compareRaw(raw, value) < 0
}

/** Whether a condition holds; always without one. A test of a field that there is not holds never. */
export function compileCondition(condition: Condition | undefined, fields: Fields): (at: At) => boolean {
	if (!condition) return () => true
	const tests = ('all' in condition ? condition.all : condition.any).map((test) => {
		const field = fields.get(test.field)
		return (at: At) => field !== undefined && holds(test, field.read(at))
	})
	return 'all' in condition ? (at) => tests.every((test) => test(at)) : (at) => tests.some((test) => test(at))
}

/** A condition as a sentence that reads aloud: "the customer's tax treatment is reverse charge and …". */
export function conditionWords(condition: Condition, fields: Fields): string {
	const tests = 'all' in condition ? condition.all : condition.any
	return tests.map((test) => testWords(test, fields)).join('all' in condition ? ' and ' : ' or ')
}

const subjects: Record<string, string> = { Customer: 'the customer’s ', 'The firm': 'the firm’s ' }
function testWords({ field: key, is, value = '', values = [] }: Test, fields: Fields): string {
	const field = fields.get(key)
	const subject = field ? `${subjects[field.group] ?? ''}${field.name.toLowerCase()}` : `“${key}”, which there is not,`
	const named = (one: string) => field?.values?.find(([own]) => own === one)?.[1] ?? (one || 'nothing')
	if (is === 'empty' || is === 'not empty') return `${subject} is ${is}`
	if (is === 'one of') return `${subject} is one of ${values.map(named).join(', ')}`
	return `${subject} ${is === 'is' || is === 'is not' ? is : `is ${is}`} ${named(value)}`
}

/** A value in the customer's culture and the format of its place. Days and figures that are none are written as they are. */
export function writeValue(raw: Raw, field: Field, format: Format | undefined, { content }: At): string {
	const written = writeText(plain(raw), field, format, content)
	return format?.upper ? written.toLocaleUpperCase(content.locale) : written
}

function writeText(
	text: string,
	{ type }: Field,
	format: Format | undefined,
	{ locale, currency }: { locale: string; currency: string },
): string {
	if (text === '' || type === 'text' || type === 'lines' || type === 'picture') return text
	if (type === 'day') return /^\d{4}-\d\d-\d\d$/.test(text) ? formatDayAs(text, format?.day ?? 'short', locale) : text
	if (!/^-?\d+(\.\d+)?$/.test(text)) return text
	const figure = format?.turned && !/^[0.]*$/.test(text) ? (text.startsWith('-') ? text.slice(1) : `-${text}`) : text
	const decimals = format?.decimals
	if (type === 'percent') return formatPercent(figure, locale, decimals)
	if (type === 'money') {
		const sign = format?.money ?? 'sign'
		const fine = figure.split('.')[1]?.length ?? 0
		const exact = decimals ?? Math.max(fine, minorDigits(currency))
		if (sign === 'sign' && exact === minorDigits(currency)) return formatMoney(figure, currency, locale)
		const amount = decimals === undefined ? formatAmount(figure, locale) : formatFixed(figure, decimals, locale)
		return sign === 'none' ? amount : `${currency}\u00a0${amount}`
	}
	if (decimals !== undefined) return formatFixed(figure, decimals, locale)
	return formatDecimal(figure, locale, type === 'price' ? minorDigits(currency) : 0)
}

/** A run of text or a field, ready to be written for any paper. */
export type CompiledInline = {
	inline: Inline
	isField: boolean
	/** Null for a field without a value, and without words for that. */
	write: (at: At) => string | null
}

/** Text and fields made ready to be written on any paper. */
export const compileInlines = (inlines: readonly Inline[], fields: Fields): CompiledInline[] =>
	inlines.map((inline) => compileInline(inline, fields))

function compileInline(inline: Inline, fields: Fields): CompiledInline {
	if ('text' in inline) {
		const said = inline.text
		return { inline, isField: false, write: (at) => sayIn(said, at.languages) }
	}
	const field = fields.get(inline.field)
	const { empty: instead, before, after, format } = inline
	const none = (at: At) => (instead === undefined ? null : sayIn(instead, at.languages))
	// A field that there is not is found by the check, which lets no such layout be released; it is empty until then.
	if (!field) return { inline, isField: true, write: none }
	const around = before !== undefined || after !== undefined
	return {
		inline,
		isField: true,
		write: (at) => {
			const raw = field.read(at)
			if (emptyRaw(raw)) return none(at)
			const written = writeValue(raw, field, format, at)
			return around ? sayIn(before ?? '', at.languages) + written + sayIn(after ?? '', at.languages) : written
		},
	}
}

/** What runs of text and fields come to, joined; empty where they name fields and all are empty. */
export const joined = (inlines: readonly CompiledInline[], at: At): string =>
	writeAll(inlines, at)
		?.map((text) => text ?? '')
		.join('') ?? ''

/** Each run's text; null when they name fields and all are empty, since then their words have nothing to stand beside. */
export function writeAll(inlines: readonly CompiledInline[], at: At): (string | null)[] | null {
	let [fields, found] = [false, false]
	const texts = inlines.map((one) => {
		const text = one.write(at)
		if (one.isField) {
			fields = true
			if (text !== null) found = true
		}
		return text
	})
	return fields && !found ? null : texts
}

/** An example of a field, from a real paper; empty where it has none. */
export function exampleOf(field: Field, at: At): string {
	if (field.type === 'picture') return plain(field.read(at)) ? 'a picture' : ''
	return writeValue(field.read({ ...at, place: Math.max(at.place, 0), row: 1 }), field, undefined, at)
}
