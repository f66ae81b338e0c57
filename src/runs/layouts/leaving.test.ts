import { execFileSync } from 'node:child_process'
import { copyFileSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { simpleParser } from 'mailparser'
import mammoth from 'mammoth'
import { expect, test } from 'vitest'
import { leavingSchema, type Part, usualLeaving } from '@/layout/leaving'
import { bringIn } from '@/runs/bringIn/atOnce'
import { companionBytes } from '@/runs/files/companionFiles'
import { setLockedCustomer } from '@/runs/files/lock'
import { pdfOf } from '@/runs/files/pdfOf'
import { printAgain, printAll } from '@/runs/files/printAll'
import { backup, restore } from '@/runs/firm/backup'
import { decideMessage } from '@/runs/send/postroom'
import { rawAgain, rawOf, writeMessages } from '@/runs/send/send'
import { settleLeftSending } from '@/runs/send/sending'
import type { Books } from '@/store/books'
import { customerByNumber } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { companionsOf } from '@/store/made'
import { attemptsOfDocument, messageOfDocument, move, readAttempt } from '@/store/messages'
import { benchRows } from '@/store/places'
import { readPassword } from '@/store/seal'
import { changeSettings } from '@/store/settings'
import { pdfText } from '../../../tests/browser/pdf'
import { billed, gatherRun, line, nextStep, sendRun, work } from '../../../tests/runs'
import { customer, desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { namesSeen, setLeaving } from './leaving'

const order = (number: string, who = 'A1', item = 'ROPE') =>
	`${number},2026-10-03,${who},${item},Mooring line,10,2.10,0,STD,0,`
const leave = (books: Books, more: object) =>
	changeSettings(books, desk, { leaving: { invoice: leavingSchema.parse({ ...usualLeaving, ...more }) } })
const only = (books: Books, run: number) => {
	const [row] = benchRows(books, run, 10)
	const document = row && readAnyDocument(books, row.id)
	if (!document) throw new Error('no document')
	return document
}
const names: { file: Part[]; folder: Part[]; title: Part[] } = {
	file: [{ field: 'customer.name' }, { text: ' ' }, { field: 'number' }],
	folder: [{ field: 'day', format: { day: 'month' } }, { text: '/' }, { field: 'customer.number' }],
	title: [{ field: 'title' }, { text: ' for ' }, { field: 'customer.name' }],
}
const info = (bytes: Buffer, ...more: string[]): string => {
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-pdf-'))
	try {
		writeFileSync(join(folder, 'a.pdf'), bytes)
		return execFileSync('pdfinfo', [...more, join(folder, 'a.pdf')], {
			encoding: 'utf8',
			stdio: ['ignore', 'pipe', 'pipe'],
		})
	} finally {
		rmSync(folder, { recursive: true })
	}
}

test('a file is called and filed as the firm puts it together, and stays so when the parts are changed later', async () => {
	const books = firmBooks()
	leave(books, names)
	const run = await billed(books, order('1'))
	const before = only(books, run)
	expect(before.file_name).toBe('October 2026/A1/Customer A1 T-0041.pdf')
	const made = await pdfOf(books, before.id)
	expect(info(made?.bytes ?? Buffer.alloc(0))).toMatch(/Title:\s+Invoice for Customer A1\n/)
	leave(books, {})
	rmSync(join(books.folder, 'files', before.file_name ?? ''))
	expect((await pdfOf(books, before.id))?.sha256).toBe(before.file_sha256)
	const next = await billed(books, order('2'))
	expect(only(books, next).file_name).toBe('run-0002/T-0042 Customer A1.pdf')
})

test('papers that would have the same file are named before anything is numbered', async () => {
	const books = firmBooks()
	const alike = { file: [{ field: 'customer.name' }] }
	leave(books, alike)
	const run = await gatherRun(books, [order('1', 'A1'), order('2', 'A1', 'OTHER'), order('3', 'C1')])
	const job = await nextStep(books, run)
	expect(job?.words).toContain('T-0042 and T-0041 would have the same file, run-0001/Customer A1.pdf')
	expect(benchRows(books, run, 10).every(({ number }) => number === null)).toBe(true)
	// Seen at once while the parts are chosen, and refused there.
	expect(namesSeen(books, 'invoice', leavingSchema.parse(alike)).same).toEqual([
		{ file: 'run-0001/Customer A1.pdf', papers: [expect.any(String), expect.any(String)] },
	])
	expect(setLeaving(books, desk, 'invoice', leavingSchema.parse(alike))).toMatchObject({ ok: false })
	expect(setLeaving(books, desk, 'invoice', leavingSchema.parse({ file: [{ field: 'line.net' }] }))).toMatchObject({
		ok: false,
	})
	expect(setLeaving(books, desk, 'invoice', leavingSchema.parse(names))).toEqual({ ok: true })
	expect((await nextStep(books, run))?.words).toContain('3 numbered')
	// Of another run and not yet made, whatever the case of its letters.
	leave(books, { ...names, file: [{ text: 'CUSTOMER a1 t-0041' }], folder: names.folder })
	const other = await gatherRun(books, [order('9')])
	expect((await nextStep(books, other))?.words).toContain('would have the same file')
})

test('names and folders are safe whatever stands in a value', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, [order('1')])
	const content = only(books, run).content
	const evil = { ...content, number: '../../CON', customer: { ...content.customer, name: 'a/b\\c:..\u202e' } }
	const { filedAs } = await import('@/layout/leaving')
	const filed = filedAs(
		evil,
		leavingSchema.parse({
			file: [{ field: 'number' }],
			folder: [{ field: 'customer.name' }, { text: '/../' }, { text: '.pdf' }],
		}),
		'run-0001',
	)
	expect(filed.file).toBe('a-b-c-..-/pdf/-..-CON')
	for (const part of (filed.file ?? '').split('/')) expect(part).not.toMatch(/^\.|[<>:"\\|?*]|^$/)
})

test('so many are printed, all but the first marked; what is printed again is marked too', async () => {
	const books = firmBooks()
	leave(books, { copies: 3 })
	const run = await billed(books, order('1', 'B1'))
	const pages = await pdfText((await printAll(books, run)) ?? Buffer.alloc(0))
	expect(pages.map((page) => page.includes('Copy'))).toEqual([false, true, true])
	expect((await pdfText((await printAgain(books, only(books, run).id)) ?? Buffer.alloc(0))).join()).toContain('Copy')
	leave(books, { copies: 2, marked: false })
	expect((await pdfText((await printAll(books, run)) ?? Buffer.alloc(0))).join()).not.toContain('Copy')
	expect((await pdfText((await printAgain(books, only(books, run).id)) ?? Buffer.alloc(0))).join()).not.toContain(
		'Copy',
	)
	// The file itself never is.
	expect((await pdfText((await pdfOf(books, only(books, run).id))?.bytes ?? Buffer.alloc(0))).join()).not.toContain(
		'Copy',
	)
})

test('only the copy that is sent is locked; letter and log say so, and the password stands nowhere', async () => {
	const books = firmBooks()
	const password = 'Slack-water-17'
	leave(books, { beside: ['json'] })
	expect(setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), '')).toMatchObject({ ok: false })
	expect(setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'short')).toMatchObject({ ok: false })
	expect(setLockedCustomer(books, desk, customer('A1', { lock: 'customer.tax' }), '')).toMatchObject({ ok: false })
	expect(setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), password)).toEqual({ ok: true })
	const run = await billed(books, order('1'))
	writeMessages(books, desk, run)
	const took: Buffer[] = []
	await sendRun(books, desk, run, [line('sent', took)])
	const { id } = only(books, run)
	const mail = await simpleParser(took[0] ?? Buffer.alloc(0))
	expect(mail.text).toContain('The PDF opens with your password.')
	// What goes beside it would say the same, unlocked: it is filed alone.
	expect(mail.attachments.map(({ filename }) => filename)).toEqual(['T-0041 Customer A1.pdf'])
	expect(companionsOf(books, id).map(({ format }) => format)).toEqual(['json', 'locked'])
	const sent = mail.attachments[0]?.content ?? Buffer.alloc(0)
	expect(() => info(sent)).toThrow(/Incorrect password/)
	expect(info(sent, '-upw', password)).toMatch(/Encrypted:\s+yes .*AES-256/)
	const onFile = await pdfOf(books, id)
	expect(info(onFile?.bytes ?? Buffer.alloc(0))).toMatch(/Encrypted:\s+no/)
	// Shown again, it is the very message; with the locked copy lost, that is said, not another file shown.
	const [attempt] = attemptsOfDocument(books, id)
	const message = messageOfDocument(books, id)
	if (!attempt || !message) throw new Error('not sent')
	expect((await rawOf(books, message)).sha256).toBe(readAttempt(books, attempt.id)?.raw_sha256)
	const locked = companionsOf(books, id).find(({ format }) => format === 'locked')
	rmSync(join(books.folder, 'files', locked?.file_name ?? ''))
	expect(await rawAgain(books, message)).toMatchObject({ raw: null, why: expect.stringContaining('lost') })
	books.db.pragma('wal_checkpoint(TRUNCATE)')
	expect(readFileSync(join(books.folder, 'north-tally.db')).includes(password)).toBe(false)
	expect(statSync(join(books.folder, 'seal.key')).mode & 0o77).toBe(0)
})

