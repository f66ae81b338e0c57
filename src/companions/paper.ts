import type { Block } from '@/layout/blockKit'
import type { Family } from '@/layout/schemaParts'

/** A picture as it came, by its hash. */
export type Picture = { type: string; bytes: Uint8Array; ratio: number }

/** What a paper is written from in formats that lay text out by themselves. */
export type Paper = {
	blocks: Block[]
	title: string
	author: string
	/** The day of the document; no other time is in the file. */
	day: string
	language: string
	size: { width: number; height: number }
	margins: { top: number; right: number; bottom: number; left: number }
	text: { family: Family; size: number; color: string }
	pictures: ReadonlyMap<string, Picture>
}

/** Faces that a reader's machine may have, for each of ours. */
export const faces: Record<Family, { name: string; kind: 'serif' | 'sans-serif' }> = {
	'source-sans': { name: 'Source Sans 3', kind: 'sans-serif' },
	'source-serif': { name: 'Source Serif 4', kind: 'serif' },
	'libre-franklin': { name: 'Libre Franklin', kind: 'sans-serif' },
	barlow: { name: 'Barlow', kind: 'sans-serif' },
}
