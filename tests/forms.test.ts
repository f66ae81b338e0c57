import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { sourceOf } from '@/archive/source'
import { paragraphsIn, textOf } from '@/forms/form'
import { type Answers, noAnswers, type Understood, understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { readForm } from '@/forms/readForm'
import { layoutOfForm } from '@/forms/toLayout'
import { checkLayout } from '@/layout/check'
import { checkPaper } from '@/layout/checkPaper'
import { compileLayout, drawPaper } from '@/layout/draw'
import { fieldsByKey } from '@/layout/fields'
import type { PaperKind } from '@/layout/fieldTypes'
import { readLayout } from '@/layout/readLayout'
import { samplePaper } from '@/layout/sample'
import { fieldsOf } from '@/layout/values'
import { metrics } from '@/pdf/fontKit'
import { controlsForm, docx, odt, paragraph, run } from './forms/byHand'
import { mergeLetter, twoTables } from './forms/byLibrary'
import { png } from './pngs'

const file = (name: string) => readFileSync(join(import.meta.dirname, 'forms', name))

/** Six forms of different make. `right` is what each mark stands for, as who wrote the form meant it. */
const forms: {
	name: string
	kind: PaperKind
	bytes: () => Promise<Buffer>
	right: Record<string, string>
	says: string[]
	colours: string[]
	pictures: number
}[] = [
	{
		name: 'a letter with merge fields, by a library',
		kind: 'invoice',
		bytes: mergeLetter,
		right: {
			...{
				Customer_Name: 'customer.name',
				Customer_Address: 'customer.address',
				Invoice_No: 'number',
				Invoice_Date: 'day',
			},
			...{ Due_Date: 'due-day', PO: 'your-orders', Item_Code: 'line.item', Description: 'line.description' },
			...{ Quantity: 'line.quantity', Unit_Price: 'line.price', Line_Total: 'line.net', Net_Total: 'net' },
			...{ Tax_Rate: 'tax.rate', Tax_Base: 'tax.base', Tax_Amount: 'tax.amount', Grand_Total: 'total' },
			...{ Company_VAT: 'issuer.tax-number', Customer_VAT: 'customer.tax-number', Tax_Note: 'grounds' },
			...{ Bank_Details: 'issuer.bank', Company_Name: 'issuer.name', Company_Address: 'issuer.address' },
		},
		says: ['Payment due:', 'we thank you for your order and ask', 'kindly', 'Amount', 'page 1 of 1'],
		colours: ['20303a', '7a1f3a', 'ffffff', 'c9bfa8'],
		pictures: 1,
	},
	{
		name: 'double square brackets in German, by an office program',
		kind: 'invoice',
		bytes: async () => file('brackets.docx'),
		right: {
			...{
				Firma: 'issuer.name',
				Firmenadresse: 'issuer.address',
				Kunde: 'customer.name',
				Kundenadresse: 'customer.address',
			},
			...{
				Rechnungsnr: 'number',
				Datum: 'day',
				'Datum 2': 'due-day',
				Kundennr: 'customer.number',
				Bestellung: 'your-orders',
			},
			...{ Pos: 'line.number', Artikel: 'line.item', Bezeichnung: 'line.description', Menge: 'line.quantity' },
			...{ Einheit: 'line.unit', Preis: 'line.price', Gesamt: 'line.net', Netto: 'net', Steuersatz: 'tax.rate' },
			...{ Bemessungsgrundlage: 'tax.base', Steuerbetrag: 'tax.amount', Rechnungsbetrag: 'total', Bank: 'issuer.bank' },
			...{ 'Unsere USt-Id': 'issuer.tax-number', 'Kunden-USt-Id': 'customer.tax-number', Steuerhinweis: 'grounds' },
		},
		says: ['Sehr geehrte Damen und Herren,', 'Zahlbar bis:', 'Einzelpreis', 'Nettobetrag', 'Seite 1 von 1'],
		colours: ['222222', '8a3b12', '666666', 'f3e3d6', 'd9c8ba'],
		pictures: 0,
	},
	{
		name: 'content controls in French with rows that repeat, by hand',
		kind: 'invoice',
		bytes: async () => controlsForm(),
		right: {
			...{ Société: 'issuer.name', 'Adresse société': 'issuer.address', Numéro: 'number', date: 'day' },
			...{ 'date échéance': 'due-day', Client: 'customer.name', 'Adresse client': 'customer.address' },
			...{
				désignation: 'line.description',
				quantité: 'line.quantity',
				'prix unitaire': 'line.price',
				montant: 'line.net',
			},
			...{ 'Total HT': 'net', 'Taux TVA': 'tax.rate', 'Base HT': 'tax.base', 'Montant TVA': 'tax.amount' },
			...{ 'Net à payer': 'amount-due', 'Notre TVA': 'issuer.tax-number', 'TVA client': 'customer.tax-number' },
			...{ 'Mention TVA': 'grounds', 'Coordonnées bancaires': 'issuer.bank' },
		},
		says: ['Facture n°', 'Désignation', 'Net à payer'],
		colours: ['000000', '2b5d34', 'ede6d6', 'b0a890'],
		pictures: 0,
	},
	{
		name: 'two repeated tables, by a library',
		kind: 'invoice',
		bytes: twoTables,
		right: {
			...{
				'company.name': 'issuer.name',
				'company.address': 'issuer.address',
				number: 'number',
				date: 'day',
				due: 'due-day',
			},
			...{ 'customer.name': 'customer.name', 'customer.address': 'customer.address', 'line.pos': 'line.number' },
			...{ 'line.article': 'line.item', 'line.text': 'line.description', 'line.quantity': 'line.quantity' },
			...{ 'line.unit': 'line.unit', 'line.price': 'line.price', 'line.amount': 'line.net', rate: 'tax.rate' },
			...{
				base: 'tax.base',
				vat: 'tax.amount',
				currency: 'currency',
				amount_due: 'amount-due',
				net: 'net',
				total: 'total',
			},
			...{
				'company.bank': 'issuer.bank',
				'company.vat_no': 'issuer.tax-number',
				'customer.vat_no': 'customer.tax-number',
			},
			'tax.note': 'grounds',
		},
		says: ['Taxable amount', 'Total to pay:', 'Invoice to:'],
		colours: ['000000', '1f4e5f', 'dce9ec'],
		pictures: 0,
	},
	{
		name: 'a page in HTML, Norwegian, by hand',
		kind: 'invoice',
		bytes: async () => file('page.html'),
		right: {
			...{
				Fakturanr: 'number',
				Kundenavn: 'customer.name',
				Kundeadresse: 'customer.address',
				Dato: 'day',
				Forfall: 'due-day',
			},
			...{ Ref: 'your-orders', Nr: 'customer.number', 'Org nr': 'customer.tax-number', Varenr: 'line.item' },
			...{ Varetekst: 'line.description', Antall: 'line.quantity', Enhetspris: 'line.price', Beløp: 'line.net' },
			...{ Netto: 'net', 'Mva-sats': 'tax.rate', Grunnlag: 'tax.base', 'Mva-beløp': 'tax.amount' },
			...{ 'Å betale': 'amount-due', Bank: 'issuer.bank', 'Vårt org nr': 'issuer.tax-number' },
			...{ Avgiftsmerknad: 'grounds', Firma: 'issuer.name', Firmaadresse: 'issuer.address' },
		},
		says: ['Fakturadato', 'Sum eks. mva', 'Takk for handelen.', 'Beskrivelse'],
		colours: ['1d2b36', '0b6e6e', 'ffffff', 'c4d3d3', 'eef5f5', '5b6b73'],
		pictures: 0,
	},
	{
		name: 'an open document in Dutch with fields and placeholders, by an office program',
		kind: 'statement',
		bytes: async () => file('statement.odt'),
		right: {
			...{ Afzender: 'issuer.name', 'Adres afzender': 'issuer.address', Klantnaam: 'customer.name' },
			...{ Klantadres: 'customer.address', nummer: 'number', Datum: 'day', klantnummer: 'customer.number' },
			...{ factuurnr: 'item.number', datum: 'item.day', vervaldatum: 'item.due-day', bedrag: 'item.amount' },
			...{ openstaand: 'item.open', Saldo: 'balance', achterstallig: 'past-due', bank: 'issuer.bank' },
		},
		says: ['Rekeningoverzicht', 'Openstaand', 'Te laat:', 'Blz. 1 van 1'],
		colours: ['222222', '8a3b12', '666666', 'f3e3d6', 'd9c8ba'],
		pictures: 0,
	},
]

/** What is right of a mark: several of one name are told by their order. */
function rightOf(understood: Understood, right: Record<string, string>): Map<string, string> {
	const seen = new Map<string, number>()
	return new Map(
		understood.marks.map(({ key, name }) => {
			const at = (seen.get(name) ?? 0) + 1
			seen.set(name, at)
			const field = right[at === 1 ? name : `${name} ${at}`]
			if (field === undefined) throw new Error(`Nothing is said of the mark ${name} (${key}).`)
			return [key, field]
		}),
	)
}
const pictureTools = { metrics, picture: () => ({ ratio: 3 }), encode: () => ({ ok: false as const, message: 'none' }) }

/** Reads a form and gives each mark its right field. */
async function mapped({ kind, bytes, right }: (typeof forms)[number]) {
	const { form, pictures } = await readForm(sourceOf('form', await bytes()))
	const vocabulary = vocabularyOf(fieldsByKey.values(), kind)
	const understood = understand(form, noAnswers, vocabulary)
	const wanted = rightOf(understood, right)
	const answers: Answers = {
		...noAnswers,
		marks: Object.fromEntries([...wanted].map(([key, field]) => [key, { field }])),
	}
	return {
		form,
		pictures,
		understood,
		wanted,
		answers,
		vocabulary,
		made: layoutOfForm(understood, answers, kind, 'Form'),
	}
}
const written = (layout: Parameters<typeof compileLayout>[0], kind: PaperKind) => {
	const drawn = drawPaper(compileLayout(layout), samplePaper(kind), pictureTools, null)
	const marks = drawn.pages.flat()
	return { drawn, marks, text: marks.flatMap((mark) => (mark.type === 'text' ? [mark.text] : [])).join(' ') }
}

test.each(forms)(
	'a form of their own becomes a layout with its text, tables, pictures and colours: $name',
	async (one) => {
		const { made, pictures } = await mapped(one)
		const read = readLayout(JSON.stringify(made.layout))
		expect(read).toMatchObject({ ok: true })
		const stops = checkLayout(made.layout).filter(({ level }) => level === 'stop')
		const { drawn, marks, text } = written(made.layout, one.kind)
		const paper = checkPaper(samplePaper(one.kind), drawn).filter(({ level }) => level === 'stop')
		expect({ stops, paper }).toEqual({ stops: [], paper: [] })
		for (const words of one.says) for (const word of words.split(' ')) expect(text).toContain(word)
		const content = samplePaper(one.kind)
		const lines =
			content.kind === 'statement'
				? content.items.map(({ number }) => number)
				: content.lines.map(({ description }) => description.split(' ')[0] ?? '')
		for (const line of lines) expect(text).toContain(line)
		// Nothing of a mark is left on the paper.
		expect(text).not.toMatch(/[[\]{}«»]/)
		const colours = new Set(marks.flatMap((mark) => ('color' in mark && mark.color ? [mark.color] : [])))
		expect([...colours].sort()).toEqual(expect.arrayContaining([...one.colours].sort()))
		expect(pictures).toHaveLength(one.pictures)
		expect(marks.filter(({ type }) => type === 'image')).toHaveLength(one.pictures)
	},
)

test('most marks of forms in five languages are offered rightly, and none is taken by itself', async () => {
	let [right, all] = [0, 0]
	const wrong: string[] = []
	for (const one of forms) {
		const { understood, wanted } = await mapped(one)
		for (const { key, name, offer } of understood.marks) {
			all++
			if (offer?.field === wanted.get(key)) right++
			else wrong.push(`${name}: ${offer?.field ?? 'nothing'} for ${wanted.get(key)}`)
		}
		const bare = layoutOfForm(understood, noAnswers, one.kind, 'Form')
		expect(JSON.stringify(bare.layout)).not.toMatch(/"field":"(?!pages?")/)
	}
	console.info(`${right} of ${all} marks offered rightly; otherwise: ${wrong.join('; ')}`)
	expect(right / all).toBeGreaterThan(0.9)
})

