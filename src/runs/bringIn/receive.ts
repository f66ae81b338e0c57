import { createHash } from 'node:crypto'
import { chunksOf } from '@/archive/source'
import { isDay } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { attempt, type Refusal, refuse } from '@/core/refusal'
import { formatNamed } from '@/intake/formats'
import { type FileKind, fieldsFor } from '@/intake/kinds'
import { type Head, matchedFor, type Reading, readingSchema } from '@/intake/reading'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import {
	addPart,
	arrivingFile,
	beginFile,
	markDropped,
	markHere,
	partSize,
	partsOf,
	readFile,
	type SourceFile,
	setAnswers,
	setReading,
	sourceOfFile,
} from '@/store/files'
import { askFor } from '@/store/jobs'
import { allOwnFields } from '@/store/ownFields'
import { dropStaging } from '@/store/staging'
import { type Answers, answersSchema, readAnswers } from './review'
import { whyNotBack } from './takeBack'

/** Files up to here are read. */
const largestFile = 200_000_000

const longestName = 200
// What could be a path, or turn the reading of a line round, is no name.
const unsafeInNames = /[\p{Cc}\p{Cf}\u2028\u2029]/gu

/** A file's name as it is kept and shown: without a path, without what is not seen, cut where it is too long, its end kept. */
function plainFileName(given: string): string {
	const last = given.split(/[\\/]/).at(-1) ?? ''
	const clean = last.replace(unsafeInNames, '').trim() || 'file'
	if (clean.length <= longestName) return clean
	const end = /\.[a-z0-9]{1,8}$/i.exec(clean)?.[0] ?? ''
	return `${clean.slice(0, longestName - end.length - 1)}…${end}`
}

type Begun = { id: number; partSize: number; have: number[] }

/** Begins to take a file in, or goes on where the line broke: by its name, size and time of change it is known. */
export function beginUpload(
	books: Books,
	desk: Desk,
	file: { name: string; size: number; changed: number },
): { ok: true; value: Begun } | { ok: false; refusal: Refusal } {
	return attempt(() => {
		const name = plainFileName(file.name)
		if (!(file.size > 0)) return refuse('file', `${name} is empty. Export it again and choose the new file.`)
		if (file.size > largestFile)
			return refuse('file', `${name} is over 200 MB. Split it and bring the parts in one by one.`)
		const mark = JSON.stringify([file.name, file.size, file.changed])
		return inOneStep(books, () => {
			const known = arrivingFile(books, desk, mark)
			const id = known?.id ?? beginFile(books, desk, { name, size: file.size, mark })
			return { id, partSize, have: partsOf(books, id).map(({ part }) => part) }
		})
	})
}

const sizeOfPart = (file: SourceFile, part: number): number => Math.min(partSize, file.size - part * partSize)

/** Keeps one part of a file that is arriving. */
export function receivePart(books: Books, id: number, part: number, bytes: Buffer): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, id)
		if (file?.state !== 'arriving') return no('This file is not awaited any more. Choose it again.')
		if (!Number.isInteger(part) || part < 0 || part * partSize >= file.size || bytes.length !== sizeOfPart(file, part))
			return no('A part of the file came torn. It is sent again.')
		addPart(books, id, part, bytes)
		return { ok: true }
	})
}

/** A file is whole: the runner reads it. */
export function endUpload(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, id)
		if (!file || file.state === 'dropped') return no('This file is no longer here. Choose it again.')
		if (file.state !== 'arriving') return { ok: true, id }
		const parts = partsOf(books, id)
		if (
			parts.some(({ part, size }) => size !== sizeOfPart(file, part)) ||
			parts.length !== Math.ceil(file.size / partSize)
		)
			return no('Some of the file is missing. Choose it again, and it goes on where it was.')
		markHere(books, id)
		record(books, desk, { subject: 'file', id, act: 'brought in a file', detail: file.name })
		askFor(books, desk, { kind: 'read file', file: id, seen: '', reason: '' })
		return { ok: true, id }
	})
}

/** Takes a file in that is whole in memory already, in the same way. */
export function receiveFile(books: Books, desk: Desk, name: string, content: Buffer): Outcome {
	const begun = beginUpload(books, desk, { name, size: content.length, changed: 0 })
	if (!begun.ok) return no(begun.refusal.message)
	const { id, have } = begun.value
	for (let part = 0; part * partSize < content.length; part++) {
		if (have.includes(part)) continue
		const kept = receivePart(books, id, part, content.subarray(part * partSize, (part + 1) * partSize))
		if (!kept.ok) return kept
	}
	return endUpload(books, desk, id)
}

/** SHA-256 of a file as it came, hex. */
export function hashOf(books: Books, file: SourceFile): string {
	const hash = createHash('sha256')
	for (const bytes of chunksOf(sourceOfFile(books, file))) hash.update(bytes)
	return hash.digest('hex')
}

/** A day in a file's name, as open-items-2026-10-31.csv has it; empty for none. */
export const dayInName = (name: string): string => {
	const day = /\d{4}-\d{2}-\d{2}/.exec(name)?.[0] ?? ''
	return isDay(day) ? day : ''
}

