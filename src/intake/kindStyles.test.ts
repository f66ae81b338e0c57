import fc from 'fast-check'
import { expect, test } from 'vitest'
import { sourceOf } from '@/archive/source'
import { bytesOf, dayIn, figureIn, type Style, shuffled, styles } from '../../tests/tables'
import { walks } from '../../tests/walks'
import { parseTerms } from '../core/dueDate'
import type { SheetRow } from './cell'
import type { FileKind } from './kinds'
import { proposeReading, readSource } from './look'
import { type IntakeItem, readOpenItems } from './openItems'
import { type IntakePayment, takePayments } from './payments'
import type { Decided, Reading } from './reading'
import { type IntakeRecord, takeRecords } from './records'
import { type Rows, rowsOf } from './rows'
import { settled } from './settled'

// Records of every kind but orders, at random, in random styles of table: what was written is what is read, or the file is asked about.

type Column<Of> = { heads: string[]; write: (of: Of, style: Style) => string }
type Read = { rows: Rows; reading: Reading; decided: Decided }

/** Six names of a column, in English, German, French, Spanish, Dutch and Norwegian; one for all where there is but one. */
const named = <Of>(heads: string, write: Column<Of>['write']): Column<Of> => {
	const all = heads.split('/')
	return { heads: Array.from({ length: 6 }, (_, place) => all[place] ?? all[0] ?? ''), write }
}

/** Writes records as a table and reads it; null where something is asked. */
async function readBack<Of>(kind: FileKind, columns: Column<Of>[], list: Of[], style: Style): Promise<Read | null> {
	const turned = (row: string[]) => shuffled(row, row.length % 3 === 0 ? 0 : style.shuffled)
	const table = [
		...(style.title ? [['Skarvik Supply', '', ''], ['']] : []),
		turned(columns.map(({ heads }) => heads[style.language] ?? '')),
		...list.map((one) => turned(columns.map(({ write }) => write(one, style)))),
	]
	const kept: SheetRow[] = []
	const [head = [], ...cells] = style.title ? table.slice(2) : table
	// Some come as JSON, an object a record.
	const bytes = style.carried
		? Buffer.from(JSON.stringify(cells.map((row) => Object.fromEntries(row.map((cell, place) => [head[place], cell])))))
		: bytesOf(table, style)
	const look = await readSource(sourceOf('x.csv', bytes), { add: (row) => kept.push(row) })
	if (!look.ok) throw new Error(look.refusal.message)
	// The kind is found, or asked; it is never another.
	const found = proposeReading(look.value, [])
	if (!found.kindIsOpen) expect([found.reading.kind, found.reading.head]).toEqual([kind, found.reading.head])
	const { reading } = proposeReading(look.value, [], kind)
	const rows = rowsOf(kept)
	const decided = settled(rows, reading, look.value.evidence, [])
	return decided.questions.length > 0 ? null : { rows, reading, decided }
}

/** Holds a property of lists in styles, and that not all of them were asked about. */
async function holds<Of>(one: fc.Arbitrary<Of>, property: (list: Of[], style: Style) => Promise<boolean>) {
	let read = 0
	const runs = walks(60)
	await fc.assert(
		fc.asyncProperty(fc.array(one, { minLength: 2, maxLength: 9 }), styles, async (list, style) => {
			if (await property(list, style)) read++
		}),
		{ numRuns: runs },
	)
	expect(read).toBeGreaterThan(runs / 4)
}

const plain = (text: string): string => (text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text)
const cents = (minor: number): string => `${Math.floor(minor / 100)}.${String(minor % 100).padStart(2, '0')}`
const day = fc
	.tuple(fc.integer({ min: 2024, max: 2026 }), fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 28 }))
	.map(([year, month, date]) => `${year}-${String(month).padStart(2, '0')}-${String(date).padStart(2, '0')}`)
const currency = fc.constantFrom('GBP', 'EUR', 'NOK')
/** A sum with its currency before it, behind it, or without. */
const withCurrency = (figure: string, code: string, where: number): string =>
	where === 0 ? figure : where === 1 ? `${code} ${figure}` : `${figure} ${code}`
const unique = <Of extends { key: number }>(list: Of[]): Of[] => [
	...new Map(list.map((one) => [one.key, one])).values(),
]

