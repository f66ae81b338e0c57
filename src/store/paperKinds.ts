import {
	type OwnKind,
	ownKind,
	ownKindId,
	type PaperBase,
	type PaperKindBody,
	type PaperSource,
	paperKindSchema,
} from '@/core/paperKind'
import { initials } from '@/core/wording'
import { documentKinds, type KindName, kindOf } from '@/kinds'
import type { DocumentKind } from '@/kinds/kind'
import { firstPaperLetter, paperWords } from '@/kinds/paper'
import type { Books } from './books'
import type { Desk } from './events'
import { isDone, stands } from './places'

// Kinds of paper that the firm made, and every kind by what it is called in these books.

export type PaperKindRow = PaperKindBody & {
	id: number
	key: OwnKind
	base: PaperBase
	records: PaperSource
	away_at: string | null
	away_by: string | null
	away_reason: string | null
}
type Row = Omit<PaperKindRow, 'key' | keyof PaperKindBody> & { body: string }

const columns = 'id, base, records, body, away_at, away_by, away_reason'
const asKind = ({ body, ...row }: Row): PaperKindRow => ({
	...row,
	...paperKindSchema.parse(JSON.parse(body)),
	key: ownKind(row.base, row.id),
})

/** Kinds that papers can be made of, in the order that they were made; with those that were taken away when asked. */
export const allPaperKinds = ({ sql }: Books, away = false): PaperKindRow[] =>
	sql<[number], Row>(`SELECT ${columns} FROM paper_kind WHERE away_at IS NULL OR ? ORDER BY id`)
		.all(away ? 1 : 0)
		.map(asKind)

/** One kind of paper of the firm's own; null where there is none. */
export function readPaperKind({ sql }: Books, id: number): PaperKindRow | null {
	const row = sql<[number], Row>(`SELECT ${columns} FROM paper_kind WHERE id = ?`).get(id)
	return row ? asKind(row) : null
}

/** The kind that a document's, run's or layout's key names; null for one that the program brings. */
export const paperKindOf = (books: Books, key: string): PaperKindRow | null => readPaperKind(books, ownKindId(key))

/** @returns its id */
export const addPaperKind = (
	{ sql }: Books,
	desk: Desk,
	base: PaperBase,
	records: PaperSource,
	body: PaperKindBody,
): number =>
	Number(
		sql<[string, string, string, string, string]>(
			'INSERT INTO paper_kind (base, records, body, made_at, made_by) VALUES (?, ?, ?, ?, ?)',
		).run(base, records, JSON.stringify(body), desk.now(), desk.clerk).lastInsertRowid,
	)

/** Keeps what a kind of paper is. */
export function setPaperKind({ sql }: Books, id: number, body: PaperKindBody): void {
	sql<[string, number]>('UPDATE paper_kind SET body = ? WHERE id = ?').run(JSON.stringify(body), id)
}

/** Puts a kind of paper away, with the reason. */
export function putKindAway({ sql }: Books, desk: Desk, id: number, reason: string): void {
	sql<[string, string, string, number]>(
		'UPDATE paper_kind SET away_at = ?, away_by = ?, away_reason = ? WHERE id = ?',
	).run(desk.now(), desk.clerk, reason, id)
}

/** Takes a kind of paper back that was put away. */
export function takeKindBack({ sql }: Books, id: number): void {
	sql<[number]>('UPDATE paper_kind SET away_at = NULL, away_by = NULL, away_reason = NULL WHERE id = ?').run(id)
}

/** How many papers of a kind there are: issued ones, drafts (also those about to be drafted), and issued ones that have not left yet. */
export const papersOfKind = ({ sql }: Books, key: string): { issued: number; drafts: number; unsent: number } =>
	sql<[{ key: string }], { issued: number; drafts: number; unsent: number }>(
		`SELECT count(d.number) AS issued,
			count(*) - count(d.number) + (SELECT count(*) FROM run_paper x JOIN run g ON g.id = x.run_id WHERE g.kind = @key AND g.state = 'gathering') AS drafts,
			coalesce(sum(d.number IS NOT NULL AND ${stands} AND NOT (${isDone})), 0) AS unsent
		 FROM placed d JOIN run r ON r.id = d.run_id
		 WHERE d.kind = @key AND d.place <> 'dropped' AND (d.number IS NOT NULL OR r.state IN ('gathering', 'open'))`,
	).get({ key }) ?? { issued: 0, drafts: 0, unsent: 0 }

/** A kind with the words that it has in these books. */
export function kindIn(books: Books, key: KindName): Pick<DocumentKind, 'words' | 'bills' | 'letters' | 'register'> {
	const own = paperKindOf(books, key)
	const { words, bills, letters, register } = kindOf(key)
	if (!own) return { words, bills, letters, register }
	return {
		words: paperWords(own),
		bills,
		letters: { [key]: firstPaperLetter(own) },
		register: { prefix: `${initials(own.name)}-{year}-`, yearly: 1 },
	}
}

/** Every kind of these books, the program's own first, without those that were taken away. */
export const kindsIn = (books: Books): KindName[] => [
	...documentKinds.map(({ kind }) => kind as KindName),
	...allPaperKinds(books).map(({ key }) => key),
]

/** Whether a kind's documents get numbers of a register. */
export const isNumbered = (books: Books, key: KindName): boolean => paperKindOf(books, key)?.numbered ?? true
