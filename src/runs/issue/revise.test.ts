import { expect, test } from 'vitest'
import { changeSchema } from '@/runs/drafts/change'
import { pdfOf } from '@/runs/files/pdfOf'
import { writeMessages } from '@/runs/send/send'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import { saveCustomer } from '@/store/customers'
import { readBill } from '@/store/documents'
import { revisionOf } from '@/store/issued'
import { latestJob } from '@/store/jobs'
import { waitingMessages } from '@/store/messages'
import { benchRows, runGroups } from '@/store/places'
import { givenNumbers, nextValue, registerFor } from '@/store/registers'
import { billed, gatherRun, nextStep } from '../../../tests/runs'
import { customer, desk, firmBooks } from '../../../tests/support'
import { startCredit } from './credit'
import { reviseDocument } from './revise'
import { verify } from './verify'
import { voidDocument } from './void'

const rows = ['8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,03/10/2026,C1,ROPE,Line,1,2.00,,STD,,']
const line = { line: 0, quantity: '8', unitPrice: '2.00', discountPercent: '0', description: 'Line', taxCode: 'STD' }
const change = (more: object = {}) =>
	changeSchema.parse({
		lines: [line],
		dueDay: '2026-11-30',
		email: 'a1@shore.example',
		reason: 'two came back',
		...more,
	})

async function invoiced() {
	const books = firmBooks()
	const run = await billed(books, ...rows)
	return { books, run, id: benchRows(books, run)[0]?.id ?? 0 }
}

test('a revision bears the same number and says so; the first is kept, sent no more, and the tally still ties', async () => {
	const { books, run, id } = await invoiced()
	const before = await pdfOf(books, id)
	writeMessages(books, desk, run)
	expect(reviseDocument(books, desk, id, change())).toMatchObject({ ok: true })
	const revision = revisionOf(books, id)
	expect(revision?.number).toBe('T-0041 rev. 2')
	expect(readBill(books, revision?.id ?? 0)).toMatchObject({
		net: 1600,
		revises_id: id,
		content: { number: 'T-0041', revision: 2 },
	})
	expect(readBill(books, id)).toMatchObject({ net: 2000, replaced_by: 'Wren', replaced_reason: 'two came back' })
	expect((await pdfOf(books, id))?.bytes.equals(before?.bytes ?? Buffer.alloc(0))).toBe(true)
	expect(nextAct(runGroups(books, run))).toEqual({ act: 'make', count: 1 })
	await nextStep(books, run)
	writeMessages(books, desk, run)
	expect(waitingMessages(books, run, 9).map(({ number }) => number)).toEqual(['T-0042', 'T-0041 rev. 2'])
	expect(
		tallyOf(books, run)[0]
			?.stages.map(({ orders, net }) => [orders, net])
			.slice(0, 4),
	).toEqual(Array.from({ length: 4 }, () => [2, 1800]))
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	const register = registerFor(books, 'invoice')
	expect(register && nextValue(books, register, 2026)).toBe(43)
	expect(givenNumbers(books, register?.id ?? 0, 9).at(-1)).toMatchObject({
		number: 'T-0041',
		replaced_reason: 'two came back',
	})
	expect(benchRows(books, run).find(({ id: own }) => own === revision?.id)?.file_name).toBe(
		'run-0001/T-0041 rev. 2 Customer A1.pdf',
	)
})

test('a revision can be revised again; the first then neither revised, credited nor made void', async () => {
	const { books, id } = await invoiced()
	reviseDocument(books, desk, id, change())
	const second = revisionOf(books, id)?.id ?? 0
	expect(reviseDocument(books, desk, second, change({ lines: [{ ...line, quantity: '7' }] }))).toMatchObject({
		ok: true,
	})
	expect(revisionOf(books, second)?.number).toBe('T-0041 rev. 3')
	expect(reviseDocument(books, desk, id, change())).toMatchObject({ ok: false })
	expect(voidDocument(books, desk, id, 'x')).toMatchObject({ ok: false })
	const credit = { lines: [{ line: 0, quantity: '1' }], freight: false, reason: 'x' }
	expect(startCredit(books, desk, id, credit)).toMatchObject({ ok: false })
})

test('not when it was sent, nothing is different, or a check would stop it', async () => {
	const { books, run, id } = await invoiced()
	expect(reviseDocument(books, desk, id, change({ lines: [{ ...line, quantity: '10' }] }))).toMatchObject({
		message: 'Nothing is different from before.',
	})
	const priceless = { ...line, unitPrice: null }
	expect(reviseDocument(books, desk, id, change({ lines: [priceless] }))).toMatchObject({
		ok: false,
		message: expect.stringContaining('has no price'),
	})
	expect(revisionOf(books, id)).toBeNull()
	writeMessages(books, desk, run)
	books.db.exec(`UPDATE message SET state = 'sent'`)
	expect(reviseDocument(books, desk, id, change())).toMatchObject({
		ok: false,
		message: expect.stringContaining('reached the customer'),
	})
})

test('what was revised or made void before it had a file is skipped when files are made', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, [...rows, '8803,03/10/2026,A1,ROPE,Line,3,2.00,,STD,,'])
	await nextStep(books, run)
	const [first, second] = benchRows(books, run)
	expect(reviseDocument(books, desk, first?.id ?? 0, change())).toMatchObject({ ok: true })
	expect(voidDocument(books, desk, second?.id ?? 0, 'twice').ok).toBe(true)
	await nextStep(books, run)
	expect(benchRows(books, run).map(({ place, made_at }) => [place, made_at !== null])).toEqual(
		expect.arrayContaining([
			['replaced', false],
			['void', false],
			['made', true],
		]),
	)
	expect(latestJob(books, run)).toMatchObject({ state: 'done', words: '2 PDFs made.' })
})

test('a customer who moved, or whose tax changed, is asked about: the revision has what is said, never an old address unasked', async () => {
	const { books, id } = await invoiced()
	saveCustomer(books, desk, customer('A1', { address: '9 New Quay\nTarn', tax: 'exempt' }))
	expect(reviseDocument(books, desk, id, change())).toMatchObject({
		ok: false,
		message: expect.stringContaining('address; tax standard → exempt'),
	})
	expect(revisionOf(books, id)).toBeNull()
	const kept = reviseDocument(books, desk, id, change({ particulars: 'as issued' }))
	expect(readBill(books, (kept.ok && kept.id) || 0)).toMatchObject({
		tax: 320,
		content: { customer: { tax: 'standard' } },
	})
	const renewed = reviseDocument(books, desk, (kept.ok && kept.id) || 0, change({ lines: [], particulars: 'as now' }))
	expect(readBill(books, (renewed.ok && renewed.id) || 0)).toMatchObject({
		tax: 0,
		content: { revision: 3, customer: { address: ['9 New Quay', 'Tarn'], tax: 'exempt' } },
	})
	// Nothing changed since: it is not asked.
	expect(
		reviseDocument(books, desk, (renewed.ok && renewed.id) || 0, change({ lines: [{ ...line, quantity: '7' }] })),
	).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})
