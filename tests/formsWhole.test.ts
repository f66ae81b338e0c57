import fc from 'fast-check'
import { expect, test } from 'vitest'
import { type Answers, noAnswers, understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { layoutOfForm } from '@/forms/toLayout'
import { compileLayout, drawPaper } from '@/layout/draw'
import { fieldsByKey } from '@/layout/fields'
import { readLayout } from '@/layout/readLayout'
import { samplePaper } from '@/layout/sample'
import { metrics } from '@/pdf/fontKit'
import { readFormBytes } from '@/runs/forms/readForm'
import { docx, odt, paragraph, run } from './forms/byHand'
import { walks } from './walks'

// Forms at random, each word of them another: whatever a form is made of, every word of it stands on the paper, or is said to be left out.

type Node = { xml: string; html: string; odt: string; words: string[] }
let count = 0
const word = () => `w${++count}x`
const node = (xml: string, html: string, odt: string, words: string[]): Node => ({ xml, html, odt, words })

const texts = fc.array(fc.constantFrom('word', 'bold', 'tab', 'break', 'mark', 'torn', 'control', 'box'), {
	minLength: 1,
	maxLength: 5,
})
const looks = fc.record({
	align: fc.constantFrom('', 'center', 'right'),
	left: fc.constantFrom(0, 0, 0, 720, 3000, 20_000),
	fill: fc.constantFrom('', '', 'EEDDCC'),
	rule: fc.boolean(),
	list: fc.constantFrom(false, false, true),
	page: fc.constantFrom(false, false, false, true),
	tabs: fc.constantFrom(
		'',
		'',
		'<w:tab w:val="right" w:pos="9000"/>',
		'<w:tab w:val="left" w:pos="2000"/><w:tab w:val="center" w:pos="5000"/>',
		'<w:tab w:val="left" w:pos="90000"/>',
	),
})

function inner(parts: readonly string[]): Node {
	const words: string[] = []
	let [xml, html, odt] = ['', '', '']
	for (const part of parts) {
		const own = word()
		if (part === 'tab') {
			xml += '<w:r><w:tab/></w:r>'
			html += ' '
			odt += '<text:tab/>'
			continue
		}
		if (part === 'break') {
			xml += '<w:r><w:br/></w:r>'
			html += '<br>'
			odt += '<text:line-break/>'
			continue
		}
		words.push(own)
		if (part === 'mark') {
			xml += run(`{{${own}}}`)
			html += `{{${own}}}`
			odt += `{{<text:span>${own}</text:span>}}`
		} else if (part === 'torn') {
			xml += run('[[') + run(own.slice(0, 2)) + run(`${own.slice(2)}]`) + run(']')
			html += `[[<b>${own.slice(0, 2)}</b>${own.slice(2)}]]`
			odt += `[[${own.slice(0, 2)}<text:bookmark/><text:span text:style-name="B">${own.slice(2)}</text:span>]]`
		} else if (part === 'control') {
			xml += `<w:sdt><w:sdtPr><w:alias w:val="c"/></w:sdtPr><w:sdtContent>${run(own)}</w:sdtContent></w:sdt>`
			html += `<span data-field="c">${own}</span>`
			odt += `<text:user-field-get text:name="c">${own}</text:user-field-get>`
		} else if (part === 'box') {
			xml += `<w:r><w:pict><v:shape xmlns:v="v"><v:textbox><w:txbxContent>${paragraph(run(own))}</w:txbxContent></v:textbox></v:shape></w:pict></w:r>`
			html += `<div style="float:right">${own}</div>`
			odt += `<draw:frame><draw:text-box><text:p>${own}</text:p></draw:text-box></draw:frame>`
		} else {
			xml += run(`${own} `, part === 'bold' ? '<w:b/><w:sz w:val="40"/>' : '')
			html += part === 'bold' ? `<b>${own}</b> ` : `${own} `
			odt += part === 'bold' ? `<text:span text:style-name="B">${own}</text:span> ` : `${own}<text:s/>`
		}
	}
	return node(xml, html, odt, words)
}

const paragraphs = fc.tuple(texts, looks).map(([parts, look]) => {
	const own = inner(parts)
	const properties = `${look.align ? `<w:jc w:val="${look.align}"/>` : ''}${look.left ? `<w:ind w:left="${look.left}" w:right="${look.left}"/>` : ''}${look.fill ? `<w:shd w:val="clear" w:fill="${look.fill}"/>` : ''}${look.rule ? '<w:pBdr><w:top w:val="single" w:sz="8"/><w:bottom w:val="single" w:sz="8"/></w:pBdr>' : ''}${look.list ? '<w:numPr><w:numId w:val="9"/></w:numPr>' : ''}${look.page ? '<w:pageBreakBefore/>' : ''}${look.tabs ? `<w:tabs>${look.tabs}</w:tabs>` : ''}`
	const style = `${look.align ? `text-align:${look.align};` : ''}${look.left ? `margin-left:${look.left / 20}pt;` : ''}${look.fill ? `background:#${look.fill};` : ''}${look.rule ? 'border-top:1px solid red;' : ''}${look.page ? 'break-before:page' : ''}`
	const named =
		[look.align && 'R', look.left && 'I', look.fill && 'F', look.tabs && 'T', look.page && 'N'].find(Boolean) ||
		'Standard'
	const line = `<text:p text:style-name="${named}">${own.odt}</text:p>`
	return node(
		paragraph(own.xml, properties),
		`<p style="${style}">${own.html}</p>`,
		look.list ? `<text:list><text:list-item>${line}</text:list-item></text:list>` : line,
		own.words,
	)
})

const { block } = fc.letrec<{ block: Node; table: Node }>((tie) => ({
	block: fc.oneof({ maxDepth: 2, depthIdentifier: 'table' }, paragraphs, paragraphs, tie('table')),
	table: fc
		.record({
			rows: fc.array(
				fc.array(
					fc.record({
						blocks: fc.array(tie('block'), { maxLength: 2 }),
						span: fc.constantFrom(1, 1, 1, 2),
						tall: fc.constantFrom(false, false, false, true),
						fill: fc.boolean(),
					}),
					{ minLength: 1, maxLength: 7, size: 'xsmall' },
				),
				{ minLength: 1, maxLength: 4, size: 'xsmall' },
			),
			borders: fc.boolean(),
			lines: fc.boolean(),
			wide: fc.constantFrom(500, 2000, 6000),
			jc: fc.constantFrom('', 'right', 'center'),
		})
		.map(({ rows, borders, lines, wide, jc }) => {
			const words = rows.flatMap((row) => row.flatMap(({ blocks }) => blocks.flatMap((one) => one.words)))
			const repeated = lines
				? [
						'<w:tr>',
						...['{{text}}', '{{qty}}', '{{price}}'].map((mark) => `<w:tc>${paragraph(run(mark))}</w:tc>`),
						'</w:tr>',
					].join('')
				: ''
			const xml = `<w:tbl><w:tblPr>${jc ? `<w:jc w:val="${jc}"/>` : ''}${borders ? '<w:tblBorders><w:insideV w:val="single" w:sz="4"/><w:insideH w:val="single" w:sz="4"/></w:tblBorders>' : ''}</w:tblPr><w:tblGrid>${Array.from({ length: 8 }, () => `<w:gridCol w:w="${wide}"/>`).join('')}</w:tblGrid>${rows.map((row) => `<w:tr>${row.map(({ blocks, span, tall, fill }) => `<w:tc><w:tcPr><w:gridSpan w:val="${span}"/>${tall ? '<w:vMerge w:val="restart"/>' : ''}${fill ? '<w:shd w:fill="DDEEFF"/>' : ''}</w:tcPr>${blocks.map((one) => one.xml).join('')}<w:p/></w:tc>`).join('')}</w:tr>`).join('')}${repeated}</w:tbl>`
			const html = `<table${jc ? ' style="margin-left:auto"' : ''}>${rows.map((row) => `<tr>${row.map(({ blocks, span, tall, fill }) => `<td colspan="${span}"${tall ? ' rowspan="2"' : ''}${fill ? ' bgcolor="#ddeeff"' : ''}>${blocks.map((one) => one.html).join('')}</td>`).join('')}</tr>`).join('')}${lines ? '<tr><td>{{text}}</td><td>{{qty}}</td><td>{{price}}</td></tr>' : ''}</table>`
			const cell = (inner: string, more = '') => `<table:table-cell${more}>${inner}</table:table-cell>`
			const line = lines
				? `<table:table-row>${['{{text}}', '{{qty}}', '{{price}}'].map((mark) => cell(`<text:p>${mark}</text:p>`)).join('')}</table:table-row>`
				: ''
			const odt = `<table:table table:style-name="${jc ? 'TR' : 'TL'}"><table:table-column table:style-name="C" table:number-columns-repeated="8"/>${rows.map((row) => `<table:table-row>${row.map(({ blocks, span, fill }) => cell(blocks.map((one) => one.odt).join(''), ` table:number-columns-spanned="${span}"${fill ? ' table:style-name="CF"' : ''}`) + '<table:covered-table-cell/>'.repeat(span - 1)).join('')}</table:table-row>`).join('')}${line}</table:table>`
			return node(xml, html, odt, words)
		}),
}))

const styled = (name: string, properties: string) =>
	`<style:style style:name="${name}" style:family="paragraph"><style:paragraph-properties ${properties}</style:style>`
const styles = [
	styled('R', 'fo:text-align="end"/>'),
	styled('I', 'fo:margin-left="6cm" fo:margin-right="6cm"/>'),
	styled('F', 'fo:background-color="#eeddcc"/>'),
	styled('N', 'fo:break-before="page"/>'),
	styled(
		'T',
		'><style:tab-stops><style:tab-stop style:position="3cm"/><style:tab-stop style:position="16cm" style:type="right"/></style:tab-stops></style:paragraph-properties>',
	),
	'<style:style style:name="B" style:family="text"><style:text-properties fo:font-weight="bold" fo:font-size="20pt"/></style:style>',
	'<style:style style:name="TR" style:family="table"><style:table-properties table:align="right"/></style:style>',
	'<style:style style:name="C" style:family="table-column"><style:table-column-properties style:column-width="1.5cm"/></style:style>',
	'<style:style style:name="CF" style:family="table-cell"><style:table-cell-properties fo:background-color="#ddeeff" fo:border="0.5pt solid #000000"/></style:style>',
].join('')
const vocabulary = vocabularyOf(fieldsByKey.values(), 'invoice')
/** Every text of a layout, in its order: runs, and heads of columns. */
function textsIn(value: unknown): string[] {
	if (Array.isArray(value)) return value.flatMap(textsIn)
	if (typeof value !== 'object' || value === null) return []
	return Object.entries(value).flatMap(([key, inner]) =>
		(key === 'text' || key === 'head') && typeof inner === 'string' ? [inner] : textsIn(inner),
	)
}
const tools = { metrics, picture: () => null, encode: () => ({ ok: false as const, message: 'none' }) }

test('every word of a form stands on its paper once, whatever it stands in, in DOCX, ODT and HTML alike', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.array(block, { minLength: 1, maxLength: 6 }),
			fc.constantFrom('docx', 'html', 'odt'),
			fc.boolean(),
			async (blocks, format, given) => {
				const bytes = {
					docx: () => docx(blocks.map(({ xml }) => xml).join('')),
					html: () =>
						Buffer.from(`<!doctype html><html><body>${blocks.map(({ html }) => html).join('')}</body></html>`),
					odt: () => odt(blocks.map((one) => one.odt).join(''), styles),
				}[format]()
				const read = await readFormBytes('form', bytes)
				if (!read.ok) {
					// A page of nothing but breaks says so.
					expect(blocks.flatMap(({ words }) => words)).toEqual([])
					return
				}
				const first = understand(read.form, noAnswers, vocabulary)
				const answers: Answers = given
					? { ...noAnswers, rows: Object.fromEntries(first.rows.map(({ key }) => [key, 'lines' as const])) }
					: noAnswers
				const understood = understand(read.form, answers, vocabulary)
				const made = layoutOfForm(understood, answers, 'invoice', 'x')
				const layout = readLayout(JSON.stringify(made.layout))
				expect(layout.ok ? [] : layout.faults).toEqual([])
				drawPaper(compileLayout(made.layout), samplePaper('invoice'), tools, null)
				const text = textsIn(made.layout).join('')
				const said = made.notes.map(({ words }) => words).join(' ')
				const bare = text.replace(/\s/g, '')
				const times = (one: string) => bare.split(one).length - 1
				const wrong = blocks
					.flatMap(({ words }) => words)
					.filter((one) => times(one) > 1 || (times(one) === 0 && !said.includes(one)))
				expect(wrong).toEqual([])
			},
		),
		{ numRuns: walks(40) },
	)
})
