import type { z } from 'zod'
import type { Source } from '@/archive/source'
import type { Column, SheetRow } from '../cell'

/** Where a format puts what it reads, in the order of the source. */
type Out = {
	row: (row: SheetRow) => void
	/** Said at the end by formats whose columns have names of their own. */
	columns: (columns: Column[]) => void
}

/** What a reader keeps: its settings, and whether a head is the one that it knows. */
export type Kept = { settings: unknown; fits: (head: readonly string[]) => boolean }

/**
 * A way in which tables are kept: how it is recognised, its settings, and how its rows are read. A new one is a folder and a line in
 * `index.ts`. What cannot be read is refused (`core/refusal.ts`) with its place and the remedy.
 */
export type Format<Settings = unknown> = {
	name: string
	/** As a clerk says it. */
	words: string
	/** Whether it is lines of text, which may break off anywhere without a sign of its own. */
	lines: boolean
	/** By what is in the file, not by its name. */
	recognise: (source: Source) => boolean
	settings: z.ZodType<Settings>
	/** The settings that fit a source, as far as can be told. */
	propose: (source: Source) => Promise<Settings>
	/** What may be chosen where a source leaves a choice: the sheets of a workbook, say. */
	choices: (source: Source) => Promise<{ setting: keyof Settings & string; words: string; options: string[] }[]>
	/** Whether a person must first say what is what. */
	unmarked?: (settings: Settings) => boolean
	/** The settings of a source whose head a reader knows: what the source says itself counts, else what the reader keeps. */
	fitted?: (source: Source, kept: Settings) => Promise<Settings>
	/** Which reader knows a source otherwise than by the head that is found in it, by its place, and by which settings; null for none. */
	knows?: (source: Source, kept: readonly Kept[]) => Promise<{ place: number; settings: Settings } | null>
	read: (source: Source, settings: Settings, out: Out) => Promise<void>
}
