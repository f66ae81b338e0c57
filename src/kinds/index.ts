import { z } from 'zod'
import { type BillContent, type LayoutRef, layoutRefSchema } from '@/core/document'
import type { FieldValues } from '@/core/letter'
import type { StatementContent } from '@/core/statement'
import { creditNoteKind } from './creditNote'
import { invoiceKind } from './invoice'
import type { DocumentKind, Entering, FirstLetter } from './kind'
import { statementKind } from './statement'

export type { Entering } from './kind'

/** Every kind of document, in the order they are offered. */
export const documentKinds = [invoiceKind, creditNoteKind, statementKind] as const

/** What any document says. */
export type AnyContent = BillContent | StatementContent
export type KindName = AnyContent['kind']

const named = z.object({ kind: z.string() })
const byName = new Map<string, (typeof documentKinds)[number]>(documentKinds.map((kind) => [kind.kind, kind]))

/** The descriptor of a kind. @throws for a name that is none */
export function kindOf(name: string): (typeof documentKinds)[number] {
	const kind = byName.get(name)
	if (!kind) throw new Error(`There is no kind of document "${name}".`)
	return kind
}

export const kindNames = documentKinds.map(({ kind }) => kind)
export const isKindName = (name: string): name is KindName => byName.has(name)

/** A content with its own descriptor, which the compiler cannot pair by itself. */
const paired = (content: AnyContent) => kindOf(content.kind) as unknown as DocumentKind<AnyContent>

/** Reads a document's kept content. */
export function readContent(text: string): AnyContent {
	const kept: unknown = JSON.parse(text)
	return kindOf(named.parse(kept).kind).schema.parse(kept)
}

const laidOut = z.object({ layout: layoutRefSchema })
/** The layout that a kept content names, without reading the rest. */
export const layoutOf = (text: string): LayoutRef => laidOut.parse(JSON.parse(text)).layout

/** An invoice or a credit note: something that prices lines of orders. */
export const isBill = (content: AnyContent): content is BillContent => 'priced' in content
export const isStatement = (content: AnyContent): content is StatementContent => !isBill(content)

export const fieldValues = (content: AnyContent): FieldValues => paired(content).fields(content)
export const letterOf = (content: AnyContent): string => paired(content).letter(content)
export const textsOf = (content: AnyContent): string[] => paired(content).texts(content)
export const countOf = (content: AnyContent): number => paired(content).count(content)
export const numbered = (content: AnyContent, number: string): AnyContent => paired(content).numbered(content, number)
export const entering = (content: AnyContent): Entering | null => paired(content).enters(content)
export const verifyContent = (content: AnyContent): string => paired(content).verify(content)

const letters: [string, FirstLetter][] = documentKinds.flatMap(({ letters }) => Object.entries(letters))
/** Keys of every letter, in the order they are offered. */
export const letterKinds: string[] = letters.map(([key]) => key)
/** The letter of a key, as it is until the firm writes its own. */
export const firstLetters: Record<string, FirstLetter> = Object.fromEntries(letters)
export const letterName = (key: string): string => firstLetters[key]?.name ?? key
