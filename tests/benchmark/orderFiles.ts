import { closeSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import { fileSource } from '@/archive/source'
import { beginUpload, endUpload, receivePart } from '@/runs/bringIn/receive'
import type { Books } from '@/store/books'
import { partSize } from '@/store/files'
import { benchDesk } from './books'

/** A file of so many rows, three an order; `bad` of a hundred rows name no customer that is known. */
export function makeOrders(path: string, count: number, bad: number): string {
	const file = openSync(path, 'w')
	writeSync(file, 'Order No,Order date,Cust. No,PO ref,Curr,Item,Description,Qty,Unit,Unit price,Disc %,VAT code\n')
	let text = ''
	for (let row = 0; row < count; row++) {
		const order = Math.floor(row / 3)
		const customer = order % 100 < bad ? `X${order % 500}` : `C${order % 500}`
		text += `${100_000 + order},${String((order % 28) + 1).padStart(2, '0')}/10/2026,${customer},PO-${order},GBP,ITEM-${row % 60},"Galvanised bow shackle, ${8 + (row % 30)} mm",${(row % 40) + 1},each,"1,${100 + (row % 800)}.50",5,STD\n`
		if (text.length > 1_000_000 || row === count - 1) {
			writeSync(file, text)
			text = ''
		}
	}
	closeSync(file)
	return path
}

/** The same rows as a workbook: texts in its table of them, figures and days as numbers. */
export function makeWorkbook(folder: string, count: number): string {
	const shared = new Map<string, number>()
	const text = (value: string): number => {
		const known = shared.get(value)
		if (known !== undefined) return known
		shared.set(value, shared.size)
		return shared.size - 1
	}
	const csv = readFileSync(makeOrders(join(folder, 'as-sheet.csv'), count, 0), 'utf8')
		.trimEnd()
		.split('\n')
	const rows = csv.map((line, row) => {
		const cells = [...line.matchAll(/"([^"]*)"|([^,]+)|(?<=,)(?=,)/g)].map((match) => match[1] ?? match[2] ?? '')
		const of = (value: string, place: number): string => {
			const at = `${String.fromCharCode(65 + place)}${row + 1}`
			if (row > 0 && place === 1) return `<c r="${at}" s="1"><v>${46_296 + Number(value.slice(0, 2)) - 1}</v></c>`
			if (row > 0 && [7, 9, 10].includes(place)) return `<c r="${at}"><v>${value.replace(/,/g, '')}</v></c>`
			return `<c r="${at}" t="s"><v>${text(value)}</v></c>`
		}
		return `<row r="${row + 1}">${cells.map(of).join('')}</row>`
	})
	const rels = (type: string, target: string, id = 'rId1') =>
		`<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/>`
	const file = (body: string) => strToU8(`<?xml version="1.0" encoding="UTF-8"?>${body}`)
	const of = (body: string) =>
		file(`<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${body}</Relationships>`)
	const main = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
	const path = join(folder, 'orders.xlsx')
	writeFileSync(
		path,
		zipSync({
			'_rels/.rels': of(rels('officeDocument', 'xl/workbook.xml')),
			'xl/_rels/workbook.xml.rels': of(
				rels('worksheet', 'worksheets/sheet1.xml') +
					rels('sharedStrings', 'sharedStrings.xml', 'rId2') +
					rels('styles', 'styles.xml', 'rId3'),
			),
			'xl/workbook.xml': file(
				`<workbook ${main} xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Orders" sheetId="1" r:id="rId1"/></sheets></workbook>`,
			),
			'xl/styles.xml': file(
				`<styleSheet ${main}><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>`,
			),
			'xl/sharedStrings.xml': file(
				`<sst ${main}>${[...shared.keys()].map((value) => `<si><t>${value.replace(/&/g, '&amp;')}</t></si>`).join('')}</sst>`,
			),
			'xl/worksheets/sheet1.xml': file(`<worksheet ${main}><sheetData>${rows.join('')}</sheetData></worksheet>`),
		}),
	)
	return path
}

/** Brings a file to where the runner takes it up. */
export function upload(books: Books, path: string): number {
	const source = fileSource(path)
	const begun = beginUpload(books, benchDesk, { name: path, size: source.size, changed: 0 })
	if (!begun.ok) throw new Error(begun.refusal.message)
	for (let part = 0; part * partSize < source.size; part++)
		receivePart(books, begun.value.id, part, Buffer.from(source.read(part * partSize, partSize)))
	endUpload(books, benchDesk, begun.value.id)
	source.close()
	return begun.value.id
}
