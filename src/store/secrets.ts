import { closeSync, fsyncSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import type Database from 'better-sqlite3'
import { z } from 'zod'
import { inOneStep } from './books'

// What nobody but this program may know stands beside the books, for their owner alone: neither in the database nor in backups.

/** The file of secrets, below the folder of the books. */
export const secretsFile = 'secrets.json'
/** In the environment it goes before the file. */
const mailPasswordVariable = 'NORTH_TALLY_MAIL_PASSWORD'

const secretsSchema = z.object({ mailPassword: z.string().default('') })
type Secrets = z.infer<typeof secretsSchema>

/** What is kept; a file that is damaged keeps nothing, so that the password is asked for again where it is needed. */
function readSecrets(folder: string): Secrets {
	let text: string
	try {
		text = readFileSync(join(folder, secretsFile), 'utf8')
	} catch (error) {
		if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return { mailPassword: '' }
		throw error
	}
	try {
		return secretsSchema.parse(JSON.parse(text))
	} catch {
		console.error(`${join(folder, secretsFile)} is damaged. Give the password of the mail server again under Company.`)
		return { mailPassword: '' }
	}
}

/** The password of the mail server; empty for none. */
export const mailPassword = (folder: string): string =>
	process.env[mailPasswordVariable] ?? readSecrets(folder).mailPassword

/** Keeps the password of the mail server; the file is whole at any moment. */
export function keepMailPassword(folder: string, password: string): void {
	const path = join(folder, secretsFile)
	const file = openSync(`${path}.new`, 'w', 0o600)
	try {
		writeSync(file, JSON.stringify({ mailPassword: password } satisfies Secrets))
		fsyncSync(file)
	} finally {
		closeSync(file)
	}
	renameSync(`${path}.new`, path)
}

/** Books of before kept the mail server's password among the settings: it moves beside them, and nothing of it stays in the file. */
export function movePasswordOut({ db, folder }: { db: Database.Database; folder: string }): void {
	const row = db.prepare<[], { value: string }>("SELECT value FROM setting WHERE key = 'mail'").get()
	const mail: { password?: string } = row ? JSON.parse(row.value) : {}
	if (!mail.password) return
	keepMailPassword(folder, mail.password)
	db.pragma('secure_delete = ON')
	inOneStep({ db }, () =>
		db.prepare("UPDATE setting SET value = ? WHERE key = 'mail'").run(JSON.stringify({ ...mail, password: '' })),
	)
	db.pragma('secure_delete = OFF')
	db.exec('VACUUM')
	db.pragma('wal_checkpoint(TRUNCATE)')
}