test('a customer without a password that could lock stops at the check, and one that lost it waits with the reason', async () => {
	const books = firmBooks()
	setLockedCustomer(books, desk, customer('A1', { lock: 'customer.tax-number' }), '')
	const run = await gatherRun(books, [order('1')])
	expect(benchRows(books, run, 10)[0]?.level).toBe('stop')
	setLockedCustomer(books, desk, customer('A1', { lock: 'customer.tax-number', tax_number: 'GB 123 4567' }), '')
	await work(books)
	await nextStep(books, run)
	await nextStep(books, run)
	// The field is of the frozen paper; a password of their own may go between.
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'another-one')
	rmSync(join(books.folder, 'seal.key'))
	expect(writeMessages(books, desk, run)).toMatchObject({
		written: 0,
		hindered: [expect.stringContaining('cannot be unsealed')],
	})
	expect((await nextStep(books, run))?.words).toContain('cannot be unsealed')
	setLockedCustomer(books, desk, customer('A1', { lock: 'customer.tax-number', tax_number: 'GB 999' }), '')
	expect(writeMessages(books, desk, run).written).toBe(1)
	const took: Buffer[] = []
	await sendRun(books, desk, run, [line('refused', took)])
	const sent = (await simpleParser(took[0] ?? Buffer.alloc(0))).attachments[0]?.content ?? Buffer.alloc(0)
	// It opens with what stands on the paper, not with what the account has by now.
	expect(info(sent, '-upw', 'GB 123 4567')).toContain('Encrypted')
})