const refusing = () => {
	const told: string[] = []
	return {
		told,
		refuse: ({ row, column, value, remedy }: { row: number; column: string; value: string; remedy: string }) =>
			told.push(`${row} ${column} ${value}: ${remedy}`),
		left: () => {},
	}
}
function recordsOf({ rows, reading, decided }: Read): { records: IntakeRecord['fields'][]; told: string[] } {
	const records: IntakeRecord['fields'][] = []
	const { told, ...out } = refusing()
	takeRecords(rows, reading, decided, { homeCurrency: 'GBP', currencyOf: () => undefined }, [], {
		...out,
		record: ({ fields }) => records.push(fields),
	})
	return { records, told }
}

test('customers: terms in words, limits with their currency, discounts and several addresses for mail', async () => {
	const customer = fc.record({
		key: fc.integer({ min: 10_000, max: 99_999 }),
		name: fc.constantFrom('Fjord & Sønn', 'Hafen "Nord"', 'Marée, SARL', 'Åse; Ltd'),
		terms: fc.constantFrom(
			['30 days', { net: 30 }],
			['30 Tage netto', { net: 30 }],
			['net 30 EOM', { net: 30, endOfMonth: true }],
			['14 dagen', { net: 14 }],
			['60 jours fin de mois', { net: 60, endOfMonth: true }],
			['on receipt', { net: 0 }],
			['15th of next month', { dayOfMonth: 15, monthsAfter: 1 }],
		),
		limit: fc.option(fc.integer({ min: 100, max: 99_999_999 })),
		discount: fc.integer({ min: 0, max: 40 }),
		currency,
		where: fc.nat(2),
		mail: fc.constantFrom('', 'post@skarvik.example', 'a@skarvik.example, b@skarvik.example'),
	})
	type Customer = typeof customer extends fc.Arbitrary<infer T> ? T : never
	const columns: Column<Customer>[] = [
		named('Customer Number/Kundennummer/N° client/Número de cliente/Klantnummer/Kundenummer', ({ key }) => `${key}`),
		named('Customer Name/Kundenname/Nom du client/Nombre del cliente/Klantnaam/Kundenavn', ({ name }) => name),
		named(
			'Payment terms/Zahlungsbedingungen/Conditions de paiement/Condiciones de pago/Betalingstermijn/Betalingsbetingelser',
			({ terms }) => terms[0] as string,
		),
		named('Currency/Währung/Devise/Moneda/Valuta/Valuta', (one) => one.currency),
		named(
			'Credit limit/Kreditlimit/Limite de crédit/Límite de crédito/Kredietlimiet/Kredittgrense',
			({ limit, currency: code, where }, style) =>
				limit === null ? '' : withCurrency(figureIn(cents(limit), style), code, where),
		),
		named('Standing discount %', ({ discount }) => `${discount}`),
		named('Email/E-Mail/Courriel/Correo/E-mail/Epost', ({ mail }) => mail),
	]
	await holds(customer, async (given, style) => {
		const list = unique(given)
		const read = await readBack('customers', columns, list, style)
		if (!read) return false
		const { records, told } = recordsOf(read)
		expect(told).toEqual([])
		expect(records.map((fields) => ({ ...fields, terms: parseTerms(String(fields.terms)) }))).toEqual(
			list.map((one) => ({
				...{ number: `${one.key}`, name: one.name, terms: one.terms[1], currency: one.currency },
				...{ credit_limit: one.limit, discount: `${one.discount}`, email: one.mail },
			})),
		)
		return true
	})
})

test('items: prices with their currency and for a number of units', async () => {
	const item = fc.record({
		key: fc.integer({ min: 1, max: 9999 }),
		text: fc.constantFrom('Rope, 12 mm', 'Sjakkel; galv.', 'Bouée "A"', 'Tau'),
		price: fc.integer({ min: 1, max: 9_999_999 }),
		per: fc.constantFrom('1', '100', '1000'),
		currency,
		where: fc.nat(2),
	})
	type Item = typeof item extends fc.Arbitrary<infer T> ? T : never
	const columns: Column<Item>[] = [
		named(
			'Item Code/Artikelnummer/Référence article/Código de artículo/Artikelnummer/Varenummer',
			({ key }) => `P${key}`,
		),
		named('Description/Bezeichnung/Désignation/Descripción/Omschrijving/Beskrivelse', ({ text }) => text),
		named('Unit/Einheit/Unité/Unidad/Eenheid/Enhet', () => 'm'),
		named(
			'Unit Price/Einzelpreis/Prix unitaire/Precio unitario/Stukprijs/Enhetspris',
			({ price, currency: code, where }, style) => withCurrency(figureIn(cents(price), style), code, where),
		),
		named('Price per/Preiseinheit/Prix par/Precio por/Prijs per/Pris per', ({ per }) => per),
	]
	await holds(item, async (given, style) => {
		const list = unique(given).map((one) => ({ ...one, where: one.where || 1 }))
		const read = await readBack('items', columns, list, style)
		if (!read) return false
		const { records, told } = recordsOf(read)
		expect(told).toEqual([])
		expect(records).toEqual(
			list.map((one) => ({
				...{ code: `P${one.key}`, description: one.text, unit: 'm' },
				...{ unit_price: cents(one.price), price_per: one.per, currency: one.currency },
			})),
		)
		return true
	})
})

