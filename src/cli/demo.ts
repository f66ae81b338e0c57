import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { endOfMonth } from '@/core/calendar'
import { firstLetters } from '@/kinds'
import { openPracticePost, practiceServer } from '@/post/practiceMail'
import { doJob, type Shop } from '@/runner/work'
import { closeRun } from '@/runs/bench/close'
import { askStep, startRun } from '@/runs/bench/steps'
import { bringIn } from '@/runs/bringIn/atOnce'
import { makeBatch } from '@/runs/files/make'
import { setPictures } from '@/runs/firm/ownFields'
import { bringForm } from '@/runs/forms/forms'
import { setDispute } from '@/runs/receivables/dispute'
import { holdBack, printed } from '@/runs/recheck/hold'
import { nextAct } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveGround } from '@/store/catalogue'
import { saveCompany, saveLogo } from '@/store/company'
import { allCustomers } from '@/store/customers'
import type { Desk } from '@/store/events'
import { latestJob, nextJob } from '@/store/jobs'
import { openItems } from '@/store/ledger'
import { saveLetter } from '@/store/messages'
import { dataFolder, openBooks } from '@/store/openBooks'
import { benchRows, runGroups } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings, seatClerk } from '@/store/settings'
import { layOutPapers } from './demoPapers'

const demo = (...parts: string[]) => join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'demo', ...parts)
// The register stood here before the first month of the books, so that October begins near SK-10462.
const firstNumber = 9600

const discounts = [
	{ label: 'Laying-up month', percent: '5', amount: '', from_day: '2026-10-01', to_day: '2026-11-30' },
	{ label: 'Boat show voucher', percent: '', amount: '25.00', from_day: '2026-09-18', to_day: '2026-12-31' },
	{ label: 'Harbour authorities', percent: '2.5', amount: '', from_day: '2025-01-01', to_day: '' },
].map((discount) => ({ ...discount, currency: 'GBP', for_all: 0 }))

/** What 1 of a currency is worth in GBP, from a day on. */
const worths = [
	['EUR', '2025-05-01', '0.8512'],
	['EUR', '2026-10-01', '0.8637'],
	['NOK', '2025-05-01', '0.0724'],
	['JPY', '2025-05-01', '0.0052'],
] as const

/** A clock that stands at a day's afternoon and moves one second a look, so that the books read as they would have been kept. */
function clockAt(day: string): () => string {
	let seconds = 0
	return () => new Date(Date.parse(`${day}T14:00:00Z`) + seconds++ * 1000).toISOString()
}

/** The outcome, which must be a good one here. */
function must<Came extends { ok: true } | { ok: false; message: string }>(outcome: Came): Extract<Came, { ok: true }> {
	if (!outcome.ok) throw new Error(outcome.message)
	return outcome as Extract<Came, { ok: true }>
}

/**
 * Lays the demo firm's books out in `folder`: company, registers, items, customers, and its months of orders, each brought in,
 * numbered, made, sent to a practice server and closed as a clerk would have done it. October's orders wait in `demo/`.
 * The books appear under their name only when they are whole.
 */
async function layOut(folder: string, months: string[]): Promise<void> {
	const partial = `${folder}.part`
	rmSync(partial, { recursive: true, force: true })
	const books = openBooks(partial)
	const first: Desk = { clerk: 'Wren', now: clockAt('2025-05-01') }
	seatClerk(books, first)
	changeSettings(books, first, { workDate: '2026-10-31', freightTaxCode: 'STD' })
	saveCompany(books, first, {
		name: 'Skerrow Mooring Supply',
		address: 'Chandlers Wharf\nQuay Street\nPort Skerrow PS1 4QN',
		country: 'United Kingdom',
		tax_number: 'GB 000 4186 73',
		email: 'accounts@skerrow.example',
		phone: '01632 960 148',
		bank: 'Bank of the Northern Isles, sort code 00-00-18\nAccount 00418673, Skerrow Mooring Supply\nIBAN GB00 BNIS 0000 1800 4186 73',
		currency: 'GBP',
		closing_words: 'Thank you for your order. Goods remain ours until they are paid for.',
	})
	saveLogo(books, first, { type: 'image/svg+xml', bytes: readFileSync(demo('logo.svg')) })
	must(
		saveRegister(books, first, {
			kind: 'invoice',
			prefix: 'SK-',
			digits: 5,
			next: firstNumber,
			first: firstNumber,
			yearly: 0,
			year: 2025,
		}),
	)
	must(
		saveRegister(books, first, {
			kind: 'credit-note',
			prefix: 'SKC-{year}-',
			digits: 3,
			next: 1,
			first: 1,
			yearly: 1,
			year: 2026,
		}),
	)
	must(
		saveRegister(books, first, {
			kind: 'statement',
			prefix: 'SKS-{year}-',
			digits: 4,
			next: 1,
			first: 1,
			yearly: 1,
			year: 2026,
		}),
	)
	for (const discount of discounts) saveDiscount(books, first, discount)
	for (const [currency, day, rate] of worths) saveExchangeRate(books, first, { currency, day, rate })
	saveGround(books, first, {
		code: 'EXEMPT',
		language: 'en',
		words: 'Exported goods, zero-rated: VAT Act 1994, section 30(6)',
	})
	for (const [kind, { subject, body }] of Object.entries(firstLetters))
		saveLetter(books, first, { kind, subject, body })
	for (const name of ['tax-codes.csv', 'items.csv', 'customers.csv']) await take(books, first, demo(name), name)
	const pictures = readdirSync(demo('pictures')).map((name) => ({
		name,
		type: 'image/svg+xml',
		bytes: readFileSync(demo('pictures', name)),
	}))
	must(await setPictures(books, first, 'item', 'photograph', pictures))
	const server = practiceServer(openPracticePost(join(partial, 'practice-mail')), () => months.at(-1) ?? '')
	const port = await new Promise<number>((resolve) => {
		const probe = createServer().listen(0, '127.0.0.1', () => {
			const address = probe.address()
			probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0))
		})
	})
	await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve))
	for (const month of months) {
		const last = endOfMonth(`${month}-01`)
		await billMonth(
			{ books, now: clockAt(last), makeBatch, makers: 1, practicePort: port },
			`orders-${month}.csv`,
			last,
		)
	}
	// The form that the firm printed its invoices on before: on its way to a layout, nothing of it said yet.
	const form = 'old-invoice-form.docx'
	must(
		bringForm(books, first, {
			kind: 'invoice',
			name: 'Old invoice form',
			fileName: form,
			bytes: readFileSync(demo(form)),
		}),
	)
	const latest = clockAt('2026-10-29')
	await layOutPapers(books, { clerk: 'Tam', now: latest }, readFileSync(demo('berth-holders.csv')))
	const shop = { books, now: latest, makeBatch, makers: 1, practicePort: port }
	for (let job = nextJob(books); job; job = nextJob(books)) await doJob(shop, job)
	if (months.length > 0) await openTheLedger(books, months.length === allMonths().length)
	await new Promise<void>((resolve) => server.close(resolve))
	books.db.pragma('wal_checkpoint(TRUNCATE)')
	books.db.close()
	mkdirSync(folder, { recursive: true })
	const database = 'north-tally.db'
	const beside = readdirSync(partial).filter((name) => name !== database)
	for (const name of [...beside, database]) renameSync(join(partial, name), join(folder, name))
	rmSync(partial, { recursive: true })
}

