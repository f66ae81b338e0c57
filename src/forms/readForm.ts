import type { Source } from '@/archive/source'
import { openArchive } from '@/archive/zip'
import { Refused, refuse } from '@/core/refusal'
import { decoded, findEncoding } from '@/intake/formats/delimited/encoding'
import { newBuilder } from './build'
import { readDocx } from './docx'
import type { Form, ReadForm } from './form'
import { readHtml } from './html'
import { readOdt } from './odt'

/** A form is never larger; pictures in it are what makes it large. */
const mostBytes = 30_000_000

/**
 * Reads a form by what it is, whatever its name: DOCX, ODT or HTML.
 * Refused, each with the remedy: another kind of file, one with a password, one that is damaged, made to fill the memory, or too long.
 */
export async function readForm(source: Source): Promise<ReadForm> {
	if (source.size === 0) return refuse('file', 'The file is empty. Choose the form again.')
	if (source.size > mostBytes)
		return refuse('file', 'The file is over 30 MB; a form is not. Make its pictures smaller and save it again.')
	const builder = newBuilder()
	const form = await formIn(source, builder)
	return { form, pictures: [...builder.pictures.values()] }
}

/** The text of a page; nothing for what is none. */
function textIn(source: Source): string {
	try {
		return [...decoded(source, findEncoding(source))].join('')
	} catch (error) {
		if (error instanceof Refused) return ''
		throw error
	}
}

async function formIn(source: Source, builder: ReturnType<typeof newBuilder>): Promise<Form> {
	const start = source.read(0, 4096)
	if (start[0] === 0x50 && start[1] === 0x4b) {
		const archive = await openArchive(source)
		try {
			const type = archive.names.includes('mimetype') ? 'odt' : 'docx'
			if (archive.names.includes('content.xml') && !archive.names.includes('word/document.xml'))
				return await readOdt(archive, builder)
			if (archive.names.some((name) => name.startsWith('xl/')))
				return refuse(
					'file',
					'It is a workbook and no text document. Bring it in under Bring in, or save the form as DOCX or ODT.',
				)
			if (type === 'odt') return await readOdt(archive, builder)
			return await readDocx(archive, builder)
		} finally {
			archive.close()
		}
	}
	// The older container holds both documents of before 2007 and those of today that are locked.
	if (start.readUInt32BE?.(0) === 0xd0cf11e0)
		return refuse(
			'file',
			'The form is protected with a password, or was saved in the format of before 2007. Save it as DOCX without a password and choose the new file.',
		)
	const head = start.toString('latin1')
	if (head.startsWith('%PDF'))
		return refuse(
			'file',
			'It is a PDF, in which nothing is text with marks. Choose the DOCX, ODT or HTML that it was made from, or lay it under a layout as letter paper.',
		)
	if (head.startsWith('{\\rtf'))
		return refuse('file', 'It is a text in RTF. Save it as DOCX or ODT and choose the new file.')
	const text = textIn(source)
	if (!/<(!doctype html|html|body|head|p|div|table|h[1-6]|span)[\s>/]/i.test(text.slice(0, 20_000)))
		return refuse(
			'file',
			'It is no text document: a form is DOCX, ODT or HTML. Save it as one of these and choose the new file.',
		)
	return readHtml(text, builder)
}
