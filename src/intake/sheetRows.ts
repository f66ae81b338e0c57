import { addresses, isMailbox } from '@/core/addresses'
import { type CustomerTextKey, customerTexts, ofTexts } from '@/core/customerTexts'
import type { OwnField, OwnValues } from '@/core/ownFields'
import type { SheetWay } from '@/core/paperKind'
import { ownColumn } from './kinds'
import type { Decided, Reading } from './reading'
import { type Rows, type RowsOut, type RowValues, readRows } from './rows'

/** Whom a paper goes to, as its rows say it; what they do not say is empty, and the customer's own counts. */
export type Recipient = {
	name: string
	address: string
	country: string
	email: string
	locale: string
} & Record<CustomerTextKey, string>
export type SheetLine = {
	row: number
	item: string
	description: string
	quantity: string
	unit: string
	own: OwnValues
}
/** Rows of a sheet that become one paper. */
export type SheetPaper = {
	/** What it is for, as its first row writes it. */
	key: string
	rows: number[]
	/** Rows that write the key otherwise than the first: in another case, or with other spaces. */
	otherwise: number[]
	/** Number of the customer; empty for none. */
	customer: string
	recipient: Recipient
	own: OwnValues
	lines: SheetLine[]
}
type SheetBooks = {
	/** Whether a customer has a number. */
	isCustomer: (number: string) => boolean
}
type Out = RowsOut & { paper: (paper: SheetPaper) => void }
type Group = SheetPaper & { refuse: RowValues['refuse'][]; bad: number | null }

/** Keys are the same whatever their case, and however many spaces stand in or around them. */
export const sameKey = (key: string): string => key.trim().replace(/\s+/g, ' ').toLocaleLowerCase()

const recipientKeys = ['name', 'country', 'email', ...customerTexts.map(({ key }) => key), 'locale'] as const
const addressKeys = ['address1', 'address2', 'address3', 'address4', 'address5', 'address6'] as const

/**
 * Puts rows of a sheet together to papers: one a row, one for all rows of the same key, or one for all. A paper whose rows do not all read,
 * or that say two things where they must say one, is refused with all its rows, so that none goes out with a row missing.
 * @param title what the one paper of a whole sheet is for
 */
export function takeSheetRows(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
	way: SheetWay,
	title: string,
	books: SheetBooks,
	out: Out,
): void {
	const filled = ownFields.filter(
		(one) => (one.of === 'sheet' || one.of === 'row') && reading.columns[ownColumn(one)] !== undefined,
	)
	const ofPaper = filled.filter((one) => one.of === 'sheet' || way === 'row')
	const ofRow = filled.filter((one) => one.of === 'row' && way !== 'row')
	const groups = new Map<string, Group>()
	let refused = false
	const heard: RowsOut = {
		left: out.left,
		refuse: (refusal) => {
			refused = true
			out.refuse(refusal)
		},
	}
	const each = readRows(rows, reading, decided, ownFields, heard)
	for (;;) {
		refused = false
		const next = each.next()
		if (next.done) break
		const row = next.value
		const named = row.get('key') || row.get('customer') || row.get('name')
		const written = way === 'whole' ? title : way === 'key' ? row.get('key') : named || `row ${row.row}`
		if (way === 'key' && written === '' && row.value('key').why === '')
			row.refuse('key', 'It does not say what its paper is for. Give it here, or leave the row out.')
		checkRecipient(row, books)
		// Of papers for a row each, two may be for the same; they are told apart by their row.
		const id = way === 'row' ? `${row.row}` : sameKey(written)
		const known = groups.get(id)
		const group = known ?? begin(written)
		if (!known && !(way === 'key' && written === '')) groups.set(id, group)
		if (known && way === 'key' && written !== group.key) group.otherwise.push(row.row)
		sayOnce(row, group, ofPaper, known !== undefined)
		group.rows.push(row.row)
		group.refuse.push(row.refuse)
		if (way !== 'row') group.lines.push(lineOf(row, ofRow))
		if (refused) {
			group.bad ??= row.row
			// It was refused by itself already.
			group.refuse[group.refuse.length - 1] = () => {}
		}
	}
	const titles = new Map<string, number>()
	for (const { refuse, bad, ...paper } of groups.values()) {
		if (bad !== null) {
			for (const tell of refuse)
				tell('key', `Row ${bad} of the same paper is refused. Mend it, or leave it out; then this row is taken too.`)
			continue
		}
		const same = titles.get(sameKey(paper.key)) ?? 0
		titles.set(sameKey(paper.key), same + 1)
		out.paper(same === 0 ? paper : { ...paper, key: `${paper.key} (row ${paper.rows[0]})` })
	}
}

const begin = (key: string): Group => ({
	...{ key, rows: [], otherwise: [], customer: '', own: {}, lines: [], refuse: [], bad: null },
	recipient: { name: '', address: '', country: '', email: '', ...ofTexts(() => ''), locale: '' },
})

function checkRecipient(row: RowValues, books: SheetBooks): void {
	const customer = row.get('customer')
	if (customer !== '' && !books.isCustomer(customer))
		row.refuse(
			'customer',
			'No customer has this number. Correct it, or let the column be used for nothing and give name and address.',
		)
	if (customer === '' && row.get('name') === '' && row.value('name').why === '')
		row.refuse(
			'name',
			'It says nobody whom the paper is for: give a customer’s number or a name, here or for all rows.',
		)
	const list = addresses(row.get('email'))
	const wrong = list.find((one) => !isMailbox(one))
	if (wrong !== undefined) row.refuse('email', `“${wrong}” is no address for mail. Write it as name@firm.example.`)
	else if (list.length > 1) row.refuse('email', 'Several addresses stand here, and a paper goes to one. Keep that one.')
}

/** Takes what a paper says once: from its first row, or the first that says it; a row that says otherwise is refused. */
function sayOnce(row: RowValues, group: Group, ownFields: readonly OwnField[], before: boolean): void {
	const once = (field: string, was: string, now: string, set: (text: string) => void) => {
		if (now === '') return
		if (was === '') set(now)
		else if (before && sameKey(was) !== sameKey(now))
			row.refuse(
				field,
				`Row ${group.rows[0]} of the same paper has “${was.split('\n').join(', ')}”. Make them agree, or give the row another key.`,
			)
	}
	once('customer', group.customer, row.get('customer').toUpperCase(), (text) => {
		group.customer = text
	})
	for (const key of recipientKeys)
		once(key, group.recipient[key], row.get(key), (text) => {
			group.recipient[key] = text
		})
	const address = addressKeys.map(row.get).filter(Boolean).join('\n')
	once('address1', group.recipient.address, address, (text) => {
		group.recipient.address = text
	})
	for (const one of ownFields)
		once(ownColumn(one), group.own[one.key] ?? '', row.get(ownColumn(one)), (text) => {
			group.own[one.key] = text
		})
}

function lineOf(row: RowValues, ownFields: readonly OwnField[]): SheetLine {
	const quantity = row.value('quantity')
	return {
		row: row.row,
		item: row.get('item').toUpperCase(),
		description: row.get('description'),
		quantity: quantity.text,
		unit: row.get('unit') || quantity.unit,
		own: Object.fromEntries(
			ownFields.flatMap((one) => {
				const value = row.get(ownColumn(one))
				return value === '' ? [] : [[one.key, value]]
			}),
		),
	}
}