async function take(books: Books, desk: Desk, path: string, name: string): Promise<void> {
	must(await bringIn(books, desk, name, readFileSync(path)))
}

const [payments, extract] = ['payments-to-2026-09.csv', 'open-items-2026-09-30.csv']

/** Months that the demo has orders of, the first first. */
const allMonths = (): string[] =>
	readdirSync(demo('history'))
		.filter((name) => name.startsWith('orders-'))
		.map((name) => name.slice(7, 14))
		.sort()

const disputes = [
	['BALT01', 'Says that two buoys came damaged'],
	['KIRK01', 'Price not as quoted'],
	['RONA01', 'Delivered to the wrong pier'],
] as const

/** What was paid until the end of September, the accounts' own extract of what was open then, and what is disputed in it. */
async function openTheLedger(books: Books, whole: boolean): Promise<void> {
	const desk: Desk = { clerk: 'Wren', now: clockAt('2026-10-01') }
	if (whole) await take(books, desk, demo('history', payments), payments)
	// Books of the last months alone number their invoices otherwise than the extract knows them.
	const settled = whole ? undefined : { ours: 'taken as settled' as const }
	must(await bringIn(books, desk, extract, readFileSync(demo('history', extract)), settled))
	const october: Desk = { clerk: 'Tam', now: clockAt('2026-10-12') }
	changeSettings(books, october, { workDate: '2026-10-12' })
	// What is disputed is not paid by the end of October either.
	const later = readFileSync(demo('open-items-2026-10-31.csv'), 'utf8')
	for (const [number, note] of disputes) {
		const customer = allCustomers(books).find((one) => one.number === number)
		const open = customer ? openItems(books, customer.id, customer.currency, 'debit') : []
		const item = open.find((one) => one.due_day < '2026-10-12' && later.includes(`,${one.number},`))
		if (!item) throw new Error(`The demo finds no late item of ${number} to dispute.`)
		must(setDispute(books, october, item.id, note))
	}
	changeSettings(books, october, { workDate: '2026-10-31' })
}

async function billMonth(shop: Shop, name: string, last: string): Promise<void> {
	const { books } = shop
	const desk: Desk = { clerk: 'Wren', now: shop.now }
	await take(books, desk, demo('history', name), name)
	const { id = 0 } = must(startRun(books, desk, last, last))
	for (;;) {
		for (let job = nextJob(books); job; job = nextJob(books)) await doJob(shop, job)
		if (latestJob(books, id)?.state === 'failed') throw new Error(latestJob(books, id)?.words)
		const rows = benchRows(books, id)
		const next = nextAct(runGroups(books, id))
		if (next.act === 'close' || next.act === 'none') break
		if (next.act === 'number' || next.act === 'make' || next.act === 'send')
			must(askStep(books, desk, id, next.act, next.count))
		for (const row of rows) {
			if (next.act === 'print' && row.made_at && !row.email && !row.printed_at) must(printed(books, desk, row.id))
			if (next.act === 'solve' && !row.number && !row.held_reason)
				must(holdBack(books, desk, row.id, 'to be asked about'))
		}
	}
	must(closeRun(books, desk, id))
}

const folder = dataFolder()
if (existsSync(join(folder, 'north-tally.db'))) {
	console.log('The books are there already.')
} else {
	const most = Number(process.env.NORTH_TALLY_DEMO_MONTHS ?? 99)
	const months = allMonths()
	await layOut(folder, most === 0 ? [] : months.slice(-most))
	process.exit(0)
}
