import { createHash } from 'node:crypto'
import { basename, join } from 'node:path'
import { z } from 'zod'
import { no, type Outcome } from '@/core/outcome'
import type { AnyContent } from '@/kinds'
import { fieldsByKey } from '@/layout/fields'
import { languagesFor } from '@/layout/languages'
import { nameFields } from '@/layout/leaving'
import { askToLookAgain, changeCustomer } from '@/runs/customers/changeCustomer'
import { type Books, inOneStep } from '@/store/books'
import { type Customer, type CustomerFields, customerByNumber, lockOfDocument, readCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import type { Desk } from '@/store/events'
import { addCompanion, companionsOf } from '@/store/made'
import { type Outgoing, setLocked } from '@/store/messages'
import { allOwnFields } from '@/store/ownFields'
import { passwordSetAt, readPassword, savePassword } from '@/store/seal'
import { fileAt } from './companionFiles'
import { placeFile } from './make'
import { filesFolder, type PdfFile, pdfOf } from './pdfOf'

// The copy of a PDF that is sent to a customer who wants it locked. The one on file never is.

/** A password has at least so many letters. */
const leastPassword = 6

/** What could open a customer's PDFs: their numbers, and text fields of the firm's own, by key and name. */
export const lockFields = (books: Books): { key: string; name: string }[] =>
	nameFields('statement', allOwnFields(books))
		.filter(
			({ key, type }) =>
				key === 'customer.number' ||
				key === 'customer.tax-number' ||
				(key.startsWith('customer.own.') && type === 'text'),
		)
		.map(({ key, name }) => ({ key, name }))

/** The password of a paper to a customer; else why there is none, with the remedy. Null where they want none. */
export function passwordFor(
	books: Books,
	customer: Pick<Customer, 'id' | 'name' | 'lock'>,
	content: AnyContent,
): { ok: true; password: string } | { ok: false; why: string } | null {
	if (customer.lock === '') return null
	const password =
		customer.lock === 'own'
			? readPassword(books, customer.id)
			: fieldsByKey.get(customer.lock)?.read({
					...{ content, languages: languagesFor(content), place: -1, row: 0, page: 1, pages: 1 },
				})
	if (typeof password === 'string' && password.length >= leastPassword) return { ok: true, password }
	const field = fieldsByKey.get(customer.lock)?.name ?? customer.lock
	return {
		ok: false,
		why:
			customer.lock !== 'own'
				? `${customer.name} gets locked PDFs, and “${field}”, which opens them, has fewer than ${leastPassword} letters. Fill it in, or choose another password under Accounts.`
				: passwordSetAt(books, customer.id) === null
					? `${customer.name} gets locked PDFs, and no password is set. Set one under Accounts.`
					: `The password of ${customer.name} cannot be unsealed: the key beside the books is gone or another. Put it back from a backup, or set the password anew under Accounts.`,
	}
}

/** Why a paper to a customer cannot be locked; empty where it can, or need not be. */
export function lockFault(books: Books, customer: Customer, content: AnyContent): string {
	const password = passwordFor(books, customer, content)
	return password && !password.ok ? password.why : ''
}

/** Why a PDF cannot be locked, with the remedy. */
export class LockFault extends Error {}

const lockedSchema = z.record(z.string(), z.string())
/** Hashes of a message's locked files by their documents; null where none is locked. */
export const lockedOf = ({ locked }: Pick<Outgoing, 'locked'>): Record<string, string> | null =>
	locked === '' ? null : lockedSchema.parse(JSON.parse(locked))

/**
 * Makes the locked copies that a message goes out with, and notes them with it before it leaves. One that is there stays while the
 * customer's password opens it, or they have none any more.
 * @throws where a password is missing, with the remedy
 */
export async function lockForSending(
	books: Books,
	desk: Desk,
	message: Outgoing,
	along: readonly number[],
): Promise<Outgoing> {
	// Who wants locked PDFs since it was written gets one too; its letter stays as it was shown and recorded.
	const known = lockedOf(message) ?? (wantsLock(books, message.document_id) ? {} : null)
	if (!known) return message
	const locked: Record<string, string> = {}
	for (const id of [message.document_id, ...along]) locked[id] = await lockedCopy(books, desk, id, known[id])
	const text = JSON.stringify(locked)
	if (text !== message.locked) setLocked(books, message.id, text)
	return { ...message, locked: text }
}

const wantsLock = (books: Books, documentId: number): boolean => (lockOfDocument(books, documentId) ?? '') !== ''

async function lockedCopy(books: Books, desk: Desk, documentId: number, known: string | undefined): Promise<string> {
	const document = readAnyDocument(books, documentId)
	const customer = document && readCustomer(books, document.customer_id)
	const paper = await pdfOf(books, documentId)
	if (!document || !customer || !paper) throw new Error(`Document ${documentId} is gone.`)
	const made = companionsOf(books, documentId).find((file) => file.format === 'locked' && file.file_sha256 === known)
	const kept = made && fileAt(books, made.file_name, made.file_sha256)
	const password = passwordFor(books, customer, document.content)
	const { lockPdf, opensWith } = await import('@/pdf/lockPdf')
	if (kept && known && (!password || (password.ok && (await opensWith(kept, password.password))))) return known
	if (!password?.ok)
		throw new LockFault(
			password?.why ??
				`${customer.name} gets no locked PDFs any more, but this message says so. Set a password under Accounts and send it again.`,
		)
	const bytes = await lockPdf(paper.bytes, password.password)
	const sha256 = createHash('sha256').update(bytes).digest('hex')
	const file_name = `locked/${documentId}-${sha256.slice(0, 12)}/${paper.name}`
	placeFile(join(filesFolder(books), file_name), bytes)
	inOneStep(books, () =>
		addCompanion(books, {
			...{ document_id: documentId, format: 'locked', file_name, file_sha256: sha256 },
			...{ file_size: bytes.length, made_at: desk.now() },
		}),
	)
	return sha256
}

/** A locked copy by its hash. @throws where it is lost; what it said is the PDF on file */
export function lockedFile(books: Books, documentId: number, sha256: string): PdfFile {
	const file = companionsOf(books, documentId).find((one) => one.format === 'locked' && one.file_sha256 === sha256)
	const bytes = file && fileAt(books, file.file_name, sha256)
	if (!file || !bytes)
		throw new Error('The locked copy that was sent is lost from the folder of files; what it said is the PDF on file.')
	return { name: basename(file.file_name), bytes, sha256 }
}

/** Adds or changes a customer, with the password of their PDFs where one is given. Refused where nothing could open them. */
export function setLockedCustomer(books: Books, desk: Desk, fields: CustomerFields, password: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const { lock = '' } = fields
		if (password !== '' && (password.length < leastPassword || password.length > 100))
			return no(`A password has from ${leastPassword} to 100 letters.`)
		if (lock !== '' && lock !== 'own' && !lockFields(books).some(({ key }) => key === lock))
			return no('There is no such field to open PDFs with. Choose another.')
		const known = customerByNumber(books, fields.number)
		if (lock === 'own' && password === '' && (!known || passwordSetAt(books, known.id) === null))
			return no('Give the password that opens their PDFs.')
		changeCustomer(books, desk, fields)
		const customer = customerByNumber(books, fields.number)
		if (customer && password !== '') {
			savePassword(books, desk, customer.id, password)
			askToLookAgain(books, desk, `the password of ${customer.number}`, customer.id)
		}
		return { ok: true }
	})
}
