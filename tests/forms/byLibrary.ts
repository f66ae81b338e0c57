import {
	AlignmentType,
	BorderStyle,
	Document,
	Footer,
	Header,
	ImageRun,
	Packer,
	PageNumber,
	Paragraph,
	ShadingType,
	SimpleMailMergeField,
	Tab,
	Table,
	TableCell,
	TableRow,
	TabStopType,
	TextRun,
	WidthType,
} from 'docx'
import { png } from '../pngs'

// Two forms written by a library: a letter with merge fields, and one with two repeated tables.

const field = (name: string) => new SimpleMailMergeField(name)
const text = (words: string, look: object = {}) => new TextRun({ text: words, ...look })
const none = { style: BorderStyle.NONE, size: 0, color: 'auto' }
const bare = { top: none, bottom: none, left: none, right: none, insideHorizontal: none, insideVertical: none }

const cell = (children: Paragraph[], width: number, more: object = {}) =>
	new TableCell({ children, width: { size: width, type: WidthType.DXA }, ...more })

/** A letter with merge fields: a running head and foot, a picture, facts by tabs, a table with a shaded head, totals. */
export async function mergeLetter(): Promise<Buffer> {
	const widths = [1500, 4500, 1000, 1300, 1338]
	const heads = ['Item', 'Description', 'Qty', 'Price', 'Amount']
	const fields = ['Item_Code', 'Description', 'Quantity', 'Unit_Price', 'Line_Total']
	const aligned = (index: number) => (index > 1 ? AlignmentType.RIGHT : AlignmentType.LEFT)
	const made = new Document({
		styles: {
			default: { document: { run: { font: 'Georgia', size: 21, color: '20303A', language: { value: 'en-GB' } } } },
		},
		sections: [
			{
				properties: {
					page: {
						size: { width: 11906, height: 16838 },
						margin: { top: 1700, bottom: 1400, left: 1134, right: 1134, header: 700, footer: 600 },
					},
				},
				headers: {
					default: new Header({
						children: [
							new Paragraph({
								children: [
									new ImageRun({
										type: 'png',
										data: png(120, 40, [122, 31, 58]),
										transformation: { width: 120, height: 40 },
									}),
								],
							}),
						],
					}),
				},
				footers: {
					default: new Footer({
						children: [
							new Paragraph({
								alignment: AlignmentType.CENTER,
								children: [
									text('Brackwater Ropeworks · 4 Slip Lane, Brackwater · page ', { size: 16, color: '7A1F3A' }),
									new TextRun({
										size: 16,
										color: '7A1F3A',
										children: [PageNumber.CURRENT, ' of ', PageNumber.TOTAL_PAGES],
									}),
								],
							}),
						],
					}),
				},
				children: [
					new Paragraph({ children: [field('Customer_Name')] }),
					new Paragraph({ children: [field('Customer_Address')], spacing: { after: 480 } }),
					new Paragraph({
						spacing: { after: 240 },
						children: [text('Invoice ', { bold: true, size: 34, color: '7A1F3A' }), field('Invoice_No')],
					}),
					new Paragraph({
						tabStops: [{ type: TabStopType.LEFT, position: 2000 }],
						children: [text('Date:'), new TextRun({ children: [new Tab()] }), field('Invoice_Date')],
					}),
					new Paragraph({
						tabStops: [{ type: TabStopType.LEFT, position: 2000 }],
						children: [text('Payment due:'), new TextRun({ children: [new Tab()] }), field('Due_Date')],
					}),
					new Paragraph({
						tabStops: [{ type: TabStopType.LEFT, position: 2000 }],
						spacing: { after: 240 },
						children: [text('Your order:'), new TextRun({ children: [new Tab()] }), field('PO')],
					}),
					new Paragraph({
						spacing: { after: 200 },
						children: [
							text('Dear customer, we thank you for your order and ask '),
							text('kindly', { italics: true }),
							text(' for payment by '),
							field('due_date'),
							text('.'),
						],
					}),
					new Table({
						width: { size: 9638, type: WidthType.DXA },
						columnWidths: widths,
						borders: {
							...bare,
							insideHorizontal: { style: BorderStyle.SINGLE, size: 4, color: 'C9BFA8' },
							bottom: { style: BorderStyle.SINGLE, size: 4, color: 'C9BFA8' },
						},
						rows: [
							new TableRow({
								tableHeader: true,
								children: heads.map((head, index) =>
									cell(
										[
											new Paragraph({
												alignment: aligned(index),
												children: [text(head, { bold: true, color: 'FFFFFF' })],
											}),
										],
										widths[index] ?? 0,
										{
											shading: { type: ShadingType.CLEAR, fill: '7A1F3A', color: 'auto' },
										},
									),
								),
							}),
							new TableRow({
								children: fields.map((name, index) =>
									cell([new Paragraph({ alignment: aligned(index), children: [field(name)] })], widths[index] ?? 0),
								),
							}),
						],
					}),
					new Paragraph({ children: [] }),
					new Table({
						alignment: AlignmentType.RIGHT,
						width: { size: 4000, type: WidthType.DXA },
						columnWidths: [2200, 1800],
						borders: bare,
						rows: [
							['Net', 'Net_Total'],
							['', 'Tax_Amount'],
							['Total', 'Grand_Total'],
						].map(
							([label = '', name = '']) =>
								new TableRow({
									children: [
										cell(
											[
												new Paragraph({
													children:
														label === ''
															? [text('VAT '), field('Tax_Rate'), text(' of '), field('Tax_Base')]
															: [text(label, { bold: label === 'Total' })],
												}),
											],
											2200,
										),
										cell([new Paragraph({ alignment: AlignmentType.RIGHT, children: [field(name)] })], 1800),
									],
								}),
						),
					}),
					new Paragraph({ spacing: { before: 300 }, children: [text('Our VAT number: '), field('Company_VAT')] }),
					new Paragraph({ children: [text('Your VAT number: '), field('Customer_VAT'), text(' '), field('Tax_Note')] }),
					new Paragraph({ children: [text('Bank: '), field('Bank_Details')] }),
					new Paragraph({ children: [field('Company_Name')] }),
					new Paragraph({ children: [field('Company_Address')] }),
				],
			},
		],
	})
	return Packer.toBuffer(made)
}