test('a password goes with a backup sealed, and opens with its key alone, which does not', async () => {
	const books = firmBooks()
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'Neap-tide-3')
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-backup-'))
	try {
		await backup(books, join(folder, 'b.tgz'))
		expect(await restore(join(folder, 'b.tgz'), join(folder, 'there'))).toEqual({ ok: true })
		const id = customerByNumber(books, 'A1')?.id ?? 0
		const there = { ...books, folder: join(folder, 'there') }
		expect(readPassword(there, id)).toBe(null)
		copyFileSync(join(books.folder, 'seal.key'), join(folder, 'there', 'seal.key'))
		expect(readPassword(there, id)).toBe('Neap-tide-3')
		writeFileSync(join(folder, 'there', 'seal.key'), Buffer.alloc(32))
		expect(readPassword(there, id)).toBe(null)
		writeFileSync(join(folder, 'there', 'seal.key'), 'short')
		expect(readPassword(there, id)).toBe(null)
	} finally {
		rmSync(folder, { recursive: true })
	}
})

test('DOCX, HTML and JSON are made in the run, say what the paper says, and are made again the very same', async () => {
	const books = firmBooks()
	leave(books, { beside: ['docx', 'html', 'json'] })
	setLockedCustomer(books, desk, customer('C1', { grouping: 'all', beside: 'none' }), '')
	const run = await billed(books, order('1'), order('2', 'C1'))
	const [first, second] = benchRows(books, run, 10)
	expect(companionsOf(books, second?.id ?? 0)).toEqual([])
	const files = companionsOf(books, first?.id ?? 0)
	expect(files.map(({ file_name }) => file_name)).toEqual(
		['docx', 'html', 'json'].map((ending) => `run-0001/T-0041 Customer A1.${ending}`),
	)
	const document = readAnyDocument(books, first?.id ?? 0)
	const bytesOf = async (format: string) => {
		const file = files.find((one) => one.format === format)
		if (!file) throw new Error('no file')
		rmSync(join(books.folder, 'files', file.file_name))
		const { bytes } = await companionBytes(books, file)
		expect(existsSync(join(books.folder, 'files', file.file_name))).toBe(true)
		return bytes
	}
	expect(JSON.parse((await bytesOf('json')).toString())).toEqual(document?.content)
	// Read by a program of others: headings are headings, tables are tables, and every line of the paper is there.
	const { value: read } = await mammoth.convertToHtml({ buffer: await bytesOf('docx') })
	const html = (await bytesOf('html')).toString()
	for (const text of [read, html]) {
		expect(text).toMatch(/<h1[^>]*>(<[^>]+>)*Invoice/)
		expect(text).toMatch(/<table[^>]*>.*Mooring line.*21\.00.*<\/table>/s)
		for (const words of ['T-0041', 'Customer A1', 'GB 000 1', '25.20', 'Tarn TA2 2BB']) expect(text).toContain(words)
	}
	expect(html).not.toMatch(/<script|\son\w+=|src="http/)
	writeMessages(books, desk, run)
	const message = messageOfDocument(books, first?.id ?? 0)
	const mail = await simpleParser(message ? (await rawOf(books, message)).raw : Buffer.alloc(0))
	expect(mail.attachments.map(({ contentType }) => contentType)).toEqual([
		'application/pdf',
		'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
		'text/html',
		'application/json',
	])
})

test('a file of customers leaves it as it is how their papers leave', async () => {
	const books = firmBooks()
	setLockedCustomer(
		books,
		desk,
		customer('A1', { lock: 'own', beside: 'json,html', delivery: 'Slip 2' }),
		'Neap-tide-3',
	)
	const content = Buffer.from('Customer number,Customer,Email\nA1,Renamed,a@b.example\n')
	expect(await bringIn(books, desk, 'c.csv', content)).toMatchObject({ ok: true })
	expect(customerByNumber(books, 'A1')).toMatchObject({
		name: 'Renamed',
		lock: 'own',
		beside: 'json,html',
		delivery: 'Slip 2',
	})
})

test('a message that cannot be locked any more is refused with the reason and holds no other up', async () => {
	const books = firmBooks()
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'Neap-tide-3')
	const run = await billed(books, order('1'), order('2', 'C1'))
	expect(writeMessages(books, desk, run).written).toBe(2)
	rmSync(join(books.folder, 'seal.key'))
	const took: Buffer[] = []
	const result = await sendRun(books, desk, run, [line('sent', took)])
	expect(result).toEqual({ handled: true, away: null })
	expect(took.length).toBe(1)
	const [first] = benchRows(books, run, 10)
	expect(messageOfDocument(books, first?.id ?? 0)).toMatchObject({
		state: 'refused',
		last_answer: expect.stringContaining('cannot be unsealed'),
	})
	// With the password set anew it leaves, locked with that.
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'Spring-tide-4')
	const message = messageOfDocument(books, first?.id ?? 0)
	if (!message) throw new Error('no message')
	decideMessage(books, desk, message, 'again')
	await sendRun(books, desk, run, [line('sent', took)])
	const sent = (await simpleParser(took[1] ?? Buffer.alloc(0))).attachments[0]?.content ?? Buffer.alloc(0)
	expect(info(sent, '-upw', 'Spring-tide-4')).toContain('AES-256')
})

