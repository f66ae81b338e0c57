import {
	AlignmentType,
	BorderStyle,
	Document,
	Footer,
	HeadingLevel,
	ImageRun,
	type ITableCellBorders,
	LevelFormat,
	Packer,
	PageNumber,
	Paragraph,
	type ParagraphChild,
	ShadingType,
	Table,
	TableCell,
	TableLayoutType,
	TableRow,
	TextRun,
	WidthType,
} from 'docx'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type { Block, Cell, Run } from '@/layout/blockKit'
import { runsRightToLeft } from '@/layout/text'
import { codePng } from './html'
import { faces, type Paper } from './paper'
import { svgAsPng } from './svgAsPng'

type Part = Paragraph | Table

/** Points in the units of the format (ISO/IEC 29500-1, 17.18.81): twentieths for lengths, halves for letters. */
const twips = (points: number): number => Math.round(points * 20)
const halves = (points: number): number => Math.max(2, Math.round(points * 2))
const pixels = (points: number): number => Math.max(1, Math.round((points * 96) / 72))
const none = { style: BorderStyle.NONE, size: 0, color: 'auto' }
const bare: ITableCellBorders = { top: none, bottom: none, left: none, right: none }

/** A paper as DOCX: headings as headings, tables as tables, pictures within. The same paper gives the same bytes. */
export async function writeDocx(paper: Paper): Promise<Buffer> {
	const drawn = new Map<string, Buffer>()
	for (const [sha256, { type, bytes }] of paper.pictures)
		if (type === 'image/svg+xml') drawn.set(sha256, await svgAsPng(sha256, bytes, 600))
	const { size, margins, text } = paper
	const made = new Document({
		title: paper.title,
		creator: paper.author,
		lastModifiedBy: paper.author,
		styles: {
			default: {
				document: {
					run: {
						font: faces[text.family].name,
						size: halves(text.size),
						color: text.color,
						language: { value: paper.language },
					},
				},
			},
		},
		numbering: {
			config: [
				{
					reference: 'dots',
					levels: [
						{
							level: 0,
							format: LevelFormat.BULLET,
							text: '•',
							style: { paragraph: { indent: { left: 360, hanging: 240 } } },
						},
					],
				},
				{
					reference: 'numbers',
					levels: [
						{
							level: 0,
							format: LevelFormat.DECIMAL,
							text: '%1.',
							style: { paragraph: { indent: { left: 400, hanging: 300 } } },
						},
					],
				},
			],
		},
		sections: [
			{
				properties: {
					page: {
						size: { width: twips(size.width), height: twips(size.height) },
						margin: {
							top: twips(margins.top),
							right: twips(margins.right),
							bottom: twips(margins.bottom),
							left: twips(margins.left),
						},
					},
				},
				footers: {
					default: new Footer({
						children: [
							new Paragraph({
								alignment: AlignmentType.RIGHT,
								children: [new TextRun({ children: [PageNumber.CURRENT, ' / ', PageNumber.TOTAL_PAGES], size: 15 })],
							}),
						],
					}),
				},
				children: parts(paper.blocks, paper, size.width - margins.left - margins.right, { headings: 0, drawn }),
			},
		],
	})
	return settled(await Packer.toBuffer(made), paper.day)
}

/** How far the paper is written. */
type Being = { headings: number; drawn: ReadonlyMap<string, Buffer> }

const parts = (blocks: readonly Block[], paper: Paper, width: number, being: Being): Part[] =>
	blocks.flatMap((block) => partsOf(block, paper, width, being))