/** A form in which two tables are repeated: the lines, and the tax by its rates; names in double brackets. */
export async function twoTables(): Promise<Buffer> {
	const edge = { style: BorderStyle.SINGLE, size: 6, color: '1F4E5F' }
	const grid = { top: edge, bottom: edge, left: edge, right: edge, insideHorizontal: edge, insideVertical: edge }
	const table = (rows: string[][], widths: number[]) =>
		new Table({
			width: { size: widths.reduce((sum, one) => sum + one, 0), type: WidthType.DXA },
			columnWidths: widths,
			borders: grid,
			rows: rows.map(
				(words, at) =>
					new TableRow({
						children: words.map((word, index) =>
							cell(
								[new Paragraph({ children: [text(word, { bold: at === 0 })] })],
								widths[index] ?? 0,
								at === 0 ? { shading: { type: ShadingType.CLEAR, fill: 'DCE9EC', color: 'auto' } } : {},
							),
						),
					}),
			),
		})
	const made = new Document({
		styles: { default: { document: { run: { font: 'Arial', size: 20, language: { value: 'en-GB' } } } } },
		sections: [
			{
				properties: {
					page: { size: { width: 11906, height: 16838 }, margin: { top: 1134, bottom: 1134, left: 1134, right: 1134 } },
				},
				children: [
					new Paragraph({ children: [text('{{company.name}}', { bold: true, size: 28, color: '1F4E5F' })] }),
					new Paragraph({ spacing: { after: 300 }, children: [text('{{company.address}}')] }),
					new Paragraph({ children: [text('INVOICE {{number}} of {{date}}, to be paid by {{due}}')] }),
					new Paragraph({ children: [text('Invoice to: {{customer.name}}')] }),
					new Paragraph({ children: [text('{{customer.address}}')] }),
					new Paragraph({ spacing: { after: 300 }, children: [text('{{customer.vat_no}} {{tax.note}}')] }),
					table(
						[
							['Pos', 'Article', 'Text', 'Quantity', 'Unit', 'Unit price', 'Net'],
							[
								'{{line.pos}}',
								'{{line.article}}',
								'{{line.text}}',
								'{{line.quantity}}',
								'{{line.unit}}',
								'{{line.price}}',
								'{{line.amount}}',
							],
						],
						[700, 1300, 3500, 1100, 900, 1069, 1069],
					),
					new Paragraph({ children: [] }),
					table(
						[
							['VAT rate', 'Taxable amount', 'VAT'],
							['{{rate}}', '{{base}}', '{{vat}}'],
						],
						[2000, 2500, 2000],
					),
					new Paragraph({ children: [] }),
					new Paragraph({
						alignment: AlignmentType.RIGHT,
						children: [
							text('Total to pay: ', { bold: true }),
							text('{{currency}} {{amount_due}}', { bold: true }),
							text(' (net {{net}}, gross {{total}})'),
						],
					}),
					new Paragraph({ children: [text('{{company.bank}}, VAT {{company.vat_no}}', { size: 16 })] }),
				],
			},
		],
	})
	return Packer.toBuffer(made)
}
