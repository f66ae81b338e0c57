import { createHash } from 'node:crypto'
import { no, type Outcome } from '@/core/outcome'
import type { OwnField, OwnOf, OwnType, OwnValues } from '@/core/ownFields'
import { ownText, readOwn, whyNotOwn } from '@/core/ownFields'
import { type FileKind, fieldsFor } from '@/intake/kinds'
import { plainName } from '@/intake/kinds/field'
import { isKindName } from '@/kinds'
import { ownKeysOf } from '@/layout/fields'
import { readLogo } from '@/pdf/logo'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import type { ImageCheck } from '@/runs/files/untrustedImages'
import { currentBody, usedByWords, usesOf } from '@/runs/layouts/layouts'
import { type Books, inOneStep } from '@/store/books'
import { readItem } from '@/store/catalogue'
import { keepImage } from '@/store/company'
import { allCustomers, customerByNumber } from '@/store/customers'
import type { Desk } from '@/store/events'
import { allLayouts } from '@/store/layouts'
import { addOwnField, allOwnFields, ownValueCount, setOwnValue, takeOwnFieldAway } from '@/store/ownFields'
import { kindIn } from '@/store/paperKinds'
import { readSettings } from '@/store/settings'

/** An own field with how many have a value in it, and what would miss it. */
export type OwnFieldUse = OwnField & { values: number; layouts: string[] }

/** The firm's own fields, each with what uses it. */
export function ownFieldUses(books: Books): OwnFieldUse[] {
	const bodies = allLayouts(books).map((row) => ({ row, body: currentBody(books, row) }))
	const uses = usesOf(books)
	const customers = allCustomers(books)
	const locks = (keys: string[]) => {
		const many = customers.filter(({ lock }) => keys.includes(lock)).length
		return many === 0 ? [] : [many === 1 ? 'the lock of one customer’s PDFs' : `the locks of ${many} customers’ PDFs`]
	}
	const names = Object.entries(readSettings(books).leaving).map(([kind, leaving]) => ({
		kind,
		text: JSON.stringify(leaving),
	}))
	return allOwnFields(books).map((ownField) => {
		const named = bodies.filter(({ body }) => ownKeysOf(ownField).some((key) => body.includes(`"${key}"`)))
		return {
			...ownField,
			values: ownValueCount(books, ownField.of, ownField.key),
			layouts: [
				...named.map(({ row }) => {
					const use = uses.get(row.id)
					return use ? `${row.name} (${usedByWords(use)})` : row.name
				}),
				...locks(ownKeysOf(ownField)),
				...names
					.filter(({ text }) => ownKeysOf(ownField).some((key) => text.includes(`"${key}"`)))
					.map(({ kind }) => `the names of ${isKindName(kind) ? kindIn(books, kind).words.nouns : kind}`),
			],
		}
	})
}

/** Adds a field of the firm's own. */
export function makeOwnField(books: Books, desk: Desk, field: { of: OwnOf; name: string; type: OwnType }): Outcome {
	const name = field.name.trim()
	if (name === '' || name.length > 40) return no('Give the field a name of up to 40 letters.')
	if (field.type === 'picture' && field.of !== 'customer' && field.of !== 'item')
		return no('Pictures belong to customers and items; an order or a line shows that of its item.')
	// A column of that name would be taken from the field that it fills today, and nobody would notice.
	const taken = knownNames(field.of).find((known) => known.names.includes(plainName(name)))
	if (taken) return no(`Files have “${name}” for “${taken.label}” already. Choose another name.`)
	return addOwnField(books, desk, { ...field, name })
		? { ok: true }
		: no(`There is a field “${name}” of ${field.of}s already. Choose another name.`)
}

const kindsOf: Record<OwnOf, FileKind> = {
	...{ customer: 'customers', item: 'items', order: 'orders', line: 'orders', sheet: 'rows', row: 'rows' },
}
const knownNames = (of: OwnOf) => fieldsFor(kindsOf[of], [])

/** Takes a field away. Refused while a layout names it, since its papers would lack it. */
export function dropOwnField(books: Books, desk: Desk, of: OwnOf, key: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const own = ownFieldUses(books).find((one) => one.of === of && one.key === key)
		if (!own) return no('There is no such field any more.')
		if (own.layouts.length > 0)
			return no(
				`${own.name} is used by ${own.layouts.join(', ')}. Take it out of ${own.layouts.length === 1 ? 'that' : 'these'} first.`,
			)
		takeOwnFieldAway(books, desk, of, key)
		return { ok: true }
	})
}

