import type { Source } from '@/archive/source'
import type { OwnField } from '@/core/ownFields'
import { formatNamed, formats } from '@/intake/formats'
import { proposeReading, readSource } from '@/intake/look'
import { decide, type Reading, readingSchema } from '@/intake/reading'
import { type Books, inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { extractOfFile } from '@/store/extracts'
import {
	markDropped,
	readFile,
	type SourceFile,
	sameFile,
	setAnswers,
	setHash,
	setLook,
	setReader,
	setReading,
	sourceOfFile,
} from '@/store/files'
import { allOwnFields } from '@/store/ownFields'
import { allReaders, type Reader } from '@/store/readers'
import { openStaging, rowKeeper } from '@/store/staging'
import type { Watch } from './kinds/kind'
import { knowsHead, pickReader, readBy } from './readers'
import { dayInName, hashOf } from './receive'
import { readAnswers } from './review'
import { sameAs } from './sameFile'
import { takeFile } from './take'

/** What became of reading a file, in words; the same file as one that is here leads to that. */
type WasRead = { words: string; again: number | null; trouble: boolean }

/**
 * Reads a file: its hash, its format and head, its rows beside the books, the reader that fits it, and what it would bring. Done again from
 * the start where it was torn, since nothing of it is in the books.
 */
export async function readFileIn(books: Books, desk: Desk, fileId: number, watch: Watch): Promise<WasRead> {
	const file = readFile(books, fileId)
	if (!file || file.state === 'dropped' || file.state === 'arriving')
		return { words: 'This file is no longer here.', again: null, trouble: true }
	if (file.sha256 === '') {
		const sha256 = hashOf(books, file)
		const same = inOneStep(books, () => {
			setHash(books, fileId, sha256)
			const same = sameFile(books, sha256, fileId)
			return same && isOfAnotherDay(books, same, file) ? null : same
		})
		if (same) {
			inOneStep(books, () => {
				setLook(books, fileId, null, sameAs(same.id))
				markDropped(books, fileId)
			})
			return { words: `It is the same as ${same.name}, which is here.`, again: same.id, trouble: true }
		}
	}
	const before = file.reading === '{}' ? null : readingSchema.parse(JSON.parse(file.reading))
	const source = sourceOfFile(books, file)
	const known = before ? null : await knownBy(books, source)
	const given = before ? givenBy(before) : known ? givenBy(known.reading) : undefined
	let look = await readRows(books, fileId, source, given, watch)
	const kept = look.ok && !before && !known ? await keptOtherwise(books, source, look.value) : null
	if (kept) look = await readRows(books, fileId, source, kept, watch)
	if (!look.ok) {
		const { message } = look.refusal
		inOneStep(books, () => setLook(books, fileId, null, message))
		return { words: message, again: null, trouble: true }
	}
	const { value } = look
	const choices = (await formatNamed(value.format)?.choices(source)) ?? []
	inOneStep(books, () => {
		setLook(books, fileId, JSON.stringify({ evidence: value.evidence, head: value.head, choices }), '')
		if (before) {
			const reading = anew(before, value, books)
			setReading(books, fileId, reading.kind, JSON.stringify(reading))
		} else chooseReading(books, file, value, known?.reader ?? null)
	})
	const review = takeFile(books, desk, fileId, watch)
	return {
		words: review ? `${review.rows.all} rows were read.` : 'It could not be looked at.',
		again: null,
		trouble: false,
	}
}

/** Whether a file with the same bytes as an accepted extract may be one of a later day, on which nothing was otherwise. */
function isOfAnotherDay(books: Books, same: SourceFile, file: SourceFile): boolean {
	const before = same.kind === 'open items' && same.state === 'accepted' ? extractOfFile(books, same.id) : null
	return before !== null && dayInName(file.name) !== before.as_of
}

/** Reads a source's rows into its staging file, from nothing. */
async function readRows(
	books: Books,
	fileId: number,
	source: Source,
	given: Parameters<typeof readSource>[2],
	watch: Watch,
) {
	const staging = openStaging(books.folder, fileId, true)
	try {
		const keeper = rowKeeper(staging)
		let rows = 0
		const look = await readSource(
			source,
			{
				add: (row) => {
					if (++rows % 5000 === 0) watch.seen(rows, 0)
					keeper.add(row)
				},
			},
			given,
		)
		keeper.end()
		return look
	} finally {
		staging.close()
	}
}

type Look = Extract<Awaited<ReturnType<typeof readSource>>, { ok: true }>['value']

const givenBy = ({ format, settings, headSaid, headRow }: Reading) => ({
	format,
	...(Object.keys(settings).length > 0 ? { settings } : {}),
	...(headSaid ? { headRow } : {}),
})

/** The reader that fits a source whose columns bear no names of their own. */
async function knownBy(books: Books, source: Source): Promise<{ reader: Reader; reading: Reading } | null> {
	const kept = allReaders(books).map((reader) => ({ reader, reading: readingSchema.parse(JSON.parse(reader.body)) }))
	for (const format of formats) {
		const own = kept.filter(({ reading }) => reading.format === format.name)
		const found =
			own.length === 0
				? null
				: await format.knows?.(
						source,
						own.map(({ reader, reading }) => ({
							settings: reading.settings,
							fits: (names) => knowsHead(reader, names),
						})),
					)
		const known = found ? own[found.place] : undefined
		if (!found || !known) continue
		const settings = readingSchema.shape.settings.parse(found.settings)
		return { ...known, reading: { ...known.reading, settings } }
	}
	return null
}

/** The settings by which the reader that fits a source would have it read, where these are others (how letters are written, say) than it was read by. */
async function keptOtherwise(
	books: Books,
	source: Source,
	look: Look,
): Promise<Parameters<typeof readSource>[2] | null> {
	const picked = pickReader(look, allReaders(books), allOwnFields(books))
	const reading = picked && readingSchema.parse(JSON.parse(picked.reader.body))
	const format = formatNamed(look.format)
	const kept = format?.settings.safeParse(reading?.settings)
	if (!format?.fitted || reading?.format !== look.format || !kept?.success) return null
	const settings = readingSchema.shape.settings.parse(await format.fitted(source, kept.data))
	return JSON.stringify(settings) === JSON.stringify(look.settings) ? null : { format: look.format, settings }
}

/** The way a new file is read: by the reader that knows it or fits its head, else as it proposes itself. */
function chooseReading(books: Books, file: SourceFile, look: Look, known: Reader | null): void {
	const ownFields = allOwnFields(books)
	const picked = known ? readBy(known, look, ownFields) : pickReader(look, allReaders(books), ownFields)
	const answers = readAnswers(file.answers)
	if (picked) {
		const asOf = dayInName(file.name)
		const reading = { ...notAgainst(picked.reading, look, ownFields), asOf }
		setReader(books, file.id, picked.reader.id, picked.reader.version)
		setReading(books, file.id, reading.kind, JSON.stringify(reading))
		// A column that was in use and is gone is a question; one that is merely new is told.
		setAnswers(
			books,
			file.id,
			JSON.stringify({ ...answers, kind: true, renamed: !picked.change?.gone.some(({ asked }) => asked) }),
		)
		return
	}
	const { reading, kindIsOpen } = proposeReading(look, ownFields)
	setReading(books, file.id, reading.kind, JSON.stringify({ ...reading, asOf: dayInName(file.name) }))
	// What nothing is marked in yet is asked for its marks, and these for the kind.
	const unmarked = formatNamed(look.format)?.unmarked?.(look.settings) ?? false
	setAnswers(books, file.id, JSON.stringify({ ...answers, kind: unmarked || !kindIsOpen }))
}

/** What a reader keeps of days, figures and discounts counts where the values say nothing, and gives way where all of them say otherwise. */
function notAgainst(reading: Reading, look: Look, ownFields: readonly OwnField[]): Reading {
	const { days, decimal, by } = decide({ ...reading, days: null, decimal: null }, look.evidence, ownFields)
	return {
		...reading,
		days: by.days === 'values' && days !== reading.days ? null : reading.days,
		decimal: by.decimal === 'values' && decimal !== reading.decimal ? null : reading.decimal,
	}
}

/** A reading whose source was read from the start by other settings: the columns are matched anew where the head is another. */
function anew(before: Reading, look: Look, books: Books): Reading {
	const { head } = look
	const same = JSON.stringify(head.names) === JSON.stringify(before.head) && head.lineFrom === before.lineFrom
	if (same) return { ...before, format: look.format, settings: look.settings, headRow: head.row }
	// A head with none of the names before (of another sheet, say) is another table, of its own kind.
	const isAnother = head.names.every((name) => name === '' || !before.head.includes(name))
	const { reading } = proposeReading(look, allOwnFields(books), isAnother ? undefined : before.kind)
	return {
		...reading,
		headSaid: before.headSaid,
		days: before.days,
		decimal: before.decimal,
		discount: before.discount,
		orderDiscount: before.orderDiscount,
		defaults: before.defaults,
		asOf: before.asOf,
		ours: before.ours,
		to: before.to,
	}
}
