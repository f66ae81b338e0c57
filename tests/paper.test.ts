import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { BillContent } from '@/core/document'
import type { StatementContent } from '@/core/statement'
import { type AnyContent, textsOf } from '@/kinds'
import { type LookName, look, lookNames, made } from './looks'
import { invoice } from './support'
import { walks } from './walks'

// Whatever stands on a paper: nothing overlaps, nothing leaves it, nothing is missing. Judged from the PDF, by the boxes of its words.

type Word = { page: number; text: string; left: number; top: number; right: number; bottom: number }
const entities: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"', '&apos;': "'" }

async function wordsOf(content: AnyContent, name: LookName): Promise<Word[]> {
	const { bytes } = await made(content, name)
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-paper-'))
	const file = join(folder, 'paper.pdf')
	writeFileSync(file, bytes)
	const html = execFileSync('pdftotext', ['-bbox', file, '-'], { maxBuffer: 1 << 28 }).toString()
	rmSync(folder, { recursive: true, force: true })
	const words: Word[] = []
	let page = 0
	for (const line of html.split('\n')) {
		if (line.includes('<page ')) page++
		const match = /<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">(.*)<\/word>/.exec(line)
		if (!match) continue
		const [left = 0, top = 0, right = 0, bottom = 0] = match.slice(1, 5).map(Number)
		const text = (match[5] ?? '').replace(/&\w+;/g, (entity) => entities[entity] ?? entity)
		// The mark of a draft lies behind the text on purpose; its letters are turned, and very high.
		if (bottom - top < 50) words.push({ page, text, left, top, right, bottom })
	}
	return words
}

/** Pairs of words whose boxes share more than a hair: boxes are as high as the face, letters are not. */
function overlaps(words: Word[]): string[] {
	const found: string[] = []
	const pages = [...new Set(words.map(({ page }) => page))]
	const byPage = pages.map((page) => words.filter((word) => word.page === page))
	for (const own of byPage) {
		own.sort((a, b) => a.top - b.top)
		own.forEach((one, index) => {
			for (let next = index + 1; next < own.length; next++) {
				const other = own[next]
				if (!other || other.top >= one.bottom) break
				const across = Math.min(one.right, other.right) - Math.max(one.left, other.left)
				const down = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top)
				const height = Math.min(one.bottom - one.top, other.bottom - other.top)
				if (across > 0.6 && down > 0.35 * height) found.push(`page ${one.page}: "${one.text}" and "${other.text}"`)
			}
		})
	}
	return found
}

function outside(words: Word[], { layout, paper }: ReturnType<typeof look>): string[] {
	const { margins } = layout.page
	return words
		.filter(
			({ left, right, top, bottom }) =>
				left < margins.left - 1 ||
				right > paper.width - margins.right + 1 ||
				top < margins.top - 8 ||
				bottom > paper.height - margins.bottom + 8,
		)
		.map(({ page, text, right, bottom }) => `page ${page}: "${text}" to ${right}, ${bottom}`)
}
const looks = fc.constantFrom(...lookNames)

/** Words of texts that are nowhere: neither whole, nor broken into pieces that are there. */
function missing(texts: string[], words: Word[]): string[] {
	const there = new Set(words.flatMap(({ text }) => [text, text.replace(/^\(|\)$/g, '')]))
	const longest = Math.max(...words.map(({ text }) => text.length))
	const found = (word: string): boolean => {
		if (there.has(word)) return true
		const reached = [true]
		for (let end = 1; end <= word.length; end++)
			for (let start = Math.max(0, end - longest); start < end && !reached[end]; start++)
				reached[end] = reached[start] === true && there.has(word.slice(start, end))
		return reached[word.length] === true
	}
	return [...new Set(texts.flatMap((text) => text.split(/\s+/).filter(Boolean)))].filter((word) => !found(word))
}

const letters = 'abcdefghiklmnoprstuvwyøłé'
const word = fc.string({ unit: fc.constantFrom(...letters), minLength: 1, maxLength: 14 })
const long = fc.string({ unit: fc.constantFrom(...letters, '0', '7', '-'), minLength: 30, maxLength: 90 })
const some = (most: number) =>
	fc.array(fc.oneof({ weight: 12, arbitrary: word }, { weight: 1, arbitrary: long }), { minLength: 1, maxLength: most })
