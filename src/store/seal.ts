import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Books } from './books'
import { type Desk, record } from './events'

// Passwords of customers stand in the books sealed (AES-256-GCM); the key lies beside the database, for its owner alone.

/** The file of the key, below the folder of the books. */
export const keyFile = 'seal.key'

function keyOf({ folder }: Books, make: boolean): Buffer | null {
	const path = join(folder, keyFile)
	try {
		if (make) writeFileSync(path, randomBytes(32), { flag: 'wx', mode: 0o600 })
	} catch (error) {
		if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error
	}
	try {
		const key = readFileSync(path)
		return key.length === 32 ? key : null
	} catch {
		return null
	}
}

/** Sets the password that opens a customer's PDFs. It is never recorded. @throws where the key beside the books is damaged */
export function savePassword(books: Books, desk: Desk, customerId: number, password: string): void {
	const key = keyOf(books, true)
	if (!key) throw new Error(`The key of sealed passwords (${keyFile}) is damaged. Put back the one from a backup.`)
	const nonce = randomBytes(12)
	const cipher = createCipheriv('aes-256-gcm', key, nonce).setAAD(Buffer.from(String(customerId)))
	const text = Buffer.concat([cipher.update(password, 'utf8'), cipher.final()])
	const sealed = Buffer.concat([nonce, cipher.getAuthTag(), text])
	books
		.sql<[number, Buffer, string, string]>(
			`INSERT INTO customer_lock (customer_id, sealed, set_at, set_by) VALUES (?, ?, ?, ?)
			 ON CONFLICT (customer_id) DO UPDATE SET sealed = excluded.sealed, set_at = excluded.set_at, set_by = excluded.set_by`,
		)
		.run(customerId, sealed, desk.now(), desk.clerk)
	record(books, desk, { subject: 'customer', id: customerId, act: 'set the password of their PDFs' })
}

/** When a customer's password was set; null where they have none. */
export const passwordSetAt = ({ sql }: Books, customerId: number): string | null =>
	sql<[number], { set_at: string }>('SELECT set_at FROM customer_lock WHERE customer_id = ?').get(customerId)?.set_at ??
	null

/** A customer's password; null where there is none, or it cannot be unsealed, since its key is gone or another. */
export function readPassword(books: Books, customerId: number): string | null {
	const sealed = books
		.sql<[number], { sealed: Buffer }>('SELECT sealed FROM customer_lock WHERE customer_id = ?')
		.get(customerId)?.sealed
	const key = sealed && keyOf(books, false)
	if (!key) return null
	try {
		const opener = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12))
			.setAAD(Buffer.from(String(customerId)))
			.setAuthTag(sealed.subarray(12, 28))
		return Buffer.concat([opener.update(sealed.subarray(28)), opener.final()]).toString('utf8')
	} catch {
		return null
	}
}
