import { createHash } from 'node:crypto'
import {
	createReadStream,
	existsSync,
	mkdirSync,
	mkdtempSync,
	readdirSync,
	renameSync,
	rmSync,
	symlinkSync,
} from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { create, extract, list } from 'tar'
import type { Books } from '@/store/books'
import { copyFault, faultOf, notBooks } from '@/store/copies'
import { keyFile } from '@/store/seal'
import { secretsFile } from '@/store/secrets'

const mainFile = 'north-tally.db'
/** The databases of a folder of books, each copied by SQLite itself. */
const databases = [mainFile, join('practice-mail', 'practice-mail.db')]
/** Secrets, which no backup holds. */
export const notInBackups = [keyFile, secretsFile]

export type Kept = { ok: true } | { ok: false; message: string }

const hashOf = async (file: string): Promise<string> => {
	const hash = createHash('sha256')
	for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer)
	return hash.digest('hex')
}

/**
 * Writes the books and their files to one gzipped tar archive, while work goes on: each database by SQLite itself first,
 * then the files, which are only ever added to. What was written is read back; the archive appears under its name when that is good.
 */
export async function backup(books: Pick<Books, 'folder'>, file: string): Promise<Kept> {
	const target = resolve(file)
	const stage = mkdtempSync(join(dirname(target), '.north-tally-backup-'))
	try {
		const parts: string[] = []
		for (const name of databases.filter((one) => existsSync(join(books.folder, one)))) {
			const copy = join(stage, name.replace(/.*\//, ''))
			const why = copyFault(join(books.folder, name), copy)
			if (why !== null)
				return {
					ok: false,
					message: `No backup was written: ${join(books.folder, name)} is damaged (${why}). Lay the latest good backup out in a new folder with "tally restore".`,
				}
			parts.push(copy)
		}
		// The archive has the databases where they stand in the folder of the books.
		const root = mkdtempSync(join(stage, 'root-'))
		const names = [mainFile]
		symlinkSync(parts[0] ?? '', join(root, mainFile))
		if (parts[1]) {
			symlinkSync(parts[1], join(root, 'practice-mail.db'))
			names.push('practice-mail.db')
		}
		if (existsSync(join(books.folder, 'files'))) {
			symlinkSync(resolve(books.folder, 'files'), join(root, 'files'))
			names.push('files')
		}
		const written = join(stage, 'all.tgz')
		await create({ file: written, gzip: { level: 1 }, cwd: root, portable: true, follow: true }, names)
		const why = await readBack(written, new Map(await Promise.all(parts.map(hashed))))
		if (why !== null)
			return {
				ok: false,
				message: `No backup was written: what was read back is not what was written (${why}). Try again, on another disk.`,
			}
		renameSync(written, target)
		return { ok: true }
	} catch (error) {
		return { ok: false, message: `No backup was written: ${error instanceof Error ? error.message : String(error)}` }
	} finally {
		rmSync(stage, { recursive: true, force: true })
	}
}

const hashed = async (file: string): Promise<[name: string, hash: string]> => [
	file.replace(/.*\//, ''),
	await hashOf(file),
]

/** Reads an archive to its end; what is wrong with it, null for nothing. */
async function readBack(file: string, wanted: Map<string, string>): Promise<string | null> {
	const found = new Map<string, string>()
	try {
		await list({
			file,
			strict: true,
			onReadEntry: (entry) => {
				if (!wanted.has(entry.path)) return
				const hash = createHash('sha256')
				entry.on('data', (chunk: Buffer) => hash.update(chunk))
				entry.on('end', () => found.set(entry.path, hash.digest('hex')))
			},
		})
	} catch (error) {
		return error instanceof Error ? error.message : String(error)
	}
	const wrong = [...wanted].find(([name, hash]) => found.get(name) !== hash)
	return wrong ? wrong[0] : null
}

/** Lays the books of an archive out in a folder that holds nothing yet; they appear there when they are whole. */
export async function restore(file: string, folder: string): Promise<Kept> {
	const target = resolve(folder)
	const no = (message: string): Kept => ({ ok: false, message })
	if (!existsSync(file)) return no(`${file} is not there. Give the path of a backup.`)
	if (existsSync(target) && readdirSync(target).length > 0)
		return no(`${folder} is not empty. Name a new folder with --data, so that nothing is lost.`)
	const stage = mkdtempSync(join(dirname(target), '.north-tally-restore-'))
	try {
		const entry = (path: string, kind: unknown) =>
			kind === 'File' || kind === 'Directory' || kind === 'OldFile' || kind === 'ContiguousFile' ? path : ''
		await extract({
			file,
			cwd: stage,
			strict: true,
			filter: (path, one) => entry(path, 'type' in one ? one.type : 'File') !== '',
		})
		const main = join(stage, mainFile)
		if (!existsSync(main)) return no(`${file} holds no books. Give a file that "tally backup" wrote.`)
		const why = faultOf(main) ?? notBooks(main)
		if (why !== null) return no(`${file} holds no sound books (${why}). Nothing was laid out; take another backup.`)
		const practice = join(stage, 'practice-mail.db')
		if (existsSync(practice)) {
			const folderOf = join(stage, 'practice-mail')
			mkdirSync(folderOf, { mode: 0o700 })
			renameSync(practice, join(folderOf, 'practice-mail.db'))
		}
		rmSync(target, { recursive: true, force: true })
		renameSync(stage, target)
		return { ok: true }
	} catch {
		return no(`${file} cannot be unpacked; it is damaged or no backup.`)
	} finally {
		rmSync(stage, { recursive: true, force: true })
	}
}
