import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { create, type Font } from 'fontkit'
import { type Family, families } from '@/layout/schemaParts'

/** A file of a face, below the folder of font packages, and the six letters that its subsets are named with (ISO 32000, 9.9.2). */
type File = { file: string; tag: string; bold: boolean; italic: boolean }

/** The four styles of a family: its package, its name within files, and the weight that is its bold. */
const shipped: Record<Family, [folder: string, name: string, bold: string, tag: string]> = {
	'source-sans': ['source-sans-3', 'SourceSans3', '600SemiBold', 'SS'],
	'source-serif': ['source-serif-4', 'SourceSerif4', '600SemiBold', 'SE'],
	'libre-franklin': ['libre-franklin', 'LibreFranklin', '600SemiBold', 'LF'],
	barlow: ['barlow', 'Barlow', '600SemiBold', 'BA'],
}
/** Families that stand in where a chosen one has no glyph, in the order in which they are asked. */
const standIns: [family: string, folder: string, name: string, tag: string][] = [
	['noto-jp', 'noto-sans-jp', 'NotoSansJP', 'NJ'],
	['noto-sc', 'noto-sans-sc', 'NotoSansSC', 'NC'],
	['noto-kr', 'noto-sans-kr', 'NotoSansKR', 'NK'],
	['noto-arabic', 'noto-sans-arabic', 'NotoSansArabic', 'NA'],
	['noto-hebrew', 'noto-sans-hebrew', 'NotoSansHebrew', 'NH'],
]
/** Families whose letters take their shape from their neighbours. */
export const shaped = new Set(['noto-arabic', 'noto-hebrew'])

const files = new Map<string, File>([
	// The two faces of papers from before layouts were data keep their names.
	[
		'regular',
		{ file: 'source-sans-3/400Regular/SourceSans3_400Regular.ttf', tag: 'NTLYRG', bold: false, italic: false },
	],
	['bold', { file: 'source-sans-3/600SemiBold/SourceSans3_600SemiBold.ttf', tag: 'NTLYSB', bold: true, italic: false }],
])
for (const family of families) {
	const [folder, name, bold, tag] = shipped[family]
	for (const [style, weight, letters] of [
		['regular', '400Regular', 'RG'],
		['bold', bold, 'BD'],
		['italic', '400Regular_Italic', 'IT'],
		['bold italic', `${bold}_Italic`, 'BI'],
	] as const)
		files.set(`${family}/${style}`, {
			file: `${folder}/${weight}/${name}_${weight}.ttf`,
			tag: `NT${tag}${letters}`,
			bold: style.startsWith('bold'),
			italic: style.endsWith('italic'),
		})
}
for (const [family, folder, name, tag] of standIns)
	for (const [style, weight, letters] of [
		['regular', '400Regular', 'RG'],
		['bold', '700Bold', 'BD'],
	] as const)
		files.set(`${family}/${style}`, {
			file: `${folder}/${weight}/${name}_${weight}.ttf`,
			tag: `NT${tag}${letters}`,
			bold: style === 'bold',
			italic: false,
		})

export type OpenFace = File & { face: string; font: Font; shaped: boolean }
const opened = new Map<string, OpenFace>()

/** A face, its file read at the first call. @throws for one that is not shipped */
export function openFace(face: string): OpenFace {
	const known = opened.get(face)
	if (known) return known
	const file = files.get(face)
	if (!file) throw new Error(`There is no face "${face}".`)
	const folder = join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'node_modules/@expo-google-fonts')
	const font = create(readFileSync(join(folder, file.file)))
	if ('fonts' in font) throw new Error(`${file.file} is a collection, not one face.`)
	const made = { ...file, face, font, shaped: shaped.has(face.split('/')[0] ?? '') }
	opened.set(face, made)
	return made
}

/** The faces that stand in for one, bold for bold. */
export function standInsOf(face: string): string[] {
	const bold = files.get(face)?.bold === true
	return standIns.map(([family]) => `${family}/${bold ? 'bold' : 'regular'}`)
}