const text = (most: number) => some(most).map((words) => words.join(' '))
const addresses = fc.array(text(5), { minLength: 1, maxLength: 10 })
const money = fc.oneof(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 900_000_000, max: 999_999_999_999 }))
const line = fc.record({
	description: fc.oneof({ weight: 9, arbitrary: text(12) }, { weight: 1, arbitrary: text(700) }),
	item: fc.oneof(word, long),
	unit: fc.constantFrom('m', 'each', 'kilogram', 'cubic metres'),
	quantity: fc.constantFrom('1', '2', '12.5', '1234.5678', '-3'),
	price: money.map((pence) => (pence / 100).toFixed(2)),
	pricePer: fc.constantFrom('1', '100', '1234.5678'),
	discountPercent: fc.constantFrom('0', '0', '33.3333'),
	taxCode: fc.constantFrom('STD', 'STANDARD', 'ZERO', 'REDUCED-RATE-2026'),
})
const names: Record<string, string> = { STD: '20', STANDARD: '20', ZERO: '0', 'REDUCED-RATE-2026': '5.25' }

const bill = fc
	.record({
		lines: fc.oneof(fc.array(line, { minLength: 1, maxLength: 6 }), fc.array(line, { minLength: 18, maxLength: 70 })),
		...{
			issuer: text(6),
			address: addresses,
			bank: addresses,
			closing: text(40),
			customer: text(8),
			theirs: addresses,
		},
		...{ order: fc.oneof(word, long), purchaseOrder: fc.oneof(word, long), taxName: text(5), reason: text(30) },
		...{
			customerNumber: fc.oneof(word, long),
			terms: text(6),
			discount: fc.constantFrom('', 'Fair', 'A discount with a long name'),
		},
		...{ freight: fc.boolean(), numbered: fc.boolean(), kind: fc.constantFrom('invoice', 'credit-note') },
	})
	.map((given): BillContent => {
		const { lines, kind } = given
		const base = invoice(
			lines.map(({ quantity, price, discountPercent, taxCode, description }) => ({
				...{ quantity: kind === 'invoice' ? quantity.replace('-', '') : quantity, unitPrice: price, discountPercent },
				...{ taxCode, description },
			})),
			{
				taxCodes: Object.entries(names).map(([code, rate]) => ({ code, rate, name: given.taxName })),
				discounts: given.discount ? [{ label: given.discount, percent: '2.5' }] : [],
				charges: given.freight ? [{ label: 'Freight', order: 0, taxCode: 'STD', amount: '1234567.89' }] : [],
			},
		)
		return {
			...base,
			kind: kind === 'invoice' ? 'invoice' : 'credit-note',
			number: given.numbered ? 'T-0041' : '',
			terms: given.terms,
			reason: kind === 'invoice' ? '' : given.reason,
			refersTo: kind === 'invoice' ? null : { number: 'T-0040', day: '2026-10-01' },
			supply: { from: '2026-09-01', to: '2026-10-03' },
			issuer: {
				...base.issuer,
				...{ name: given.issuer, address: given.address, bank: given.bank, closingWords: given.closing },
			},
			customer: { ...base.customer, name: given.customer, address: given.theirs, number: given.customerNumber },
			orders: base.orders.map((order) => ({ ...order, number: given.order, purchaseOrder: given.purchaseOrder })),
			lines: base.lines.map((own, place) => ({
				...own,
				...{ item: lines[place]?.item ?? '', unit: lines[place]?.unit ?? '', pricePer: lines[place]?.pricePer ?? '1' },
			})),
		}
	})

/** Texts that must be on it: of the tax codes, those that have a row; terms and bank only where something is to be paid. */
function printedOn(content: BillContent): string[] {
	const rows = new Set(content.priced.taxes.map(({ code }) => code))
	const unused = content.taxCodes.filter(
		({ code }) => !rows.has(code) && !content.lines.some((own) => own.taxCode === code),
	)
	const paid = !content.priced.amountDue.startsWith('-') && Number(content.priced.amountDue) !== 0
	const left = [
		...unused.flatMap(({ code }) => [code]),
		...(content.kind === 'invoice' ? [] : [content.terms]),
		...(paid ? [] : content.issuer.bank),
		...(rows.size > 0 ? [] : content.taxCodes.map(({ name }) => name)),
	]
	return textsOf(content).filter((own) => !left.includes(own))
}

