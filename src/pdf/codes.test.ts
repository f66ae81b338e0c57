import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { expect, test } from 'vitest'
import { readBarcodes } from 'zxing-wasm/reader'
import type { BillContent } from '@/core/document'
import { compileLayout } from '@/layout/draw'
import { looksOf } from '@/layout/looks'
import { isIban, paymentText } from '@/layout/pieces/code'
import type { Piece } from '@/layout/schema'
import { invoice } from '../../tests/support'
import { walks } from '../../tests/walks'
import { encode } from './codes'
import { makeDocument } from './makeDocument'
import { readBack } from './readBack'

/** What a machine reads on the first page of a paper with only this piece on it, printed at 300 points to the inch. */
async function printedAndRead(piece: Piece, content: BillContent): Promise<string[]> {
	const [plain] = looksOf('invoice')
	if (!plain) throw new Error('no look')
	const layout = compileLayout({ ...plain, head: [], body: [piece], foot: [] })
	const { bytes } = await makeDocument(content, { layout, pictures: new Map() })
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-code-'))
	writeFileSync(join(folder, 'a.pdf'), bytes)
	execFileSync('pdftoppm', ['-r', '300', '-png', '-f', '1', '-l', '1', join(folder, 'a.pdf'), join(folder, 'a')])
	await readBack(encode('qr', 'to make the decoder ready'), false)
	const found = await readBarcodes(new Blob([readFileSync(join(folder, 'a-1.png'))]), { tryHarder: true })
	rmSync(folder, { recursive: true, force: true })
	return found.map(({ text }) => text)
}
const one = invoice([{ quantity: '1', unitPrice: '10' }])

test.each([
	['qr', 'SK-10482 für Łódź, 山本 and €12.50', 90],
	['data matrix', 'SK-10482', 40],
	['code 128', 'SK-10482/A', 160],
	['ean-13', '590123412345', 120],
] as const)('a %s printed on paper is read back as what it says', async (symbol, text, width) => {
	const [read] = await printedAndRead({ type: 'code', id: 'c', symbol, value: [{ text }], width }, one)
	expect(symbol === 'ean-13' ? read?.slice(0, 12) : read).toBe(text)
})

test('whatever a QR or Data Matrix code says, it is read back letter by letter', async () => {
	const text = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }).filter((own) => own.trim() !== '')
	await fc.assert(
		fc.asyncProperty(fc.constantFrom('qr' as const, 'data matrix' as const), text, async (symbol, own) => {
			expect(await readBack(encode(symbol, own), false)).toBe(own)
		}),
		{ numRuns: walks(20) },
	)
})

test.each([
	['ean-13', '12345', 'twelve digits'],
	['ean-13', 'SK-1', 'twelve digits'],
	['code 128', 'Łódź', 'plain letters'],
	['qr', 'x'.repeat(4000), '2,300 letters'],
	['data matrix', 'x'.repeat(4000), '1,500 letters'],
] as const)('a %s of what it cannot say is refused with what it can', (symbol, text, words) => {
	const encoded = encode(symbol, text)
	expect(encoded.ok ? '' : encoded.message).toContain(words)
})

const euro = (more: Partial<BillContent> = {}): BillContent => ({
	...one,
	currency: 'EUR',
	issuer: { ...one.issuer, bank: ['Bank of Tarn, BIC: BUKBGB22', 'IBAN GB33 BUKB 2020 1555 5555 55'] },
	...more,
})
test('the payment code says what EPC069-12 asks: account, name, amount and number; and is printed so that it is read', async () => {
	const lines = [
		'BCD',
		'002',
		'1',
		'SCT',
		'BUKBGB22',
		'Tarn Chandlers',
		'GB33BUKB20201555555555',
		'EUR12.00',
		'',
		'',
		'T-0041',
	]
	expect(paymentText(euro())?.split('\n')).toEqual(lines)
	const [read] = await printedAndRead({ type: 'code', id: 'c', symbol: 'payment', value: [], width: 90 }, euro())
	expect(read?.split('\n')).toEqual(lines)
})

test('there is no payment code where a customer could not pay by it', () => {
	expect(paymentText(one)).toBeNull()
	expect(paymentText(euro({ kind: 'credit-note' }))).toBeNull()
	expect(paymentText(euro({ issuer: { ...one.issuer, bank: ['IBAN GB34 BUKB 2020 1555 5555 55'] } }))).toBeNull()
	expect(paymentText(euro({ priced: { ...one.priced, amountDue: '0.00' } }))).toBeNull()
	expect(paymentText(euro({ priced: { ...one.priced, amountDue: '-12.00' } }))).toBeNull()
	expect([
		isIban('GB33BUKB20201555555555'),
		isIban('GB33BUKB20201555555556'),
		isIban('DE89370400440532013000'),
	]).toEqual([true, false, true])
})