test('who wants locked PDFs since their message was written gets one too; attempts before stay what they were', async () => {
	const books = firmBooks()
	leave(books, { beside: ['html'] })
	const run = await billed(books, order('1'))
	writeMessages(books, desk, run)
	const took: Buffer[] = []
	await sendRun(books, desk, run, [line('away', took)])
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'Neap-tide-3')
	await sendRun(books, desk, run, [line('sent', took)])
	const [before, after] = await Promise.all(took.map((raw) => simpleParser(raw)))
	expect(before?.attachments.map(({ contentType }) => contentType)).toEqual(['application/pdf', 'text/html'])
	expect(after?.attachments.map(({ contentType }) => contentType)).toEqual(['application/pdf'])
	expect(info(after?.attachments[0]?.content ?? Buffer.alloc(0), '-upw', 'Neap-tide-3')).toContain('AES-256')
	const { id } = only(books, run)
	const message = messageOfDocument(books, id)
	if (!message) throw new Error('no message')
	const attempts = attemptsOfDocument(books, id)
	expect(attempts).toHaveLength(2)
	for (const { raw_sha256, locked } of attempts)
		expect((await rawOf(books, { ...message, locked })).sha256).toBe(raw_sha256)
})

test('locks set, changed, lost and lifted between tries in random orders: what leaves is locked with what counts then, or not at all', async () => {
	type Act =
		| readonly ['own', string]
		| readonly ['field']
		| readonly ['none']
		| readonly ['lose the key']
		| readonly ['try', 'sent' | 'away' | 'refused']
	const passwords = fc.constantFrom('Slack-water-1', 'Neap-tide-22', 'Spring-tide-3')
	const act: fc.Arbitrary<Act> = fc.oneof(
		fc.tuple(fc.constant('own' as const), passwords),
		fc.constant(['field'] as const),
		fc.constant(['none'] as const),
		fc.constant(['lose the key'] as const),
		fc.tuple(fc.constant('try' as const), fc.constantFrom('away' as const, 'refused' as const, 'sent' as const)),
	)
	await fc.assert(
		fc.asyncProperty(fc.boolean(), fc.array(act, { minLength: 3, maxLength: 9 }), async (lockedAtFirst, acts) => {
			const books = firmBooks()
			setLockedCustomer(books, desk, customer('A1', { tax_number: 'GB 123 4567' }), '')
			if (lockedAtFirst)
				setLockedCustomer(books, desk, customer('A1', { tax_number: 'GB 123 4567', lock: 'own' }), 'First-of-all')
			const run = await billed(books, order('1'))
			writeMessages(books, desk, run)
			const { id } = only(books, run)
			// The model: what counts now, whether the key is there, and what the last locked copy opens with.
			let lock: 'own' | 'field' | 'none' = lockedAtFirst ? 'own' : 'none'
			let password: string | null = lockedAtFirst ? 'First-of-all' : null
			let said = lockedAtFirst
			let copy: string | null = null
			const delivered: (string | null)[] = []
			for (const [what, more] of [...acts, ['try', 'sent'] as const]) {
				const message = messageOfDocument(books, id)
				if (!message || message.state === 'sent') break
				if (what === 'own') {
					setLockedCustomer(books, desk, customer('A1', { tax_number: 'GB 123 4567', lock: 'own' }), more ?? '')
					lock = 'own'
					password = more ?? null
				} else if (what === 'field') {
					setLockedCustomer(books, desk, customer('A1', { tax_number: 'GB 123 4567', lock: 'customer.tax-number' }), '')
					lock = 'field'
				} else if (what === 'none') {
					setLockedCustomer(books, desk, customer('A1', { tax_number: 'GB 123 4567' }), '')
					lock = 'none'
				} else if (what === 'lose the key') {
					rmSync(join(books.folder, 'seal.key'), { force: true })
					password = null
				} else {
					if (message.state === 'refused') decideMessage(books, desk, message, 'again')
					const took: Buffer[] = []
					await sendRun(books, desk, run, [line(more, took)])
					const counts: string | null = lock === 'own' ? password : lock === 'field' ? 'GB 123 4567' : copy
					const wanted = said || lock !== 'none'
					if (wanted && counts === null) {
						expect(took).toEqual([])
						expect(messageOfDocument(books, id)?.state).toBe('refused')
						continue
					}
					if (wanted) {
						copy = counts
						said = true
					}
					expect(took).toHaveLength(1)
					const pdf = (await simpleParser(took[0] ?? Buffer.alloc(0))).attachments[0]?.content ?? Buffer.alloc(0)
					if (wanted && counts) expect(info(pdf, '-upw', counts)).toContain('AES-256')
					else expect(info(pdf)).toMatch(/Encrypted:\s+no/)
					if (more === 'sent') delivered.push(counts)
				}
			}
			expect(delivered.length).toBeLessThanOrEqual(1)
			expect(messageOfDocument(books, id)?.state === 'sent').toBe(delivered.length === 1)
			// Every try is shown again as it went, and the password stands in no row of the books.
			for (const { raw_sha256, locked } of attemptsOfDocument(books, id)) {
				const message = messageOfDocument(books, id)
				if (message) expect((await rawOf(books, { ...message, locked })).sha256).toBe(raw_sha256)
			}
			books.db.pragma('wal_checkpoint(TRUNCATE)')
			const bytes = readFileSync(join(books.folder, 'north-tally.db'))
			for (const one of ['Slack-water-1', 'Neap-tide-22', 'Spring-tide-3', 'First-of-all'])
				expect(bytes.includes(one)).toBe(false)
			books.db.close()
		}),
		{ numRuns: walks(5) },
	)
})

test('a message that was on its way when the runner died is unsure also where its locked copy is lost', async () => {
	const books = firmBooks()
	setLockedCustomer(books, desk, customer('A1', { lock: 'own' }), 'Neap-tide-3')
	const run = await billed(books, order('1'))
	writeMessages(books, desk, run)
	await sendRun(books, desk, run, [line('away')])
	const { id } = only(books, run)
	const locked = companionsOf(books, id).find(({ format }) => format === 'locked')
	rmSync(join(books.folder, 'files', locked?.file_name ?? ''))
	const message = messageOfDocument(books, id)
	if (!message) throw new Error('no message')
	move(books, message.id, 'waiting', 'sending')
	expect(await settleLeftSending(books, desk)).toBe(1)
	expect(messageOfDocument(books, id)?.state).toBe('unsure')
})