const headOf = ({ headRow, head, lineFrom }: Reading): Head => ({ row: headRow, names: head, lineFrom })

/** Sets how a file is read; what it would bring is worked out anew. Another format's settings read it from the start. */
export function changeReading(books: Books, desk: Desk, id: number, change: Partial<Reading>): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, id)
		if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
		const format = change.format ? formatNamed(change.format) : undefined
		if (change.format && !format) return no('This format is not known here.')
		const settings = change.settings ?? {}
		if (format && Object.keys(settings).length > 0 && !format.settings.safeParse(settings).success)
			return no('These marks cannot be kept as they are. Look at the page again.')
		const ownFields = allOwnFields(books)
		const before = readingSchema.parse(JSON.parse(file.reading))
		const anew = change.kind && change.kind !== before.kind ? matchedFor(headOf(before), change.kind, ownFields) : {}
		const reading = { ...before, ...anew, ...change }
		const keys = new Set(fieldsFor(reading.kind, ownFields).map(({ key }) => key))
		const known = (columns: Record<string, number>) =>
			Object.fromEntries(Object.entries(columns).filter(([key]) => keys.has(key)))
		const guessed = reading.guessed.filter((key) => reading.columns[key] === before.columns[key] && keys.has(key))
		// Another format begins anew; a row named within one is a person's word.
		const headSaid = change.format ? false : before.headSaid || change.headRow !== undefined
		const next = { ...reading, headSaid, columns: known(reading.columns), groups: reading.groups.map(known), guessed }
		setReading(books, id, next.kind, JSON.stringify(next))
		if (change.kind || change.columns)
			setAnswers(
				books,
				id,
				JSON.stringify({
					...readAnswers(file.answers),
					...(change.kind ? { kind: true } : {}),
					...(change.columns ? { renamed: true } : {}),
				}),
			)
		const fromStart = change.settings !== undefined || change.headRow !== undefined || change.format !== undefined
		askFor(books, desk, { kind: fromStart ? 'read file' : 'take file', file: id, seen: '', reason: '' })
		return { ok: true }
	})
}

/**
 * Reads a file by the marks that were made on a page of it.
 * @param was the settings that were in view when they were begun, as JSON; marks of another since are not overwritten
 */
export function readByMarks(books: Books, desk: Desk, id: number, was: string, change: Partial<Reading>): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, id)
		const now = file ? readingSchema.parse(JSON.parse(file.reading)).settings : null
		if (now && JSON.stringify(now) !== was)
			return no('Somebody marked this file otherwise since you began. Open it again, and look at their marks first.')
		return changeReading(books, desk, id, change)
	})
}

/** Answers what a file leaves open beside how it is read. */
export function answer(books: Books, desk: Desk, id: number, given: Partial<Answers>): Outcome {
	return inOneStep(books, (): Outcome => {
		const file = readFile(books, id)
		if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
		const answers = answersSchema.parse({ ...readAnswers(file.answers), ...given })
		setAnswers(books, id, JSON.stringify(answers))
		record(books, desk, { subject: 'file', id, act: 'answered a question of the file', detail: JSON.stringify(given) })
		askFor(books, desk, { kind: 'take file', file: id, seen: '', reason: '' })
		return { ok: true }
	})
}

/** Asks the runner to read a file again from the start: what was made of it beside the books is lost, after they were put back, say. */
export const readAgain = (books: Books, desk: Desk, fileId: number): Outcome =>
	inOneStep(books, (): Outcome => {
		const file = readFile(books, fileId)
		if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
		askFor(books, desk, { kind: 'read file', file: fileId, seen: '', reason: '' })
		return { ok: true }
	})

/** Asks the runner to accept a file as it was seen; nothing where that is asked already. */
export const askToAccept = (books: Books, desk: Desk, fileId: number, seen: string): Outcome =>
	inOneStep(books, (): Outcome => {
		const file = readFile(books, fileId)
		if (!file || file.state === 'dropped' || file.state === 'arriving') return no('This file is no longer here.')
		askFor(books, desk, { kind: 'accept file', file: fileId, seen, reason: '' })
		return { ok: true }
	})

/** Asks the runner to take a whole accepted file back. */
export const askToTakeBack = (books: Books, desk: Desk, fileId: number, reason: string): Outcome =>
	inOneStep(books, (): Outcome => {
		if (reason.trim() === '') return no('Say why it is taken back.')
		const why = whyNotBack(books, fileId)
		if (why) return no(why)
		askFor(books, desk, { kind: 'take file back', file: fileId, seen: '', reason: reason.trim() })
		return { ok: true }
	})

/** Sets which kind a file holds. */
export const setKind = (books: Books, desk: Desk, id: number, kind: FileKind): Outcome =>
	changeReading(books, desk, id, { kind })

/** Leaves a file out that nothing was taken of. */
export function dropFile(books: Books, desk: Desk, id: number): void {
	inOneStep(books, () => {
		markDropped(books, id)
		record(books, desk, { subject: 'file', id, act: 'dropped the file' })
	})
	dropStaging(books.folder, id)
}
