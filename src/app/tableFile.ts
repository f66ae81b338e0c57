import writeXlsx from 'write-excel-file/node'
import { amountText, minorDigits } from '@/core/currency'
import { csvFile } from './csv'
import { fileAnswer } from './fileAnswer'

/** An amount in minor units, written with its currency's digits. */
type Money = { minor: number; currency: string }
export type TableFile = { name: string; head: string[]; rows: (string | number | Money)[][] }

/** A table as a file to save: a spreadsheet (Office Open XML), whose amounts are numbers, or CSV. */
export async function tableFile({ name, head, rows }: TableFile, as: string | undefined): Promise<Response> {
	if (as !== 'xlsx') {
		const text = (cell: string | number | Money) =>
			typeof cell === 'object' ? amountText(BigInt(cell.minor), cell.currency) : cell
		return csvFile(`${name}.csv`, [head, ...rows.map((row) => row.map(text))])
	}
	const cell = (value: string | number | Money) => {
		if (typeof value !== 'object') return { value }
		const digits = minorDigits(value.currency)
		return { value: value.minor / 10 ** digits, format: digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}` }
	}
	const width = (column: number) =>
		Math.min(40, Math.max(13, ...rows.slice(0, 200).map((row) => String(row[column]).length)))
	const sheet = await writeXlsx(
		[head.map((value) => ({ value, fontWeight: 'bold' as const })), ...rows.map((row) => row.map(cell))],
		{ columns: head.map((_, column) => ({ width: width(column) })), sheet: name.slice(0, 31) },
	).toBuffer()
	return fileAnswer(sheet, {
		type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
		name: `${name}.xlsx`,
	})
}
