import { posix } from 'node:path'
import type { Source } from '@/archive/source'
import { readXml } from '@/archive/xml'
import { type Archive, openArchive } from '@/archive/zip'
import { refuse } from '@/core/refusal'
import type { Workbook } from './sheet'
import { readStyles } from './styles'

const mostTexts = 5_000_000
const longestTexts = 200_000_000

/** Opens a workbook: its sheets, styles and shared texts. Refused: an archive that holds none. */
export async function openWorkbook(source: Source): Promise<Workbook> {
	const archive = await openArchive(source)
	const targets = await relations(archive, '_rels/.rels')
	const main = [...targets.values()].find(({ type }) => type.endsWith('/officeDocument'))
	const path = main?.target ?? 'xl/workbook.xml'
	if (!archive.names.includes(path) || !/workbook/i.test(path)) {
		archive.close()
		return refuse('file', 'It is an archive without a workbook in it. Save the sheet as XLSX or CSV and choose that.')
	}
	const parts = await relations(
		archive,
		posix.join(posix.dirname(path), '_rels', `${posix.basename(path)}.rels`),
		posix.dirname(path),
	)
	const sheets: Workbook['sheets'] = []
	let from1904 = false
	await readXml(await archive.open(path), {
		open: (name, attributes) => {
			if (name === 'workbookPr') from1904 = attributes.date1904 === '1' || attributes.date1904 === 'true'
			if (name !== 'sheet') return
			const part = parts.get(attributes['r:id'] ?? '')
			if (part?.type.endsWith('/worksheet') && archive.names.includes(part.target))
				sheets.push({
					name: attributes.name ?? '',
					path: part.target,
					hidden: (attributes.state ?? 'visible') !== 'visible',
				})
		},
	})
	const ofType = (type: string) => [...parts.values()].find((part) => part.type.endsWith(`/${type}`))?.target ?? ''
	return {
		archive,
		sheets,
		from1904,
		styles: await readStyles(archive, ofType('styles')),
		texts: await sharedTexts(archive, ofType('sharedStrings')),
	}
}

async function relations(archive: Archive, path: string, folder = '') {
	const found = new Map<string, { type: string; target: string }>()
	if (!archive.names.includes(path)) return found
	await readXml(await archive.open(path), {
		open: (name, { Id = '', Type = '', Target = '' }) => {
			const target = Target.startsWith('/') ? Target.slice(1) : posix.join(folder, Target)
			if (name === 'Relationship') found.set(Id, { type: Type, target })
		},
	})
	return found
}

async function sharedTexts(archive: Archive, path: string): Promise<string[]> {
	if (!archive.names.includes(path)) return []
	const texts: string[] = []
	let text = ''
	let length = 0
	let takes = false
	let phonetic = false
	await readXml(await archive.open(path), {
		open: (name) => {
			if (name === 'si') text = ''
			if (name === 'rPh') phonetic = true
			if (name === 't') takes = !phonetic
		},
		text: (part) => {
			if (takes) text += part
		},
		close: (name) => {
			if (name === 't') takes = false
			if (name === 'rPh') phonetic = false
			if (name !== 'si') return
			length += text.length
			if (texts.length >= mostTexts || length > longestTexts)
				refuse('file', 'The workbook holds more text than can be read at once. Save the sheet as CSV and choose that.')
			texts.push(text)
		},
	})
	return texts
}