function partsOf(block: Block, paper: Paper, width: number, being: Being): Part[] {
	switch (block.is) {
		case 'text': {
			const bidirectional = runsRightToLeft(block.runs.map(({ text }) => text).join(''))
			return [
				new Paragraph({
					children: runs(block.runs),
					alignment: alignments[block.align],
					bidirectional,
					...(block.heading
						? { heading: being.headings++ === 0 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2 }
						: {}),
					...(block.list ? { numbering: { reference: block.list, level: 0 } } : {}),
				}),
			]
		}
		case 'table':
			return [tableOf(block, paper, width, being), gap()]
		case 'picture': {
			const image = imageOf(block.sha256, block.width, block.height, paper, being)
			return image ? [new Paragraph({ children: [image], alignment: alignments[block.align] })] : []
		}
		case 'code': {
			const image = new ImageRun({
				type: 'png',
				data: codePng(block),
				transformation: { width: pixels(block.width), height: pixels(block.height) },
				altText: { name: block.text, description: block.text, title: '' },
			})
			return [new Paragraph({ children: [image], alignment: alignments[block.align] })]
		}
		case 'rule':
			return [
				new Paragraph({
					children: [],
					border: { bottom: { style: BorderStyle.SINGLE, size: 5, color: block.color, space: 1 } },
					spacing: { after: 60 },
				}),
			]
		case 'box': {
			const edge = block.edge ? { style: BorderStyle.SINGLE, size: 5, color: block.edge } : none
			return [
				grid(
					[[parts(block.blocks, paper, width - 16, being)]],
					[1],
					width,
					{ top: edge, bottom: edge, left: edge, right: edge },
					block.fill,
				),
				gap(),
			]
		}
		case 'beside':
			return [
				grid(
					[block.columns.map(({ share, blocks }) => parts(blocks, paper, width * share, being))],
					block.columns.map(({ share }) => share),
					width,
					bare,
					null,
				),
				gap(),
			]
	}
}

/** Tables that follow each other would be one; a small paragraph parts them. */
const gap = (): Paragraph =>
	new Paragraph({ children: [new TextRun({ text: '', size: 8 })], spacing: { before: 0, after: 0 } })
const alignments = { left: AlignmentType.LEFT, center: AlignmentType.CENTER, right: AlignmentType.RIGHT }

const runs = (own: readonly Run[]): ParagraphChild[] =>
	own.flatMap(({ text, bold, italic, underline, size, color }) =>
		text.split('\n').map(
			(line, place) =>
				new TextRun({
					text: line.replace(/\p{Cc}/gu, ''),
					bold,
					italics: italic,
					...(underline ? { underline: {} } : {}),
					size: halves(size),
					color,
					rightToLeft: runsRightToLeft(line),
					...(place > 0 ? { break: 1 } : {}),
				}),
		),
	)

function cellParts(cell: Cell, paper: Paper, being: Being): Paragraph[] {
	const image = cell.picture ? imageOf(cell.picture.sha256, cell.picture.width, null, paper, being) : null
	const lines = cell.lines.map((line) => new Paragraph({ children: runs(line), alignment: alignments[cell.align] }))
	const all = [...(image ? [new Paragraph({ children: [image] })] : []), ...lines]
	return all.length > 0 ? all : [new Paragraph({ children: [] })]
}

function tableOf(block: Extract<Block, { is: 'table' }>, paper: Paper, width: number, being: Being): Table {
	const line = { style: BorderStyle.SINGLE, size: 3, color: 'BBBBBB' }
	const under = (ruled: boolean) => ({ ...bare, bottom: ruled ? line : none })
	const wide = (place: number) => twips(width * (block.shares[place] ?? 0))
	const cellOf = (cell: Cell, place: number, all: number): TableCell =>
		new TableCell({
			children: cellParts(cell, paper, being),
			borders: under(block.ruled),
			margins: { top: 40, bottom: 40, left: 40, right: 80 },
			width: { size: all === 1 ? twips(width) : wide(place), type: WidthType.DXA },
			...(all === 1 && block.shares.length > 1 ? { columnSpan: block.shares.length } : {}),
		})
	return new Table({
		layout: TableLayoutType.FIXED,
		width: { size: twips(width), type: WidthType.DXA },
		columnWidths: block.shares.map((_, place) => wide(place)),
		borders: { ...bare, insideHorizontal: none, insideVertical: none },
		rows: [
			...(block.head
				? [
						new TableRow({
							tableHeader: true,
							cantSplit: true,
							children: block.head.map((cell, place) => cellOf(cell, place, 0)),
						}),
					]
				: []),
			...block.rows.map(
				({ cells }) =>
					new TableRow({ cantSplit: true, children: cells.map((cell, place) => cellOf(cell, place, cells.length)) }),
			),
		],
	})
}

