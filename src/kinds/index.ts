import { z } from 'zod'
import { type BillContent, type LayoutRef, layoutRefSchema } from '@/core/document'
import type { FieldValues } from '@/core/letter'
import { isOwnKind, type OwnKind, ownKind } from '@/core/paperKind'
import type { StatementContent } from '@/core/statement'
import { creditNoteKind } from './creditNote'
import { invoiceKind } from './invoice'
import type { DocumentKind, Entering, FirstLetter } from './kind'
import { pricedKind, unpricedKind } from './paper'
import { statementKind } from './statement'

export type { Entering } from './kind'

/** The kinds that the program brings, in the order they are offered. */
export const documentKinds = [invoiceKind, creditNoteKind, statementKind] as const
const allKinds = [...documentKinds, pricedKind, unpricedKind] as const

/** What any document says. */
export type AnyContent = BillContent | StatementContent
/** What kinds of documents say: one of the program's own, or what a kind of the firm's is based on. */
type BaseName = AnyContent['kind']
/** A kind as documents, runs, registers, letters and layouts are kept by it; one that the firm made with its id, "priced-3". */
export type KindName = 'invoice' | 'credit-note' | 'statement' | OwnKind

const named = z.object({ kind: z.string() })
const byName = new Map<string, (typeof allKinds)[number]>(allKinds.map((kind) => [kind.kind, kind]))

/** What papers of a kind say. */
export const baseOf = (key: KindName | BaseName): BaseName => {
	const [, base = key] = /^(.+)-\d+$/.exec(key) ?? []
	return base as BaseName
}

/**
 * The descriptor of a kind, by its name or what it is based on; one that the firm made has its own words in the books alone
 * (`kindIn`). @throws for a name that is none
 */
export function kindOf(name: KindName | BaseName): (typeof allKinds)[number] {
	const kind = byName.get(baseOf(name))
	if (!kind) throw new Error(`There is no kind of document "${name}".`)
	return kind
}

export const kindNames: readonly ('invoice' | 'credit-note' | 'statement')[] = ['invoice', 'credit-note', 'statement']
/** Whether a word names a kind of document: one of the program's, or of the firm's. */
export const isKindName = (name: string): name is KindName =>
	documentKinds.some(({ kind }) => kind === name) || isOwnKind(name)

/** The kind that a content is of, as the books keep it. */
export const keyOf = (content: AnyContent): KindName =>
	content.kind === 'priced' || content.kind === 'unpriced'
		? ownKind(content.kind, content.paper?.id ?? 0)
		: content.kind

/** A content with its own descriptor, which the compiler cannot pair by itself. */
const paired = (content: AnyContent) => kindOf(content.kind) as unknown as DocumentKind<AnyContent>

/** Reads a document's kept content. */
export function readContent(text: string): AnyContent {
	const kept: unknown = JSON.parse(text)
	return kindOf(named.parse(kept).kind as BaseName).schema.parse(kept)
}

const laidOut = z.object({ layout: layoutRefSchema })
/** The layout that a kept content names, of one that was not read whole. */
export const layoutOf = (kept: unknown): LayoutRef => laidOut.parse(kept).layout

/** Anything that prices lines of orders: an invoice, a credit note, or a paper of lines. */
export const isBill = (content: AnyContent): content is BillContent => 'priced' in content
/** Whether a kind is the statement. */
export const isStatement = (content: AnyContent): content is StatementContent => !isBill(content)

/** Values of a letter's merge fields for a document, in its customer's figures and dates. */
export const fieldValues = (content: AnyContent): FieldValues => paired(content).fields(content)
/** Whether its orders count as billed by it, and it may divide and take them: invoices and credit notes alone. */
export const billsOrders = (content: AnyContent): content is BillContent => kindOf(content.kind).bills
/** A paper of a kind that the firm made. */
export const isPaper = (content: AnyContent): content is BillContent & { paper: NonNullable<BillContent['paper']> } =>
	isBill(content) && content.paper !== undefined
/** The key of the letter that goes along with a document. */
export const letterOf = (content: AnyContent): string => paired(content).letter(content)
/** Every text on a document, for what the fonts must have. */
export const textsOf = (content: AnyContent): string[] => paired(content).texts(content)
/** What a document counts as in the tally: orders, or open items. */
export const countOf = (content: AnyContent): number => paired(content).count(content)
/** A content with its number in place. */
export const numbered = (content: AnyContent, number: string): AnyContent => paired(content).numbered(content, number)
/** A draft with a number to try it with, where it is to have one; so its paper must have room for it. */
export const numberedForTrial = (content: AnyContent, number = 'TRIAL-0000'): AnyContent => {
	if (content.number !== '') return content
	if (isPaper(content) && !content.paper.numbered) return { ...content, paper: { ...content.paper, mark: '#0' } }
	return { ...content, number } as AnyContent
}
/** What a document enters in the ledger when it is numbered; null where it enters nothing. */
export const entering = (content: AnyContent): Entering | null => paired(content).enters(content)
/** What is wrong with a content's figures when they are reckoned anew from what it says; empty for nothing. */
export const verifyContent = (content: AnyContent): string => paired(content).verify(content)

const letters: [string, FirstLetter][] = documentKinds.flatMap(({ letters }) => Object.entries(letters))
/** Keys of every letter, in the order they are offered. */
export const letterKinds: string[] = letters.map(([key]) => key)
/** The letter of a key, as it is until the firm writes its own. */
export const firstLetters: Record<string, FirstLetter> = Object.fromEntries(letters)

/** The stage of a past-due letter by its key, from 1; 0 for any other. */
export const stageOfLetter = (key: string): number => Number(/^past-due-(\d{1,2})$/.exec(key)?.[1] ?? 0)
/** Keys of the letters that are offered where there are so many stages of past-due ones. */
export const lettersFor = (stages: number): string[] => [
	...letterKinds.filter((key) => stageOfLetter(key) === 0),
	...Array.from({ length: stages }, (_, place) => `past-due-${place + 1}`),
]
/** Whether a word names a letter. */
export const isLetter = (key: string): boolean => letterKinds.includes(key) || stageOfLetter(key) > 0
/** The letter of a key, as it is until the firm writes its own; of further stages that of the last that has one. */
export const firstLetterOf = (key: string): FirstLetter | undefined =>
	firstLetters[key] ?? (stageOfLetter(key) > 0 ? firstLetters['past-due-3'] : undefined)
/** What a letter is called on screens. */
export const letterName = (key: string): string =>
	stageOfLetter(key) > 0 ? `Past due, ${stageOfLetter(key)}` : (firstLetters[key]?.name ?? key)