test('an invoice or credit note, whatever stands on it', async () => {
	await fc.assert(
		fc.asyncProperty(bill, looks, async (content, name) => {
			const words = await wordsOf(content, name)
			expect(overlaps(words)).toEqual([])
			expect(outside(words, look(content.kind, name))).toEqual([])
			expect(missing(printedOn(content), words)).toEqual([])
			// No nought below zero, but for a piece of what was given.
			const given = textsOf(content).join(' ')
			const below = words.map(({ text }) => text).filter((own) => /^[-−][0.,]+$/.test(own) && !given.includes(own))
			expect(below).toEqual([])
			// Totals stand on a page with the last line, or its end.
			const total = words.filter(({ text }) => text === 'Total').at(-1)
			const last = content.lines.at(-1)?.description.split(' ').at(-1) ?? ''
			const beside = words.filter(({ page }) => page === total?.page)
			expect(missing([last], beside)).toEqual([])
		}),
		{ numRuns: walks(10), endOnFailure: true },
	)
})

const item = fc.record({ number: fc.oneof(word, long), theirOrder: text(8), pence: money, late: fc.boolean() })
const statement = fc
	.record({
		items: fc.array(item, { minLength: 1, maxLength: 60 }),
		...{
			issuer: text(6),
			address: addresses,
			bank: addresses,
			closing: text(40),
			customer: text(10),
			theirs: addresses,
		},
		...{ form: fc.constantFrom('open items' as const, 'balance forward' as const), bucket: money },
	})
	.map(({ items, ...given }): StatementContent => {
		const base = invoice([{ quantity: '1', unitPrice: '1' }])
		const amount = (pence: number) => (pence / 100).toFixed(2)
		const names = ['not due', '1-30', '31-60', '61-90', 'over 90']
		return {
			...{
				kind: 'statement',
				layout: { name: 'statement', version: 2, id: 0, own: false },
				number: 'S-1',
				revision: 1,
			},
			...{ day: '2026-10-31', dueDay: '2026-10-31', currency: 'GBP', locale: 'en-GB' },
			issuer: {
				...base.issuer,
				...{ name: given.issuer, address: given.address, bank: given.bank, closingWords: given.closing },
			},
			customer: { ...base.customer, name: given.customer, address: given.theirs },
			...{ form: given.form, show: 'all', credits: 'apart', since: '2026-10-01', opening: '0.00' },
			items: items.map(({ number, theirOrder, pence, late }, id) => ({
				...{ id, kind: 'invoice', number, day: '2026-08-01', due: '2026-09-01', theirOrder, amount: amount(pence) },
				...{ open: amount(pence), daysPastDue: late ? 61 : 0, pastDue: late, disputed: false },
			})),
			movements: items.map(({ number, pence }) => ({
				...{ day: '2026-10-05', words: `invoice ${number}`, change: amount(pence), balance: amount(pence) },
			})),
			buckets: names.map((name) => ({ name, amount: amount(given.bucket) })),
			...{ pastDue: '12.00', disputed: '3.00', unapplied: '4.00', balance: amount(given.bucket) },
			...{ total: amount(given.bucket), oldest: 61, charge: null, letter: 'statement', spared: '' },
			...{ asked: '8.00', promised: '1.00', stage: 0, kept: '', chargeDropped: false },
		}
	})

test('a statement, whatever stands on it', async () => {
	await fc.assert(
		fc.asyncProperty(statement, looks, async (content, name) => {
			const words = await wordsOf(content, name)
			expect(overlaps(words)).toEqual([])
			expect(outside(words, look(content.kind, name))).toEqual([])
			const shown = content.form === 'open items' ? { ...content, movements: [] } : { ...content, items: [] }
			expect(missing(textsOf(shown), words)).toEqual([])
		}),
		{ numRuns: walks(6), endOnFailure: true },
	)
})

test('totals are on a page with a line, however many lines there are', async () => {
	for (let count = 20; count <= 70; count++) {
		const content = invoice(Array.from({ length: count }, () => ({ quantity: '1', unitPrice: '2.00' })))
		const words = await wordsOf(content, lookNames[count % 3] ?? 'Plain')
		const page = words.filter(({ text }) => text === 'Total').at(-1)?.page
		expect([count, words.some((own) => own.page === page && own.text === `I-${count}`)]).toEqual([count, true])
	}
})
