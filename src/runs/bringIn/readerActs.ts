import { z } from 'zod'
import { no, type Outcome } from '@/core/outcome'
import { fieldsFor } from '@/intake/kinds'
import { type Decided, type Reading, readingSchema } from '@/intake/reading'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { readFile, setReader } from '@/store/files'
import { allOwnFields } from '@/store/ownFields'
import { addReader, changeReader, readerNamed, readReader, takeReaderAway } from '@/store/readers'
import { shapeOfHead } from './readers'

/** What of a reading is the source's way, and not this one file's. */
const bodyOf = (reading: Reading): string => JSON.stringify({ ...reading, asOf: '' })

/**
 * Keeps the way a file is read as a reader: a new one, or the one of that name changed. Files that were looked at by it before keep the
 * version that they were looked at with.
 */
export function saveReader(books: Books, desk: Desk, fileId: number, name: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, fileId)
		if (!file?.look) return no('This file was not read.')
		const given = name.trim()
		if (given === '' || given.length > 60) return no('Give the reader a name of at most 60 letters.')
		const reading = readingSchema.parse(JSON.parse(file.reading))
		const fields = {
			name: given,
			kind: reading.kind,
			body: bodyOf(reading),
			shape: JSON.stringify(shapeOfHead(reading.head)),
		}
		const known = readerNamed(books, given)
		const id = known?.id ?? addReader(books, desk, fields)
		if (known) changeReader(books, known.id, { ...fields, name: known.name })
		setReader(books, fileId, id, (known?.version ?? 0) + 1)
		record(books, desk, {
			subject: 'setting',
			id: `reader ${id}`,
			act: known ? 'changed a reader' : 'made a reader',
			detail: given,
			before: known?.body,
			after: fields.body,
		})
		return { ok: true, id }
	})
}

/** A name for a reader from a file's: without its end, and the days and numbers that change from month to month. */
export function nameFromFile(file: string): string {
	const bare = file.replace(/\.[a-z0-9]{1,8}$/i, '')
	const words = bare
		.split(/[\s_.-]+/)
		.filter((word) => !/^\d+$/.test(word))
		.join(' ')
		.slice(0, 50)
		.trim()
	return words === '' ? 'Reader' : words
}

/**
 * Keeps the way an accepted file was read: as a reader of its own, or as the next version of the one that it was read by where it was read
 * otherwise. What the values decided is kept too, so that a file that says too little is read as those before.
 */
export function keepReader(books: Books, desk: Desk, fileId: number, decided: Decided): void {
	const file = readFile(books, fileId)
	if (!file) return
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const kept = {
		...reading,
		days: decided.by.days === 'nothing' ? null : decided.days,
		decimal: decided.by.decimal === 'nothing' ? null : decided.decimal,
		discount: decided.by.discount === 'nothing' ? null : decided.discount,
		orderDiscount: decided.by.orderDiscount === 'nothing' ? null : decided.orderDiscount,
	}
	const fields = { kind: reading.kind, body: bodyOf(kept), shape: JSON.stringify(shapeOfHead(reading.head)) }
	const known = file.reader_id === null ? null : readReader(books, file.reader_id)
	if (known) {
		if (known.body === fields.body || known.away_at !== null) return
		changeReader(books, known.id, { ...fields, name: known.name })
		setReader(books, fileId, known.id, known.version + 1)
		record(books, desk, {
			subject: 'setting',
			id: `reader ${known.id}`,
			act: 'changed a reader',
			detail: `by accepting ${file.name}`,
		})
		return
	}
	const first = nameFromFile(file.name)
	let name = first
	for (let place = 2; readerNamed(books, name); place++) name = `${first} ${place}`
	const id = addReader(books, desk, { ...fields, name })
	setReader(books, fileId, id, 1)
	record(books, desk, {
		subject: 'setting',
		id: `reader ${id}`,
		act: 'made a reader',
		detail: `${name}, by accepting ${file.name}`,
	})
}

/** What of a reader is changed by itself, without a file of it. */
export const readerChangeSchema = readingSchema
	.pick({
		columns: true,
		days: true,
		decimal: true,
		discount: true,
		orderDiscount: true,
		defaults: true,
		ours: true,
		to: true,
	})
	.extend({ name: z.string() })

/**
 * Changes a reader by itself. Files that wait keep the version that they were looked at with.
 * @param version the one that was in view; one that was changed meanwhile is not overwritten
 */
export function editReader(
	books: Books,
	desk: Desk,
	id: number,
	version: number,
	{ name, ...change }: z.infer<typeof readerChangeSchema>,
): Outcome {
	return inOneStep(books, (): Outcome => {
		const reader = readReader(books, id)
		if (!reader || reader.away_at !== null) return no('This reader is no longer here.')
		if (reader.version !== version) return no('Somebody changed this reader since you looked. Look at it again.')
		const given = name.trim()
		if (given === '' || given.length > 60) return no('Give the reader a name of at most 60 letters.')
		const same = readerNamed(books, given)
		if (same && same.id !== id) return no(`Another reader is called ${same.name}.`)
		const before = readingSchema.parse(JSON.parse(reader.body))
		const keys = new Set(fieldsFor(before.kind, allOwnFields(books)).map(({ key }) => key))
		const places = Object.entries(change.columns)
		if (places.some(([key, place]) => !keys.has(key) || place >= before.head.length))
			return no('A field or a column is not known. Look at it again.')
		if (new Set(places.map(([, place]) => place)).size < places.length)
			return no('A column can be but one field. Choose another for one of the two.')
		const guessed = before.guessed.filter((key) => change.columns[key] === before.columns[key])
		const body = bodyOf({ ...before, ...change, guessed })
		changeReader(books, id, { ...reader, name: given, body })
		record(books, desk, {
			subject: 'setting',
			id: `reader ${id}`,
			act: 'changed a reader',
			detail: given,
			before: reader.body,
			after: body,
		})
		return { ok: true, words: 'Saved. The next file of it is read so.' }
	})
}

/** Copies a reader under a name that is free. */
export function copyReader(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const reader = readReader(books, id)
		if (!reader) return no('This reader is no longer here.')
		let name = `${reader.name} (copy)`
		for (let place = 2; readerNamed(books, name); place++) name = `${reader.name} (copy ${place})`
		const made = addReader(books, desk, { ...reader, name })
		record(books, desk, { subject: 'setting', id: `reader ${made}`, act: 'copied a reader', detail: name })
		return { ok: true, id: made }
	})
}

/** Takes a reader away; files that it read stay as they are. */
export function dropReader(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const reader = readReader(books, id)
		if (!reader) return no('This reader is no longer here.')
		takeReaderAway(books, desk, id)
		record(books, desk, { subject: 'setting', id: `reader ${id}`, act: 'took a reader away', detail: reader.name })
		return { ok: true }
	})
}
