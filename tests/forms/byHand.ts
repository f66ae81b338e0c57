import { strToU8, zipSync } from 'fflate'

// A form written by hand: content controls, a section that repeats a row, and marks that an editor's spelling marks have torn apart. French.

const w = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
const w15 = 'xmlns:w15="http://schemas.microsoft.com/office/word/2012/wordml"'
const run = (text: string, look = '') =>
	`<w:r>${look ? `<w:rPr>${look}</w:rPr>` : ''}<w:t xml:space="preserve">${text}</w:t></w:r>`
const paragraph = (inner: string, look = '') => `<w:p>${look ? `<w:pPr>${look}</w:pPr>` : ''}${inner}</w:p>`
const control = (name: string, shown: string, look = '') =>
	`<w:sdt><w:sdtPr><w:alias w:val="${name}"/><w:showingPlcHdr/></w:sdtPr><w:sdtContent>${run(shown, look)}</w:sdtContent></w:sdt>`
const torn = (before: string, ...parts: string[]) =>
	run(before) +
	parts
		.map(
			(part, at) =>
				`${at === 1 ? '<w:proofErr w:type="spellStart"/>' : ''}${run(part)}${at === 1 ? '<w:proofErr w:type="spellEnd"/>' : ''}`,
		)
		.join('')
const cell = (inner: string, width: number, more = '') =>
	`<w:tc><w:tcPr><w:tcW w:w="${width}" w:type="dxa"/>${more}</w:tcPr>${inner}</w:tc>`

const widths = [5000, 1200, 1600, 1800]
const grid = `<w:tblGrid>${widths.map((width) => `<w:gridCol w:w="${width}"/>`).join('')}</w:tblGrid>`
const shaded = '<w:shd w:val="clear" w:color="auto" w:fill="EDE6D6"/>'
const right = '<w:jc w:val="right"/>'
const table = `<w:tbl><w:tblPr><w:tblW w:w="9600" w:type="dxa"/><w:tblBorders><w:insideH w:val="single" w:sz="4" w:color="B0A890"/><w:bottom w:val="single" w:sz="4" w:color="B0A890"/></w:tblBorders></w:tblPr>${grid}
<w:tr><w:trPr><w:tblHeader/></w:trPr>${['Désignation', 'Quantité', 'Prix unitaire', 'Montant HT']
	.map((head, at) => cell(paragraph(run(head, '<w:b/>'), at > 0 ? right : ''), widths[at] ?? 0, shaded))
	.join('')}</w:tr>
<w:sdt><w:sdtPr><w:alias w:val="lignes"/><w15:repeatingSection/></w:sdtPr><w:sdtContent><w:sdt><w:sdtPr><w15:repeatingSectionItem/></w:sdtPr><w:sdtContent>
<w:tr>${['désignation', 'quantité', 'prix unitaire', 'montant']
	.map((name, at) => cell(paragraph(control(name, `[${name}]`), at > 0 ? right : ''), widths[at] ?? 0))
	.join('')}</w:tr>
</w:sdtContent></w:sdt></w:sdtContent></w:sdt>
</w:tbl>`

const taxes = `<w:tbl><w:tblPr><w:tblW w:w="4000" w:type="dxa"/><w:jc w:val="right"/></w:tblPr><w:tblGrid><w:gridCol w:w="2400"/><w:gridCol w:w="1600"/></w:tblGrid><w:sdt><w:sdtPr><w:alias w:val="taux"/><w15:repeatingSection/></w:sdtPr><w:sdtContent>
<w:tr>${cell(paragraph(run('TVA ') + control('Taux TVA', '20 %') + run(' sur ') + control('Base HT', '0,00')), 2400)}${cell(paragraph(control('Montant TVA', '0,00'), right), 1600)}</w:tr>
</w:sdtContent></w:sdt></w:tbl>`

const body = [
	paragraph(control('Société', 'Nom de la société', '<w:b/><w:sz w:val="28"/><w:color w:val="2B5D34"/>')),
	paragraph(control('Adresse société', 'Adresse')),
	paragraph(
		run('Facture n° ', '<w:b/><w:sz w:val="32"/>') + control('Numéro', '0000', '<w:b/><w:sz w:val="32"/>'),
		'<w:spacing w:before="240" w:after="120"/>',
	),
	paragraph(torn('Date : ', '{{', 'date', '}}')),
	paragraph(torn('Échéance : ', '{{da', 'te éché', 'ance}}')),
	paragraph(run('Client : ') + control('Client', 'Nom du client', '<w:b/>')),
	paragraph(control('Adresse client', 'Adresse du client'), '<w:spacing w:after="240"/>'),
	table,
	paragraph(run('Total HT : ') + control('Total HT', '0,00'), `${right}<w:spacing w:before="200"/>`),
	taxes,
	paragraph(run('Net à payer : ', '<w:b/>') + control('Net à payer', '0,00', '<w:b/>'), right),
	paragraph(run('N° TVA : ') + control('Notre TVA', 'FR00') + run(' Votre TVA : ') + control('TVA client', 'FR00')),
	paragraph(control('Mention TVA', 'Autoliquidation')),
	paragraph(control('Coordonnées bancaires', 'IBAN')),
].join('\n')

const section =
	'<w:sectPr><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:top="1134" w:right="1134" w:bottom="1134" w:left="1134" w:header="567" w:footer="567"/></w:sectPr>'
const styles = `<w:styles ${w}><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="Times New Roman" w:hAnsi="Times New Roman"/><w:sz w:val="22"/><w:lang w:val="fr-FR"/></w:rPr></w:rPrDefault></w:docDefaults></w:styles>`

/** A package of parts, as a text document is one; further parts beside them, or others in their place. */
export function docx(inner: string, more: Record<string, string | Uint8Array> = {}, relations = ''): Buffer {
	const parts: Record<string, string | Uint8Array> = {
		'[Content_Types].xml':
			'<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
		'_rels/.rels':
			'<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
		'word/_rels/document.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="s1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/>${relations}</Relationships>`,
		'word/styles.xml': styles,
		'word/document.xml': `<?xml version="1.0" encoding="UTF-8"?><w:document ${w} ${w15} xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"><w:body>${inner}${section}</w:body></w:document>`,
		...more,
	}
	return Buffer.from(
		zipSync(
			Object.fromEntries(
				Object.entries(parts).map(([name, part]) => [name, typeof part === 'string' ? strToU8(part) : part]),
			),
		),
	)
}

const odf = (name: string) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`
/** A package of an open document: its text, the styles that it names, and further parts. */
export const odt = (inner: string, styles = '', more: Record<string, string> = {}): Buffer => {
	const parts = {
		mimetype: 'application/vnd.oasis.opendocument.text',
		'content.xml': `<office:document-content ${['office', 'style', 'text', 'table', 'draw', 'fo', 'svg'].map(odf).join(' ')}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:text>${inner}</office:text></office:body></office:document-content>`,
		...more,
	}
	return Buffer.from(zipSync(Object.fromEntries(Object.entries(parts).map(([name, part]) => [name, strToU8(part)]))))
}

export const controlsForm = (): Buffer => docx(body)
export { paragraph, run }