test('a mark of words or a picture described by its mark becomes the picture of the item, and the firm’s logo', async () => {
	const own = fieldsOf({ reckoned: [] }, [{ of: 'item', key: 'photograph', name: 'Photograph', type: 'picture' }])
	const vocabulary = vocabularyOf(own.values(), 'invoice')
	const html = `<html><body><img alt="{logo}" src="data:image/png;base64,${png(30, 10, [1, 2, 3]).toString('base64')}" width="90" height="30"><table><tr><th>Bild</th><th>Text</th><th>Menge</th></tr><tr><td>{{Foto}}</td><td>{{Text}}</td><td>{{Menge}}</td></tr></table></body></html>`
	const { form } = await readForm(sourceOf('form', Buffer.from(html)))
	const understood = understand(form, noAnswers, vocabulary)
	const offered = Object.fromEntries(understood.marks.map(({ key, offer }) => [key, { field: offer?.field ?? '' }]))
	expect(offered).toEqual({
		'paper|logo': { field: 'issuer.logo' },
		'lines|foto': { field: 'line.item.own.picture.photograph' },
		'lines|text': { field: 'line.description' },
		'lines|menge': { field: 'line.quantity' },
	})
	const { layout } = layoutOfForm(understood, { ...noAnswers, marks: offered }, 'invoice', 'x', own)
	expect(layout.body).toMatchObject([
		{ type: 'picture', of: 'logo', width: 67.5, height: 22.5 },
		{ type: 'lines', columns: [{ cell: [], picture: { field: 'line.item.own.picture.photograph' } }, {}, {}] },
	])
	// Until it is given a field, a mark stands as it was written and the picture as it came.
	const bare = JSON.stringify(layoutOfForm(understood, noAnswers, 'invoice', 'x', own).layout.body)
	expect(bare).toMatch(/"image":"[0-9a-f]{64}".*\{\{Foto\}\}/)
})

