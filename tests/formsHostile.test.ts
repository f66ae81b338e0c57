import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { strToU8, unzipSync, zipSync } from 'fflate'
import { expect, test } from 'vitest'
import type { Form } from '@/forms/form'
import { noAnswers, understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { layoutOfForm } from '@/forms/toLayout'
import { fieldsByKey } from '@/layout/fields'
import { readLayout } from '@/layout/readLayout'
import { readFormBytes } from '@/runs/forms/readForm'
import { controlsForm, docx, odt, paragraph, run } from './forms/byHand'
import { mergeLetter, twoTables } from './forms/byLibrary'
import { png } from './pngs'
import { walks } from './walks'

const file = (name: string) => readFileSync(join(import.meta.dirname, 'forms', name))
const vocabulary = vocabularyOf(fieldsByKey.values(), 'invoice')
const names = (form: Form) => understand(form, noAnswers, vocabulary).marks.map(({ name }) => name)
async function read(bytes: Buffer): Promise<Form> {
	const read = await readFormBytes('form', bytes)
	if (!read.ok) throw new Error(read.message)
	return read.form
}
const refusal = async (bytes: Buffer): Promise<string> => {
	const read = await readFormBytes('form', bytes)
	return read.ok ? 'it was read' : read.message
}
const said = (form: Form) => form.notes.map(({ words }) => words).join('\n')
const image = (id: string, more: string) =>
	`<w:r><w:drawing><wp:inline><wp:extent cx="1270000" cy="635000"/><wp:docPr id="1" name="Picture 1"/><a:graphic><a:blip ${more}="${id}"/></a:graphic></wp:inline></w:drawing></w:r>`
const relation = (id: string, type: string, target: string, mode = '') =>
	`<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"${mode}/>`

test('what is no form, is locked or damaged is refused with what to do instead', async () => {
	const whole = controlsForm()
	for (const [bytes, words] of [
		[Buffer.alloc(0), /empty/],
		[Buffer.from('%PDF-1.7 …'), /PDF.*DOCX, ODT or HTML/],
		[Buffer.from('{\\rtf1 text}'), /RTF.*DOCX/],
		[Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(600)]), /password.*without/],
		[Buffer.from('Dear customer, please pay.'), /no text document/],
		[whole.subarray(0, whole.length - 200), /cannot be opened.*Save the file again/],
		[Buffer.from(zipSync({ 'xl/workbook.xml': strToU8('<a/>') })), /workbook/],
		[Buffer.from(zipSync({ 'readme.txt': strToU8('hello') })), /no text document/],
		[docx('').fill(0, 0, 0), /./],
		[
			odt('', '', {
				'META-INF/manifest.xml': '<manifest xmlns:m="m"><file-entry><m:encryption-data/></file-entry></manifest>',
			}),
			/protected with a password/,
		],
	] as const)
		expect(await refusal(bytes), String(words)).toMatch(words)
})

