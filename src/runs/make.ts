import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { shownNumber } from '@/core/document'
import { fileName } from '@/core/fileName'
import { type AnyContent, readContent } from '@/kinds'
import { type Logo, readLogo } from '@/pdf/logo'
import { makeDocument } from '@/pdf/makeDocument'
import type { MadeFile } from '@/store/made'

/** What a worker gets: frozen documents, and the pictures they refer to. */
export type MakeBatch = {
	folder: string
	runId: number
	documents: { id: number; content: string }[]
	logos: { sha256: string; type: string; bytes: Uint8Array }[]
}

const logos = new Map<string, Logo>()

/** The logo of a document, read once a process. An unreadable one is left out; it was refused when it was set. */
export async function logoFor(
	sha256: string | null,
	find: (sha256: string) => { type: string; bytes: Uint8Array } | null,
): Promise<Logo | null> {
	if (!sha256) return null
	const known = logos.get(sha256)
	if (known) return known
	const image = find(sha256)
	const read = image && (await readLogo(image.type, Buffer.from(image.bytes), sha256))
	if (!read?.ok) return null
	logos.set(sha256, read.value)
	return read.value
}

/** Where a document's file lies, below the folder of files. */
export const fileOf = (runId: number, content: AnyContent): string =>
	`run-${String(runId).padStart(4, '0')}/${fileName([shownNumber(content), content.customer.name], 'pdf')}`

/** Makes the PDFs of a batch and puts each in its place under its name, whole or not at all. */
export async function makeBatch({ folder, runId, documents, logos: images }: MakeBatch): Promise<MadeFile[]> {
	const made: MadeFile[] = []
	for (const { id, content: text } of documents) {
		const content = readContent(text)
		const logo = await logoFor(content.issuer.logo, (sha256) => images.find((image) => image.sha256 === sha256) ?? null)
		const pdf = await makeDocument(content, logo)
		const name = fileOf(runId, content)
		placeFile(join(folder, name), pdf.bytes)
		made.push({ id, file_name: name, file_sha256: pdf.sha256, file_size: pdf.bytes.length, pages: pdf.pages })
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
