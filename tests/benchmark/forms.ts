import { join } from 'node:path'
import mammoth from 'mammoth'
import Piscina from 'piscina'
import { noAnswers, understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { layoutOfForm } from '@/forms/toLayout'
import { compileLayout, drawPaper } from '@/layout/draw'
import { fieldsByKey } from '@/layout/fields'
import { samplePaper } from '@/layout/sample'
import { metrics } from '@/pdf/fontKit'
import { type FormRead, readFormBytes } from '@/runs/forms/readForm'
import { docx, odt } from '../forms/byHand'

// A form of ten pages: from its bytes to what is offered for its marks and to its layout, as the runner and the browser do it, beside mammoth.

const names = ['Customer', 'Date', 'Due date', 'Invoice no', 'Total', 'Bank', 'PO', 'Our phone', 'Customer VAT', 'Net']
const words =
	'The goods are to be inspected where they are landed and anything wanting is to be told within seven days of that to'
const clauses = Array.from(
	{ length: 230 },
	(_, place) => `${place + 1}. ${words} {{${names[place % names.length]}}} and no later.`,
)
const run = (text: string, look = '') => `<w:r><w:rPr>${look}</w:rPr><w:t xml:space="preserve">${text}</w:t></w:r>`
const word = docx(
	clauses
		.map(
			(clause) =>
				`<w:p><w:pPr><w:spacing w:after="120"/></w:pPr>${clause
					.split(' ')
					.map((one, at) => run(`${one} `, at % 5 === 0 ? '<w:b/>' : ''))
					.join('')}</w:p>`,
		)
		.join(''),
)
const files: [string, Buffer][] = [
	['DOCX', word],
	['ODT', odt(clauses.map((clause) => `<text:p>${clause}</text:p>`).join(''))],
	[
		'HTML',
		Buffer.from(
			`<!doctype html><html><head><style>p{margin:6pt 0;color:#222}b{font-weight:bold}</style></head><body>${clauses
				.map(
					(clause) =>
						`<p>${clause
							.split(' ')
							.map((one, at) => (at % 5 === 0 ? `<b>${one}</b>` : one))
							.join(' ')}</p>`,
				)
				.join('')}</body></html>`,
		),
	],
]
const row = (name: string, value: string) => console.log(`${name.padEnd(62)} ${value}`)
async function timed<Value>(work: () => Promise<Value> | Value): Promise<[number, Value]> {
	const from = performance.now()
	const value = await work()
	return [performance.now() - from, value]
}
async function best(work: () => Promise<unknown> | unknown): Promise<number> {
	let least = Number.POSITIVE_INFINITY
	for (let round = 0; round < 7; round++) least = Math.min(least, (await timed(work))[0])
	return least
}

for (const [name, bytes] of files) {
	const pool = new Piscina<{ name: string; bytes: Buffer }, FormRead>({
		filename: join(import.meta.dirname, 'formWorker.mjs'),
		maxThreads: 1,
	})
	const [first] = await timed(() => pool.run({ name, bytes }))
	row(`${name} of ten pages, read by a thread that has to be started`, `${first.toFixed(0)} ms`)
	row(`${name}, once it runs`, `${(await best(() => pool.run({ name, bytes }))).toFixed(0)} ms`)
	await pool.destroy()
}
const ours = await best(() => readFormBytes('form', word))
const others = await best(() => mammoth.convertToHtml({ buffer: word }))
row('DOCX read into blocks, marks and notes, here', `${ours.toFixed(0)} ms`)
row('the same file to HTML by mammoth, here', `${others.toFixed(0)} ms`)
row('ours ÷ mammoth', (ours / others).toFixed(2))
const read = await readFormBytes('form', word)
if (!read.ok) throw new Error(read.message)
const vocabulary = vocabularyOf(fieldsByKey.values(), 'invoice')
row(
	'its marks with what is offered for them, at each change',
	`${(await best(() => understand(read.form, noAnswers, vocabulary))).toFixed(0)} ms`,
)
const understood = understand(read.form, noAnswers, vocabulary)
row(
	'the layout made of it, at each change',
	`${(await best(() => layoutOfForm(understood, noAnswers, 'invoice', 'x'))).toFixed(0)} ms`,
)
const { layout } = layoutOfForm(understood, noAnswers, 'invoice', 'x')
const tools = { metrics, picture: () => null, encode: () => ({ ok: false as const, message: 'none' }) }
const compiled = compileLayout(layout)
const pages = drawPaper(compiled, samplePaper('invoice'), tools, null).pages.length
row(
	`a paper of it, ${pages} pages, laid out`,
	`${(await best(() => drawPaper(compiled, samplePaper('invoice'), tools, null))).toFixed(0)} ms`,
)