test('entities, a bomb in the archive, a page without end and 500 pages are refused; nothing is unpacked without bounds', async () => {
	const before = process.memoryUsage().rss
	const entities =
		'<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><w:document xmlns:w="w"><w:body><w:p><w:r><w:t>&b;</w:t></w:r></w:p></w:body></w:document>'
	expect(await refusal(docx('', { 'word/document.xml': entities }))).toMatch(/declares entities/)
	// A document type that only has a name stands in older files.
	const manifest =
		'<?xml version="1.0"?><!DOCTYPE manifest PUBLIC "-//Example//DTD Manifest 1.0//EN" "Manifest.dtd"><manifest/>'
	expect(names(await read(odt('<text:p>{{old}}</text:p>', '', { 'META-INF/manifest.xml': manifest })))).toEqual(['old'])
	expect(await refusal(docx('', { 'word/document.xml': Buffer.alloc(40_000_000, 32) }))).toMatch(
		/would unpack to 40 MB/,
	)
	expect(await refusal(docx(`${'<w:p>'.repeat(5000)}${'</w:p>'.repeat(5000)}`))).toMatch(/larger than people read/)
	expect(
		await refusal(docx(Array.from({ length: 20_000 }, (_, at) => paragraph(run(`Clause ${at} {{name}}`))).join(''))),
	).toMatch(/20,000 paragraphs, about 500 pages.*Keep in it/)
	expect(await refusal(Buffer.from(`<html><body>${'<div>'.repeat(100_000)}x</body></html>`))).toMatch(
		/nested more than 150 deep/,
	)
	expect(await refusal(Buffer.from(`<html><body>${'<p>{{a}}</p>'.repeat(30_000)}</body></html>`))).toMatch(
		/30,000 paragraphs/,
	)
	const marked = paragraph(Array.from({ length: 60_000 }, (_, at) => run(`{{m${at}}} `)).join(''))
	expect(await refusal(docx(marked))).toMatch(/60,000 marks/)
	expect(await refusal(docx(paragraph(run('x')).repeat(60_000)))).toMatch(/more than 30,000 paragraphs/)
	expect((process.memoryUsage().rss - before) / 1e6).toBeLessThan(900)
})

test('macros, links, pictures that lie elsewhere and hidden text are named and left out; nothing is fetched', async () => {
	const fetched: unknown[] = []
	const real = globalThis.fetch
	globalThis.fetch = (async (url: unknown) => {
		fetched.push(url)
		throw new Error('no network')
	}) as typeof fetch
	try {
		const form = await read(
			docx(
				[
					paragraph(image('x1', 'r:link') + image('x2', 'r:embed') + image('x3', 'r:embed')),
					paragraph(`<w:hyperlink r:id="l1">${run('our terms')}</w:hyperlink>${run(' and {{number}}')}`),
					paragraph(run('a secret', '<w:vanish/>') + run('seen')),
					paragraph(
						`<w:r><w:pict><v:shape xmlns:v="v"><v:textbox><w:txbxContent>${paragraph(run('boxed {{date}}'))}</w:txbxContent></v:textbox></v:shape></w:pict></w:r>`,
					),
					paragraph('<w:r><w:object/></w:r>'),
				].join(''),
				{
					'word/vbaProject.bin': new Uint8Array(10),
					'word/media/a.png': png(20, 10, [9, 9, 9]),
					'word/media/b.emf': new Uint8Array(50).fill(1),
				},
				[
					relation('x1', 'image', 'http://evil.example/x.png', ' TargetMode="External"'),
					relation('x2', 'image', 'media/a.png'),
					relation('x3', 'image', 'media/b.emf'),
					relation('l1', 'hyperlink', 'http://evil.example/', ' TargetMode="External"'),
				].join(''),
			),
		)
		for (const words of [
			/macros/,
			/lies elsewhere \(http:\/\/evil.example\/x.png\)/,
			/neither PNG/,
			/link leads to/,
			/Hidden text/,
			/text box/,
		])
			expect(said(form)).toMatch(words)
		expect(names(form)).toEqual(['number', 'date'])
		const { layout } = layoutOfForm(understand(form, noAnswers, vocabulary), noAnswers, 'invoice', 'x')
		expect(JSON.stringify(layout)).not.toContain('secret')
		expect(JSON.stringify(layout).match(/"type":"picture"/g)).toHaveLength(1)
		const page = await read(
			Buffer.from(
				'<html><head><link rel="stylesheet" href="http://evil.example/a.css"><style>@import url(http://evil.example/b.css); p{background:url(http://evil.example/c.png)}</style><script>fetch("http://evil.example")</script></head><body onload="x()"><p>{{number}}</p><img src="http://evil.example/d.png"><iframe src="http://evil.example"></iframe></body></html>',
			),
		)
		expect(said(page)).toMatch(/a\.css.*\n.*b\.css|b\.css.*\n.*a\.css/)
		expect(said(page)).toMatch(/left out: script, iframe|left out: iframe, script/)
		expect(said(page)).toMatch(/d\.png/)
		expect(fetched).toEqual([])
	} finally {
		globalThis.fetch = real
	}
})