test('tax codes: a rate is a percent; what may be a share of one is refused with both', async () => {
	const rate = fc.record({
		key: fc.nat(999),
		hundredths: fc.integer({ min: 0, max: 9900 }),
		from: day,
		signed: fc.boolean(),
	})
	type Rate = typeof rate extends fc.Arbitrary<infer T> ? T : never
	const columns: Column<Rate>[] = [
		named('Tax code/Steuercode/Code TVA/Código IVA/BTW code/MVA kode', ({ key }) => `T${key}`),
		named('Name/Bezeichnung/Libellé/Description/Omschrijving/Beskrivelse', ({ key }) => `Rate ${key}`),
		named('Rate/Satz/Taux/Tipo/Tarief/Sats', ({ hundredths, signed }, style) => {
			const figure = figureIn(plain(cents(hundredths)), { ...style, thousands: '' })
			return signed ? `${figure} %` : figure
		}),
		named('Valid from/Gültig ab/À partir de/Desde/Vanaf/Fra', ({ from }, style) => dayIn(from, style.days)),
	]
	await holds(rate, async (given, style) => {
		const list = unique(given)
		const read = await readBack('tax codes', columns, list, style)
		if (!read) return false
		const { records, told } = recordsOf(read)
		const isOpen = ({ hundredths, signed }: Rate) => hundredths > 0 && hundredths < 100 && !signed
		expect(told.length).toBe(list.filter(isOpen).length)
		for (const one of told)
			expect(one).toMatch(/It may be a percent or a share\. Write it with a percent sign, 0\.\d+% or \d+%/)
		expect(records).toEqual(
			list
				.filter((one) => !isOpen(one))
				.map((one) => ({
					...{ code: `T${one.key}`, name: `Rate ${one.key}` },
					...{ rate: plain(cents(one.hundredths)), from_day: one.from },
				})),
		)
		return true
	})
})

test('payments: sums with their currency, in the customer’s where none is named', async () => {
	const payment = fc.record({
		customer: fc.constantFrom('A1', 'B1'),
		day,
		amount: fc.integer({ min: 1, max: 99_999_999 }),
		currency,
		where: fc.nat(2),
		reference: fc.constantFrom('SK-1001', 'SK-1001, SK-1002', 'inv. 7; rest later', ''),
	})
	type Payment = typeof payment extends fc.Arbitrary<infer T> ? T : never
	const columns: Column<Payment>[] = [
		named('Payment date/Buchungstag/Date/Fecha/Datum/Bokføringsdato', (one, style) => dayIn(one.day, style.days)),
		named('Customer Number/Kundennummer/N° client/Número de cliente/Klantnummer/Kundenummer', (one) => one.customer),
		named('Amount/Betrag/Montant/Importe/Bedrag/Beløp', ({ amount, currency: code, where }, style) =>
			withCurrency(figureIn(cents(amount), style), code, where),
		),
		named('Reference/Verwendungszweck/Référence/Concepto/Omschrijving/Melding', ({ reference }) => reference),
	]
	await holds(payment, async (list, style) => {
		const read = await readBack('payments', columns, list, style)
		if (!read) return false
		const { told, ...out } = refusing()
		const found: IntakePayment[] = []
		takePayments(
			read.rows,
			read.reading,
			read.decided,
			{
				...{ homeCurrency: 'GBP', likely: () => [], before: () => null, whyNotOn: () => null, today: '2026-12-31' },
				customer: (number) => (number === 'A1' ? { id: 1, currency: 'GBP' } : { id: 2, currency: 'EUR' }),
			},
			{ ...out, payment: (one) => found.push(one) },
		)
		expect(told).toEqual([])
		const own = { A1: { id: 1, code: 'GBP' }, B1: { id: 2, code: 'EUR' } }
		expect(found.map(({ row, ...one }) => one)).toEqual(
			list.map((one) => ({
				...{ customerId: own[one.customer].id, day: one.day, amount: one.amount, reference: one.reference },
				currency: one.where === 0 ? own[one.customer].code : one.currency,
			})),
		)
		return true
	})
})

