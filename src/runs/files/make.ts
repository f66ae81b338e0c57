import { createHash } from 'node:crypto'
import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Companion } from '@/core/companions'
import { shownNumber } from '@/core/document'
import { fileName } from '@/core/fileName'
import { type AnyContent, isPaper, readContent } from '@/kinds'
import { makeDocument } from '@/pdf/makeDocument'
import type { MadeFile } from '@/store/made'
import { type AssetSource, assetsFor } from './assets'
import { makeCompanion } from './companions'

/** What a worker gets: frozen documents, and the layouts and pictures that they name. */
export type MakeBatch = {
	folder: string
	runId: number
	documents: { id: number; content: string; beside: Companion[] }[]
	layouts: { id: number; version: number; body: string }[]
	images: { sha256: string; type: string; bytes: Uint8Array }[]
}

/** Where a document's file lies, below the folder of files. */
export const fileOf = (runId: number, content: AnyContent): string =>
	content.filed?.file !== undefined
		? `${content.filed.file}.pdf`
		: `${runFolder(runId)}/${fileName([...(isPaper(content) && content.number === '' ? [content.paper.name] : []), shownNumber(content), content.customer.name], 'pdf')}`
/** The folder of a run's files. */
export const runFolder = (runId: number): string => `run-${String(runId).padStart(4, '0')}`

/** Makes the PDFs of a batch and puts each in its place under its name, whole or not at all. */
export async function makeBatch({ folder, runId, documents, layouts, images }: MakeBatch): Promise<MadeFile[]> {
	const source: AssetSource = {
		layout: (id, version) => layouts.find((one) => one.id === id && one.version === version)?.body ?? null,
		picture: (sha256) => images.find((image) => image.sha256 === sha256) ?? null,
	}
	const made: MadeFile[] = []
	for (const { id, content: text, beside } of documents) {
		const content = readContent(text)
		const pdf = await makeDocument(content, await assetsFor(content, source))
		const name = fileOf(runId, content)
		placeFile(join(folder, name), pdf.bytes)
		const others: MadeFile['beside'] = []
		for (const format of beside) {
			const bytes = await makeCompanion(content, format, source)
			if (!bytes) continue
			const file_name = name.replace(/\.pdf$/, `.${format}`)
			placeFile(join(folder, file_name), bytes)
			const file_sha256 = createHash('sha256').update(bytes).digest('hex')
			others.push({ format, file_name, file_sha256, file_size: bytes.length })
		}
		made.push({
			...{ id, file_name: name, file_sha256: pdf.sha256, file_size: pdf.bytes.length, pages: pdf.pages },
			beside: others,
		})
	}
	return made
}

/** Writes under another name first, so that a file under its own name is always whole; a missing folder is made. */
export function placeFile(path: string, bytes: Buffer): void {
	const partial = `${path}.part`
	try {
		write(partial, bytes)
		renameSync(partial, path)
	} catch (error) {
		rmSync(partial, { force: true })
		throw error
	}
}

function write(path: string, bytes: Buffer): void {
	try {
		writeFileSync(path, bytes)
	} catch (error) {
		if (!(error instanceof Error && 'code' in error && error.code === 'ENOENT')) throw error
		mkdirSync(dirname(path), { recursive: true })
		writeFileSync(path, bytes)
	}
}
