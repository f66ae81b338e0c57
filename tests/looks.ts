import type { AnyContent } from '@/kinds'
import { type Compiled, compileLayout } from '@/layout/draw'
import { looksOf } from '@/layout/looks'
import { layoutSchema } from '@/layout/schema'
import type { Logo } from '@/pdf/logo'
import { type Assets, makeDocument } from '@/pdf/makeDocument'

const compiled = new Map<string, Compiled>()
export const lookNames = ['Plain', 'Ledger', 'Margin'] as const
export type LookName = (typeof lookNames)[number]

/** A shipped look, made ready. */
export function look(kind: AnyContent['kind'], name: LookName = 'Plain'): Compiled {
	const key = `${kind} ${name}`
	const known = compiled.get(key)
	if (known) return known
	const found = looksOf(kind).find((one) => one.name === name)
	const made = compileLayout(layoutSchema.parse(found))
	compiled.set(key, made)
	return made
}

export const artOf = (kind: AnyContent['kind'], name: LookName = 'Plain', logo: Logo | null = null): Assets => ({
	layout: look(kind, name),
	pictures: new Map(logo ? [[logo.sha256, logo]] : []),
})

/** The PDF of a paper in a shipped look. */
export const made = (content: AnyContent, name: LookName = 'Plain', logo: Logo | null = null) =>
	makeDocument(content, artOf(content.kind, name, logo))
