import { createHash } from 'node:crypto'
import { expect, test } from 'vitest'
import { pdfOf } from '@/runs/files/pdfOf'
import { startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { newestVersion } from '@/store/openBooks'
import { openState, states } from './ofState'
import { desk } from './support'

test('there are books of every state from the third to the one before this', () => {
	expect(states).toEqual(Array.from({ length: newestVersion() - 3 }, (_, place) => place + 3))
})

test.each(states)('books of state %i are brought up to date, hold together, and go on', async (state) => {
	const { books, version, issued, now } = openState(state)
	expect([version, now]).toEqual([state, issued])
	expect(issued).toBeGreaterThan(50)
	// Their files were not kept with them; every PDF is made again and is the one that was recorded.
	const wrong = () =>
		verify(books)
			.filter(({ check }) => !check.startsWith('each made document has the file'))
			.flatMap(({ wrong }) => wrong)
	expect(wrong()).toEqual([])
	const made = books.db
		.prepare<[], { id: number; file_sha256: string }>(
			'SELECT id, file_sha256 FROM document WHERE file_sha256 IS NOT NULL GROUP BY kind, stage',
		)
		.all()
	for (const { id, file_sha256 } of made) {
		const pdf = await pdfOf(books, id)
		expect(
			createHash('sha256')
				.update(pdf?.bytes ?? '')
				.digest('hex'),
		).toBe(file_sha256)
	}
	const invoice = books.db
		.prepare<[], number>(
			`SELECT id FROM document d WHERE kind = 'invoice' AND number IS NOT NULL AND total > 5000
				AND NOT EXISTS (SELECT 1 FROM document c WHERE c.credits_id = d.id) ORDER BY id LIMIT 1`,
		)
		.pluck()
		.get()
	const credit = { lines: [{ line: 0, quantity: '1' }], freight: false, reason: 'came back' }
	const started = startCredit(books, desk, invoice ?? 0, credit)
	expect(started).toMatchObject({ ok: true })
	expect(numberDocuments(books, desk, started.ok ? (started.id ?? 0) : 0, 1)).toMatchObject({ ok: true, count: 1 })
	expect(wrong()).toEqual([])
})
