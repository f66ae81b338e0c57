import type { OwnField } from '@/core/ownFields'
import { fileKindRules, ownColumn } from './kinds'
import type { HomeBooks, MasterFields } from './kinds/master'
import type { Decided, Reading } from './reading'
import { type Rows, type RowsOut, readRows } from './rows'

/**
 * A row of a file of customers, items or tax codes: the fields that the file has, as the books take them. What it has no column for is not
 * among them, and stays as it is. Each is checked again by the books' own schema.
 */
export type IntakeRecord = { row: number; key: string; fields: MasterFields }
type RecordsOut = RowsOut & {
	record: (record: IntakeRecord, refuse: (field: string, remedy: string) => void) => void
}
/** Turns rows into records, one a row; each is refused by itself, and so is one whose number stood in a row before. */
export function takeRecords(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	books: HomeBooks,
	ownFields: readonly OwnField[],
	out: RecordsOut,
): void {
	const { owns, master } = fileKindRules[reading.kind]
	if (!master) return
	const filled = ownFields.filter((one) => owns.includes(one.of) && reading.columns[ownColumn(one)] !== undefined)
	const first = new Map<string, number>()
	let refused = false
	const heard: RowsOut = {
		left: out.left,
		refuse: (refusal) => {
			refused = true
			out.refuse(refusal)
		},
	}
	const named = master.key
	const each = readRows(rows, reading, decided, ownFields, heard)
	for (;;) {
		refused = false
		const next = each.next()
		if (next.done) return
		const row = next.value
		// What could not be read was told by now, before the row was given.
		const made = master.made(row, books)
		if (row.get(named) === '' && row.value(named).why === '') row.refuse(named, 'Every row needs this. Give it here.')
		const before = first.get(made.key)
		if (before !== undefined && row.get(named) !== '')
			row.refuse(named, `Row ${before} holds the same. Leave one of them out.`)
		else first.set(made.key, row.row)
		const values = Object.fromEntries(filled.map((one) => [one.key, row.get(ownColumn(one))]))
		const fields = filled.length > 0 ? { ...made.fields, own: JSON.stringify(values) } : made.fields
		if (!refused) out.record({ row: row.row, key: made.key, fields }, row.refuse)
	}
}
