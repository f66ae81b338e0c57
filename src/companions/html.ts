import type { Block, Cell, Run } from '@/layout/blockKit'
import { runsRightToLeft } from '@/layout/text'
import { faces, type Paper } from './paper'
import { pngOfCells } from './png'

/** A paper as one HTML file: headings, paragraphs and tables, pictures within, nothing fetched and nothing that runs. */
export function writeHtml(paper: Paper): Buffer {
	const { text, size, margins } = paper
	const { name, kind } = faces[text.family]
	const rules = [
		`body{font:${text.size}pt/1.3 "${name}",${kind};color:#${text.color};max-width:${Math.round(size.width - margins.left - margins.right)}pt;margin:${Math.round(margins.top / 2)}pt auto;padding:0 12pt}`,
		'p,h1,h2{margin:0;font-weight:inherit}h1,h2{margin-top:8pt}',
		'table{border-collapse:collapse;width:100%;margin:4pt 0}td,th{padding:2.5pt 4pt;vertical-align:top;font-weight:inherit;text-align:left}',
		'.ruled th{border-bottom:.8pt solid}.ruled td{border-bottom:.4pt solid #ccc}.beside>tbody>tr>td{padding:0 8pt 0 0}',
		'hr{border:0;border-top:.6pt solid;margin:4pt 0}img{max-width:100%}',
		'@media print{body{max-width:none;margin:0;padding:0}tr{break-inside:avoid}thead{display:table-header-group}}',
	]
	return Buffer.from(
		`<!DOCTYPE html>
<html lang="${escaped(paper.language)}">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'">
<meta name="viewport" content="width=device-width">
<meta name="author" content="${escaped(paper.author)}">
<title>${escaped(paper.title)}</title>
<style>
${rules.join('\n')}
</style>
</head>
<body>
${written(paper.blocks, paper)}
</body>
</html>
`,
		'utf8',
	)
}

const escaped = (text: string): string =>
	text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`).replace(/(?![\n\t])\p{Cc}/gu, '')

/** Blocks one below the other; neighbours of one list are one list. */
function written(blocks: readonly Block[], paper: Paper): string {
	const out: string[] = []
	let list: 'ul' | 'ol' | null = null
	let first = true
	for (const block of blocks) {
		const wanted = block.is === 'text' && block.list ? (block.list === 'dots' ? 'ul' : 'ol') : null
		if (list && list !== wanted) out.push(`</${list}>`)
		if (wanted && list !== wanted) out.push(`<${wanted}>`)
		list = wanted
		if (block.is === 'text') {
			const tag = list ? 'li' : block.heading ? (first ? 'h1' : 'h2') : 'p'
			if (block.heading) first = false
			const all = block.runs.map(({ text }) => text).join('')
			const turned = runsRightToLeft(all) ? ' dir="rtl"' : ''
			out.push(`<${tag}${turned}${aligned(block.align)}>${runs(block.runs, paper)}</${tag}>`)
		} else out.push(blockOf(block, paper))
	}
	if (list) out.push(`</${list}>`)
	return out.join('\n')
}

const aligned = (align: string): string => (align === 'left' ? '' : ` style="text-align:${align}"`)

const runs = (own: readonly Run[], { text }: Paper): string =>
	own
		.map((run) => {
			const style = [
				run.size === text.size ? '' : `font-size:${run.size}pt`,
				run.color === text.color ? '' : `color:#${run.color}`,
			].filter(Boolean)
			const inner = escaped(run.text).replaceAll('\n', '<br>')
			const set = style.length > 0 ? `<span style="${style.join(';')}">${inner}</span>` : inner
			const lined = run.underline ? `<u>${set}</u>` : set
			const slanted = run.italic ? `<i>${lined}</i>` : lined
			return run.bold ? `<b>${slanted}</b>` : slanted
		})
		.join('')

function cell(own: Cell, tag: 'td' | 'th', paper: Paper, more = ''): string {
	const picture = own.picture ? image(own.picture.sha256, own.picture.width, null, paper) : ''
	const scope = tag === 'th' ? ' scope="col"' : ''
	return `<${tag}${scope}${more}${aligned(own.align)}>${picture}${own.lines.map((line) => runs(line, paper)).join('<br>')}</${tag}>`
}

function blockOf(block: Exclude<Block, { is: 'text' }>, paper: Paper): string {
	switch (block.is) {
		case 'table': {
			const columns = block.shares.map((share) => `<col style="width:${Math.round(share * 1000) / 10}%">`).join('')
			const head = block.head
				? `<thead><tr>${block.head.map((one) => cell(one, 'th', paper)).join('')}</tr></thead>`
				: ''
			const body = block.rows.map(({ cells }) => {
				const [only] = cells
				if (cells.length === 1 && only)
					return `<tr>${cell(only, 'td', paper, ` colspan="${block.shares.length}"`)}</tr>`
				return `<tr>${cells.map((one) => cell(one, 'td', paper)).join('')}</tr>`
			})
			return `<table${block.ruled ? ' class="ruled"' : ''}><colgroup>${columns}</colgroup>${head}<tbody>${body.join('')}</tbody></table>`
		}
		case 'picture':
			return `<p${aligned(block.align)}>${image(block.sha256, block.width, block.height, paper)}</p>`
		case 'code': {
			const png = codePng(block)
			return `<p${aligned(block.align)}><img alt="${escaped(block.text)}" style="width:${block.width}pt;height:${block.height}pt" src="data:image/png;base64,${png.toString('base64')}"></p>`
		}
		case 'rule':
			return `<hr style="color:#${block.color}">`
		case 'box': {
			const look = [block.fill ? `background:#${block.fill}` : '', block.edge ? `border:.6pt solid #${block.edge}` : '']
			return `<div style="padding:6pt;${look.filter(Boolean).join(';')}">${written(block.blocks, paper)}</div>`
		}
		case 'beside':
			return `<table class="beside"><tbody><tr>${block.columns
				.map(
					({ share, blocks }) => `<td style="width:${Math.round(share * 1000) / 10}%">${written(blocks, paper)}</td>`,
				)
				.join('')}</tr></tbody></table>`
	}
}

function image(sha256: string, width: number, height: number | null, { pictures }: Paper): string {
	const picture = pictures.get(sha256)
	if (!picture) return ''
	const tall = height === null ? '' : `;height:${Math.round(height * 10) / 10}pt`
	return `<img alt="" style="width:${Math.round(width * 10) / 10}pt${tall}" src="data:${picture.type};base64,${Buffer.from(picture.bytes).toString('base64')}">`
}

/** A code with the clear space that it needs round it, as a picture. */
export function codePng({ encoded, bars }: Extract<Block, { is: 'code' }>): Buffer {
	const clear = bars ? 10 : 4
	const right = Math.max(...encoded.cells.map(([left, , width]) => left + width), 1)
	const low = Math.max(...encoded.cells.map(([, top, , tall]) => top + tall), 0.01)
	const cells = encoded.cells.map(
		([left, top, width, tall]) => [left + clear, top + (bars ? 0 : clear), width, tall] as const,
	)
	const size = { width: right + 2 * clear, height: low + (bars ? 0 : 2 * clear) }
	return pngOfCells(cells, size, bars ? { x: 4, y: 120 / low } : { x: 6, y: 6 })
}