test('marks are found in whatever manner they are written, and torn over runs all the same', async () => {
	const torn = ['{', '{cus', 'tomer', '_na', 'me}', '}']
		.map((part) => run(part, '<w:lang w:val="de-DE"/>'))
		.join('<w:proofErr w:type="spellStart"/>')
	const complex = `<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText> MERGE</w:instrText></w:r><w:r><w:instrText>FIELD "Due date" \\@ "d MMMM yyyy" </w:instrText></w:r><w:r><w:fldChar w:fldCharType="separate"/></w:r>${run('«Due date»')}<w:r><w:fldChar w:fldCharType="end"/></w:r>`
	const form = await read(
		docx(
			paragraph(torn) +
				paragraph(complex) +
				paragraph(
					run(
						'{a1} {{b1}} [c1] [[d1]] &lt;e1&gt; &lt;&lt;f1&gt;&gt; «g1» @{h1} {{$i1}} #{j1} {{ k1 }} {{l1|upper}} [m1 of it]',
					),
				) +
				paragraph(
					run(
						'10 &lt; 20 &gt; 5, see [] and {} and {{ and a [sentence that is far too long to be the name of a mark in a form]',
					),
				),
		),
	)
	expect(names(form)).toEqual([
		'customer_name',
		'Due date',
		'a1',
		'b1',
		'c1',
		'd1',
		'e1',
		'f1',
		'g1',
		'h1',
		'i1',
		'j1',
		'k1',
		'l1',
		'm1 of it',
	])
	expect(understand(form, noAnswers, vocabulary).marks[1]?.offer?.field).toBe('due-day')
	expect(said(form)).toMatch(/opened and not closed/)
})

test('whatever is done to the bytes of a form, it is read or refused, and what is read is a layout', async () => {
	const whole = [
		await mergeLetter(),
		file('brackets.docx'),
		controlsForm(),
		await twoTables(),
		file('page.html'),
		file('statement.odt'),
	]
	const parts = whole.map((bytes) => (bytes[0] === 0x50 ? unzipSync(bytes) : { 'page.html': new Uint8Array(bytes) }))
	await fc.assert(
		fc.asyncProperty(
			fc.nat(whole.length - 1),
			fc.array(
				fc.record({
					part: fc.nat(),
					at: fc.double({ min: 0, max: 1, noNaN: true }),
					cut: fc.nat(60),
					put: fc.constantFrom(
						'',
						'<',
						'>',
						'"',
						'</w:p>',
						'<w:tbl>',
						'{{',
						'&amp;',
						'-1',
						'999999999',
						'é',
						'<td>',
						'w:val=""',
					),
				}),
				{ minLength: 1, maxLength: 6 },
			),
			async (which, damage) => {
				const entries = { ...(parts[which] ?? {}) }
				const keys = Object.keys(entries).filter((name) => /xml|html|rels/.test(name))
				for (const { part, at, cut, put } of damage) {
					const name = keys[part % keys.length] ?? ''
					const text = Buffer.from(entries[name] ?? [])
					const from = Math.floor(at * text.length)
					entries[name] = Buffer.concat([text.subarray(0, from), Buffer.from(put), text.subarray(from + cut)])
				}
				const bytes =
					whole[which]?.[0] === 0x50
						? Buffer.from(zipSync(entries, { level: 0 }))
						: Buffer.from(entries['page.html'] ?? [])
				const read = await readFormBytes('form', bytes)
				if (!read.ok) {
					expect(read.message.length).toBeGreaterThan(20)
					return
				}
				const made = layoutOfForm(understand(read.form, noAnswers, vocabulary), noAnswers, 'invoice', 'x')
				const layout = readLayout(JSON.stringify(made.layout))
				expect(layout.ok ? [] : layout.faults).toEqual([])
			},
		),
		{ numRuns: walks(30) },
	)
})