/** A table for what stands side by side or in a box. */
function grid(
	rows: Part[][][],
	shares: number[],
	width: number,
	borders: ITableCellBorders,
	fill: string | null,
): Table {
	return new Table({
		layout: TableLayoutType.FIXED,
		width: { size: twips(width), type: WidthType.DXA },
		columnWidths: shares.map((share) => twips(width * share)),
		borders: { ...bare, insideHorizontal: none, insideVertical: none },
		rows: rows.map(
			(cells) =>
				new TableRow({
					children: cells.map(
						(children, place) =>
							new TableCell({
								// A cell ends with a paragraph (ISO/IEC 29500-1, 17.4.65).
								children:
									children.at(-1) instanceof Paragraph ? children : [...children, new Paragraph({ children: [] })],
								borders,
								margins: fill || borders !== bare ? { top: 100, bottom: 100, left: 120, right: 120 } : { right: 160 },
								width: { size: twips(width * (shares[place] ?? 1)), type: WidthType.DXA },
								...(fill ? { shading: { type: ShadingType.CLEAR, fill, color: 'auto' } } : {}),
							}),
					),
				}),
		),
	})
}

function imageOf(
	sha256: string,
	width: number,
	height: number | null,
	{ pictures }: Paper,
	{ drawn }: Being,
): ImageRun | null {
	const picture = pictures.get(sha256)
	if (!picture) return null
	const data = Buffer.from(picture.bytes)
	const transformation = { width: pixels(width), height: pixels(height ?? width / picture.ratio) }
	const png = drawn.get(sha256)
	if (png) return new ImageRun({ type: 'svg', data, transformation, fallback: { type: 'png', data: png } })
	return new ImageRun({ type: picture.type === 'image/png' ? 'png' : 'jpg', data, transformation })
}

/** The same file without what differs from one writing to the next: times, and numbers that run on from file to file. */
function settled(bytes: Buffer, day: string): Buffer {
	const files = unzipSync(bytes)
	const out: Record<string, Uint8Array> = {}
	const names = new Map<string, string>()
	const rename = (text: string) => {
		let renamed = text
		for (const [from, to] of names) renamed = renamed.replaceAll(from, to)
		return renamed
	}
	for (const name of Object.keys(files).sort()) {
		const ending = /^word\/media\/(.+)\.(\w+)$/.exec(name)
		if (ending?.[1] && ending[2]) names.set(`${ending[1]}.${ending[2]}`, `picture-${names.size + 1}.${ending[2]}`)
	}
	for (const name of Object.keys(files).sort()) {
		const file = files[name] ?? new Uint8Array()
		if (!/\.(xml|rels)$/.test(name)) {
			out[rename(name)] = file
			continue
		}
		let drawn = 0
		const ids = new Map<string, string>()
		out[name] = strToU8(
			rename(strFromU8(file))
				.replace(/(<dcterms:(?:created|modified)[^>]*>)[^<]*/g, `$1${day}T12:00:00Z`)
				.replace(/<(wp:docPr|pic:cNvPr) id="\d+"/g, (_, tag) => `<${tag} id="${tag === 'wp:docPr' ? ++drawn : drawn}"`)
				.replace(/(?<==")rId[\w-]{12,}(?=")/g, (id) => {
					const known = ids.get(id) ?? `rIdP${ids.size + 1}`
					ids.set(id, known)
					return known
				}),
		)
	}
	return Buffer.from(zipSync(out, { mtime: '2026-01-01T12:00:00', level: 6 }))
}
