import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { type AnyContent, readContent } from '@/kinds'
import { checkLayout, type LayoutFinding } from '@/layout/check'
import { looksOf } from '@/layout/looks'
import { readLayout } from '@/layout/readLayout'
import { makeDocument } from '@/pdf/makeDocument'
import { type AssetSource, assetsOfBooks, assetsWith } from '@/runs/files/assets'
import type { Books } from '@/store/books'
import { layoutNamed, versionBody } from '@/store/layouts'

const noPictures: AssetSource = { layout: () => null, picture: () => null }

/**
 * Makes the PDF of a paper from its content as it is frozen.
 * @param layout a file, or the name of a layout in the books; the look that ships first without it
 * @returns how many pages it has
 * @throws in words, where the content or the layout cannot be read
 */
export async function drawFile(
	file: string,
	layout: string | undefined,
	out: string,
	books: Books | null,
): Promise<number> {
	const content = contentIn(file)
	const art = await assetsWith(content, bodyFor(content, layout, books), books ? assetsOfBooks(books) : noPictures)
	const made = await makeDocument(content, art)
	writeFileSync(out, made.bytes)
	return made.pages
}

function contentIn(file: string): AnyContent {
	if (!existsSync(file)) throw new Error(`${file} is not there. Give the path of a paper's content as JSON.`)
	try {
		return readContent(readFileSync(file, 'utf8'))
	} catch (error) {
		throw new Error(
			`${file} is no content of a paper: ${error instanceof Error ? error.message.split('\n').slice(0, 6).join(' ') : error}`,
		)
	}
}

function bodyFor(content: AnyContent, wanted: string | undefined, books: Books | null): string {
	if (wanted === undefined) return JSON.stringify(looksOf(content.kind)[0])
	if (existsSync(wanted)) {
		const body = readFileSync(wanted, 'utf8')
		const read = readLayout(body)
		if (!read.ok)
			throw new Error(
				`${wanted} is no layout: ${read.faults.map(({ path, message }) => `${path}: ${message}`).join('; ')}`,
			)
		if (read.layout.kind !== content.kind)
			throw new Error(`${wanted} is for papers of the kind ${read.layout.kind}, not ${content.kind}.`)
		return body
	}
	const row = books && layoutNamed(books, content.kind, wanted)
	const body = row && versionBody(books, row.id, row.version)
	if (!body)
		throw new Error(`There is no file and no released layout “${wanted}” for papers of the kind ${content.kind}.`)
	return body
}

/**
 * What is wrong with a layout by itself, with the place: a path in the file, or a piece.
 * @throws Error where the file is not there
 */
export function checkFile(file: string): (LayoutFinding & { path?: string })[] {
	if (!existsSync(file)) throw new Error(`${file} is not there. Give the path of a layout.`)
	const read = readLayout(readFileSync(file, 'utf8'))
	if (read.ok) return checkLayout(read.layout)
	return read.faults.map(({ path, message }) => ({ level: 'stop', code: 'schema', piece: '', path, words: message }))
}