test('the numbers of lists are those of the form: of levels, of lists that go on, and that begin elsewhere', async () => {
	const level = (at: number, form: string, text: string, start = 1) =>
		`<w:lvl w:ilvl="${at}"><w:start w:val="${start}"/><w:numFmt w:val="${form}"/><w:lvlText w:val="${text}"/></w:lvl>`
	const numbering = `<w:numbering xmlns:w="w"><w:abstractNum w:abstractNumId="0">${level(0, 'decimal', '%1.')}${level(1, 'decimal', '%1.%2')}${level(2, 'lowerLetter', '(%3)')}</w:abstractNum><w:abstractNum w:abstractNumId="1">${level(0, 'upperRoman', '%1', 4)}</w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="1"/></w:num><w:num w:numId="3"><w:abstractNumId w:val="0"/><w:lvlOverride w:ilvl="0"><w:startOverride w:val="7"/></w:lvlOverride></w:num></w:numbering>`
	const item = (text: string, id: number, at = 0) =>
		paragraph(run(text), `<w:numPr><w:ilvl w:val="${at}"/><w:numId w:val="${id}"/></w:numPr>`)
	const word = docx(
		[
			item('a', 1),
			item('b', 1),
			item('ba', 1, 1),
			item('bb', 1, 1),
			item('bba', 1, 2),
			paragraph(run('between')),
			item('c', 1),
			item('ca', 1, 1),
			item('r', 2),
			item('s', 2),
			item('seven', 3),
			item('eight', 3),
		].join(''),
		{ 'word/numbering.xml': numbering },
		'<Relationship Id="n1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/numbering" Target="numbering.xml"/>',
	)
	const said = async (bytes: Buffer) => {
		const { form } = await readForm(sourceOf('form', bytes))
		const { layout } = layoutOfForm(
			understand(form, noAnswers, vocabularyOf(fieldsByKey.values(), 'invoice')),
			noAnswers,
			'invoice',
			'x',
		)
		const { marks } = written(layout, 'invoice')
		return marks
			.flatMap((mark) => (mark.type === 'text' ? [mark.text.trim()] : []))
			.join(' ')
			.replace(/\s+/g, ' ')
	}
	expect(await said(word)).toContain('1. a 2. b 2.1 ba 2.2 bb (a) bba between 3. c 3.1 ca IV r V s 7. seven 8. eight')
	const page =
		'<html><body><ol><li>a</li><li><p>b</p><p>more of b</p></li></ol><p>between</p><ol start="3"><li>c<ol type="a"><li>ca</li><li value="4">cd</li></ol></li><li>d</li></ol><ul><li>dot</li></ul></body></html>'
	expect(await said(Buffer.from(page))).toContain('1. a 2. b more of b between 3. c a. ca d. cd 4. d • dot')
	const style =
		'<text:list-style style:name="L"><text:list-level-style-number text:level="1" style:num-format="1" style:num-suffix="."/><text:list-level-style-number text:level="2" style:num-format="a" style:num-suffix=")"/></text:list-style><text:list-style style:name="D"><text:list-level-style-bullet text:level="1"/><text:list-level-style-number text:level="2" style:num-format="1"/></text:list-style>'
	const list = (inner: string, more = '') => `<text:list text:style-name="L"${more}>${inner}</text:list>`
	const li = (text: string, inner = '') => `<text:list-item><text:p>${text}</text:p>${inner}</text:list-item>`
	const open = odt(
		`${list(li('a') + li('b', `<text:list>${li('ba')}${li('bb')}</text:list>`))}<text:p>between</text:p>${list(li('c'), ' text:continue-numbering="true"')}${list(li('new'))}<text:list text:style-name="D">${li('dot')}</text:list>`,
		style,
	)
	expect(await said(open)).toContain('1. a 2. b a) ba b) bb between 3. c 1. new • dot')
})

