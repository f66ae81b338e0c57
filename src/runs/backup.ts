import { existsSync, mkdtempSync, readdirSync, renameSync, rmSync, symlinkSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { create, extract } from 'tar'
import type { Books } from '@/store/books'
import { keyFile } from '@/store/seal'

const parts = ['north-tally.db', 'files', 'practice-mail', keyFile]

/**
 * Writes the books and their files to one gzipped tar archive, while work goes on: the database by SQLite's own online
 * backup first, then the files, which are only ever added to. The archive appears under its name when it is whole.
 */
export async function backup(books: Books, file: string): Promise<void> {
	const target = resolve(file)
	const stage = mkdtempSync(join(dirname(target), '.north-tally-backup-'))
	try {
		await books.db.backup(join(stage, 'north-tally.db'))
		const beside = parts.slice(1).filter((part) => existsSync(join(books.folder, part)))
		for (const part of beside) symlinkSync(resolve(books.folder, part), join(stage, part))
		await create({ file: join(stage, 'all.tgz'), gzip: { level: 1 }, cwd: stage, portable: true, follow: true }, [
			parts[0] ?? '',
			...beside,
		])
		renameSync(join(stage, 'all.tgz'), target)
	} finally {
		rmSync(stage, { recursive: true, force: true })
	}
}

export type Restored = { ok: true } | { ok: false; message: string }

/** Lays the books of an archive out in a folder that holds nothing yet; they appear there when they are whole. */
export async function restore(file: string, folder: string): Promise<Restored> {
	const target = resolve(folder)
	if (!existsSync(file)) return { ok: false, message: `${file} is not there. Give the path of a backup.` }
	if (existsSync(target) && readdirSync(target).length > 0)
		return { ok: false, message: `${folder} is not empty. Name a new folder with --data, so that nothing is lost.` }
	const stage = mkdtempSync(join(dirname(target), '.north-tally-restore-'))
	try {
		await extract({ file, cwd: stage })
		if (!existsSync(join(stage, 'north-tally.db')))
			return { ok: false, message: `${file} holds no books. Give a file that "tally backup" wrote.` }
		rmSync(target, { recursive: true, force: true })
		renameSync(stage, target)
		return { ok: true }
	} catch {
		return { ok: false, message: `${file} cannot be unpacked; it is damaged or no backup.` }
	} finally {
		rmSync(stage, { recursive: true, force: true })
	}
}