test('open items: what is owed and what is credited by their signs, however these are written', async () => {
	const item = fc.record({
		key: fc.integer({ min: 1000, max: 9999 }),
		kind: fc.constantFrom('invoice', 'credit', 'adjustment'),
		amount: fc.integer({ min: 2, max: 9_999_999 }),
		part: fc.integer({ min: 1, max: 100 }),
		minus: fc.constantFrom('-n', 'n-', '(n)', '−n', 'n CR'),
		negative: fc.boolean(),
		day,
		currency,
		/** The currency's own column, the sums, or both; at odds now and then. */
		says: fc.constantFrom('column', 'sums', 'both', 'odd'),
	})
	type Item = typeof item extends fc.Arbitrary<infer T> ? T : never
	const open = ({ amount, part }: Item) => Math.max(1, Math.floor((amount * part) / 100))
	const sum = (minor: number, one: Item, style: Style): string => {
		const figure = figureIn(cents(minor), style)
		const mark = /latin1|dos/.test(style.encoding) ? one.minus.replace('−', '-') : one.minus
		const signed = one.negative ? mark.replace('n', figure) : figure
		const code = one.says === 'odd' ? (one.currency === 'EUR' ? 'GBP' : 'EUR') : one.currency
		return one.says === 'column' || one.minus === 'n CR' || one.minus === '(n)' ? signed : `${code} ${signed}`
	}
	const bears = (one: Item) => one.says !== 'column' && one.minus !== 'n CR' && one.minus !== '(n)'
	const columns: Column<Item>[] = [
		named('Customer Number/Kundennummer/N° client/Número de cliente/Klantnummer/Kundenummer', () => 'A1'),
		named(
			'Document number/Belegnummer/Numéro de facture/Número de factura/Factuurnummer/Fakturanummer',
			({ key }) => `${key}`,
		),
		named('Kind/Belegart/Type/Tipo/Soort/Type', ({ kind }) => kind),
		named('Document date/Belegdatum/Date de facture/Fecha de factura/Factuurdatum/Fakturadato', (one, style) =>
			dayIn(one.day, style.days),
		),
		named('Due date/Fälligkeit/Échéance/Vencimiento/Vervaldatum/Forfallsdato', (one, style) =>
			dayIn(one.day, style.days),
		),
		named('Amount/Betrag/Montant/Importe/Bedrag/Beløp', (one, style) => sum(one.amount, one, style)),
		named('Open amount/Offener Betrag/Reste dû/Pendiente/Openstaand/Restbeløp', (one, style) =>
			sum(open(one), one, style),
		),
		named('Currency/Währung/Devise/Moneda/Valuta/Valuta', (one) =>
			one.says === 'sums' && bears(one) ? '' : one.currency,
		),
	]
	await holds(item, async (given, style) => {
		const list = unique(given)
		const read = await readBack('open items', columns, list, style)
		if (!read) return false
		const books = { customer: () => ({ id: 1, currency: 'GBP' }) }
		const { items, refused, signs } = readOpenItems(read.rows, read.reading, read.decided, books, 'GBP')
		const odd = (one: Item) => one.says === 'odd' && bears(one)
		expect(new Set(refused.map(({ row }) => row)).size).toBe(list.filter(odd).length)
		for (const { remedy } of refused) expect(remedy).toMatch(/but the row's currency is/)
		const brief = ({ number, kind, side, amount, open: left, currency: code }: IntakeItem) =>
			[number, kind, side, amount, left, code].join(' ')
		const taken = list.filter((one) => !odd(one))
		const notes = taken.filter(({ kind }) => kind === 'credit')
		// Where none of the credits has a sign, nothing says who owes them: that is asked.
		const stand = notes.length === 0 || notes.some(({ negative }) => negative)
		expect(signs).toBe(stand ? 'as they stand' : null)
		expect(items.map(brief)).toEqual(
			taken.map((one) => {
				const side = one.negative || (!stand && one.kind === 'credit') ? 'credit' : 'debit'
				return [one.key, one.kind, side, one.amount, open(one), one.currency].join(' ')
			}),
		)
		return true
	})
})