test('what opens and closes a repetition repeats a row; alone it is a mark, and round paragraphs it is told', async () => {
	const vocabulary = vocabularyOf(fieldsByKey.values(), 'invoice')
	const read = async (html: string) => {
		const { form } = await readForm(sourceOf('form', Buffer.from(`<html><body>${html}</body></html>`)))
		const understood = understand(form, noAnswers, vocabulary)
		return { understood, ...layoutOfForm(understood, noAnswers, 'invoice', 'x') }
	}
	const row = await read('<table><tr><td>{{#rows}}{{a}}</td><td>{{b}}{{/rows}}</td></tr></table>')
	expect(row.layout.body).toMatchObject([{ type: 'lines', of: 'lines' }])
	expect(row.understood.marks.map(({ name }) => name)).toEqual(['a', 'b'])
	expect(row.notes).toEqual([])
	const paragraphs = await read('<p>{{#paid}}</p><p>Thank you.</p><p>{{/paid}}</p>')
	expect(paragraphs.notes.map(({ words }) => words).join()).toMatch(/\{\{#paid\}\}.*stands once, and always/)
	const alone = await read('<table><tr><td>{{#number}}</td></tr></table>')
	expect(alone.understood.marks.map(({ name, offer }) => [name, offer?.field])).toEqual([['number', 'number']])
	expect(JSON.stringify(alone.layout.body)).toContain('{{#number}}')
})

test('what stands beside the usual places of a format is read or told: captions, readings, indexes, cells that others cover', async () => {
	const { form: page } = await readForm(
		sourceOf('form', Buffer.from('<table><caption>Over <b>it</b></caption><tr><td>cell</td></tr></table>')),
	)
	const { form: word } = await readForm(
		sourceOf(
			'form',
			docx(
				`${paragraph(`<w:r><w:ruby><w:rt>${run('above')}</w:rt><w:rubyBase>${run('base')}</w:rubyBase></w:ruby></w:r>`)}<w:tbl><w:tr><w:tc><w:tcPr><w:vMerge w:val="restart"/></w:tcPr>${paragraph(run('tall'))}</w:tc></w:tr><w:tr><w:tc><w:tcPr><w:vMerge/></w:tcPr>${paragraph(run('covered'))}</w:tc></w:tr></w:tbl>`,
			),
		),
	)
	const { form: open } = await readForm(
		sourceOf(
			'form',
			odt(
				'<text:numbered-paragraph><text:p>numbered</text:p></text:numbered-paragraph><text:bibliography><text:index-body><text:p>listed</text:p></text:index-body></text:bibliography>',
			),
		),
	)
	const said = ({ body }: typeof page) => paragraphsIn(body).map(({ inlines }) => textOf(inlines))
	expect(said(page)).toEqual(['Over it', 'cell'])
	expect(said(word)).toEqual(['base', 'tall'])
	expect(word.notes.map(({ words }) => words).join()).toMatch(/“covered”/)
	expect(said(open)).toEqual(['numbered', 'listed'])
})

test('a text box that hangs on the paragraph that begins a page begins it too, and no page is left empty', async () => {
	const box =
		'<w:r><w:pict><v:shape xmlns:v="v"><v:textbox><w:txbxContent>' +
		paragraph(run('box')) +
		'</w:txbxContent></v:textbox></v:shape></w:pict></w:r>'
	const frame = '<draw:frame><draw:text-box><text:p>box</text:p></draw:text-box></draw:frame>'
	const style = '<style:style style:name="N" style:family="paragraph" style:master-page-name="First"/>'
	for (const bytes of [
		docx(paragraph(box + run('text'), '<w:pageBreakBefore/>')),
		odt(`<text:p text:style-name="N">${frame}text</text:p>`, style),
	]) {
		const { form } = await readForm(sourceOf('form', bytes))
		const understood = understand(form, noAnswers, vocabularyOf(fieldsByKey.values(), 'invoice'))
		const { drawn, text } = written(layoutOfForm(understood, noAnswers, 'invoice', 'x').layout, 'invoice')
		expect(drawn.pages).toHaveLength(1)
		expect(text).toContain('box text')
	}
})
