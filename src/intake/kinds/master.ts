import { addresses, isMailbox } from '@/core/addresses'

// What a row of a file of masters (customers, items, tax codes) becomes.

/** A row as its kind reads it: `get` gives a value in our form, empty where it could not be read; `has`, whether the file has its column. */
export type MasterRow = {
	get: (key: string) => string
	value: (key: string) => { text: string; currency: string }
	has: (key: string) => boolean
	refuse: (key: string, remedy: string) => void
}
/** What of the books the reading of records needs. */
export type HomeBooks = {
	homeCurrency: string
	/** The currency of a customer that is known, by number. */
	currencyOf: (number: string) => string | undefined
}

/** The fields that the file has, by the books' names; what it has no column for is not among them, and stays as it is. */
export type MasterFields = Record<string, string | number | null>
/** A kind whose rows are records of the books, each found again by its key. */
export type Master = {
	/** The field that tells it. */
	key: string
	made: (row: MasterRow, books: HomeBooks) => { key: string; fields: MasterFields }
}

/** What is said of a figure whose currency is not its row's. */
export const atOdds = (figure: string, row: string): string =>
	`It is in ${figure}, but the row's currency is ${row}. Make them agree.`

/** Adds a field under the books' name where the file has its column. */
export function fieldsIn(row: MasterRow) {
	const fields: MasterFields = {}
	return {
		fields,
		text: (name: string, key: string) => {
			if (row.has(key)) fields[name] = row.get(key)
		},
		/** One of a list of words; where the cell is empty it stays as it is. */
		word: (name: string, key: string, words: Record<string, string>, remedy: string) => {
			const text = row.get(key).toLowerCase()
			if (text === '') return
			const meant = words[text]
			if (meant === undefined) row.refuse(key, remedy)
			else fields[name] = meant
		},
		mail: (name: string, key: string) => {
			if (!row.has(key)) return
			const list = addresses(row.get(key))
			const wrong = list.find((one) => !isMailbox(one))
			if (wrong !== undefined)
				row.refuse(
					key,
					`“${wrong}” is no address for mail. Write it as name@firm.example, several with commas between.`,
				)
			else fields[name] = list.join(', ')
		},
	}
}