/** Values of a form by their fields, over those that are known; else why one is none. */
export function ownOfForm(
	fields: readonly OwnField[],
	known: string,
	form: Record<string, unknown>,
	keepEmpty: boolean,
): { ok: true; own: string } | { ok: false; message: string } {
	const values: OwnValues = { ...readOwn(known) }
	for (const field of fields) {
		const given = form[`own.${field.key}`]
		if (typeof given !== 'string' || (given.trim() === '' && keepEmpty)) continue
		const why = whyNotOwn(field, given.trim())
		if (why) return { ok: false, message: why }
		values[field.key] = given.trim()
	}
	return { ok: true, own: ownText(values) }
}

type PictureFile = { name: string; type: string; bytes: Buffer }
const mostBytes = 2_000_000

/**
 * Sets pictures of customers or items, each by a file whose name is its number or code (A-100.png). All or none: where one cannot be
 * taken, nothing is changed, and each that hinders is named.
 */
export async function setPictures(
	books: Books,
	desk: Desk,
	of: 'customer' | 'item',
	key: string,
	files: readonly PictureFile[],
	imageCheck: ImageCheck = async () => [],
): Promise<Outcome> {
	const field = allOwnFields(books).find(
		(ownField) => ownField.of === of && ownField.key === key && ownField.type === 'picture',
	)
	if (!field) return no('There is no such field of pictures any more.')
	if (files.length === 0) return no('Choose the pictures, each with its code as its name.')
	const wrong: string[] = []
	const good: { code: string; sha256: string; type: string; bytes: Buffer }[] = []
	const faults = await imageCheck(files.filter(({ bytes }) => bytes.length <= mostBytes))
	const looked = files.filter(({ bytes }) => bytes.length <= mostBytes)
	for (const file of files) {
		const { name, type, bytes } = file
		const fault = faults[looked.indexOf(file)] ?? ''
		const sha256 = createHash('sha256').update(bytes).digest('hex')
		const read =
			bytes.length > mostBytes
				? ({ ok: false, refusal: { path: 'picture', message: 'It is over 2 MB; make it smaller.' } } as const)
				: fault
					? ({ ok: false, refusal: { path: 'picture', message: fault } } as const)
					: await readLogo(type, bytes, sha256)
		if (read.ok) good.push({ code: name.replace(/\.[^.]+$/, ''), sha256, type, bytes })
		else wrong.push(`${name}: ${read.refusal.message.replace(/^The logo/, 'It')}`)
	}
	return inOneStep(books, (): Outcome => {
		const unknown = good.filter(({ code }) => !hasOne(books, of, code))
		wrong.push(...unknown.map(({ code }) => `${code}: no ${of} has this ${of === 'item' ? 'code' : 'number'}.`))
		const twice = good.filter(({ code }, place) =>
			good.some((other, at) => at < place && other.code.toUpperCase() === code.toUpperCase()),
		)
		wrong.push(...twice.map(({ code }) => `${code}: there are two pictures of it.`))
		if (wrong.length > 0)
			return no(
				`Nothing was set. ${wrong.slice(0, 5).join(' ')}${wrong.length > 5 ? ` And ${wrong.length - 5} more.` : ''}`,
			)
		let others = 0
		for (const { code, sha256, type, bytes } of good) {
			const before = ownOfOne(books, of, code)[key]
			if (before && before !== sha256) others++
			keepImage(books, { sha256, type, bytes })
			setOwnValue(books, desk, of, code, key, sha256)
		}
		askToLookAgain(books, desk, `pictures of ${of}s`)
		const set = good.length === 1 ? `The picture of ${good[0]?.code} is set.` : `${good.length} are set.`
		const replaced =
			others > 0 ? ` ${others} had another before, which papers that were issued keep; drafts get the new one.` : ''
		return { ok: true, words: set + replaced }
	})
}

/** Takes the picture of a customer or item away. */
export function takePictureAway(books: Books, desk: Desk, of: 'customer' | 'item', code: string, key: string): Outcome {
	if (!setOwnValue(books, desk, of, code, key, '')) return no(`There is no such ${of}.`)
	askToLookAgain(books, desk, `the picture of ${code}`)
	return { ok: true }
}

/** Values of a customer's or item's own fields. */
const ownOfOne = (books: Books, of: 'customer' | 'item', code: string): OwnValues =>
	readOwn((of === 'customer' ? customerByNumber(books, code)?.own : readItem(books, code.toUpperCase())?.own) ?? '{}')

const hasOne = (books: Books, of: 'customer' | 'item', code: string): boolean =>
	of === 'customer' ? customerByNumber(books, code) !== null : readItem(books, code.toUpperCase()) !== null
