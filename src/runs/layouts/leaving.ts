import { shownNumber } from '@/core/document'
import { no, type Outcome } from '@/core/outcome'
import { baseOf, isKindName, type KindName, numberedForTrial } from '@/kinds'
import { filedAs, type Leaving, nameFields, sameNames } from '@/layout/leaving'
import { fileOf, runFolder } from '@/runs/files/make'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { allOwnFields } from '@/store/ownFields'
import { kindIn } from '@/store/paperKinds'
import { latestContents } from '@/store/papers'
import { changeSettings, readSettings } from '@/store/settings'
import { contentOf } from './checks'

type NameSeen = { paper: string; file: string; title: string }
export type NamesSeen = { names: NameSeen[]; same: { file: string; papers: string[] }[]; looked: number }

const most = 1000

/** What the latest papers of a kind would be called by parts: the first few, and those that would have the same file. */
export function namesSeen(books: Books, kind: KindName, leaving: Leaving): NamesSeen {
	const latest = latestContents(books, kind, most)
	const invented = contentOf(books, kind, 0)
	const papers = latest.length > 0 ? latest : invented ? [{ id: 0, content: invented }] : []
	const names = papers.map(({ content: draft }, place) => {
		const content = numberedForTrial(draft, `N-${1000 + place}`)
		const filed = filedAs(content, leaving, runFolder(1))
		const { filed: _, ...bare } = content
		const named = (filed.file === undefined ? bare : { ...bare, filed }) as typeof content
		return {
			paper: `${shownNumber(content)} ${content.customer.name}`,
			file: fileOf(1, named),
			title: filed.title || `${kindIn(books, kind).words.name} ${shownNumber(content)}`,
		}
	})
	return { names: names.slice(0, 4), same: sameNames(names), looked: latest.length }
}

/** Says how papers of a kind leave. Refused: a part that there is not, and names that real papers would share. */
export function setLeaving(books: Books, desk: Desk, kind: string, leaving: Leaving): Outcome {
	if (!isKindName(kind)) return no('There is no such kind of paper.')
	const known = new Set(nameFields(baseOf(kind), allOwnFields(books)).map(({ key }) => key))
	const stray = [...leaving.file, ...leaving.folder, ...leaving.title].find(
		(part) => 'field' in part && !known.has(part.field),
	)
	if (stray && 'field' in stray) return no(`No name can have the field “${stray.field}”. Take it out.`)
	const [same] = namesSeen(books, kind, leaving).same
	if (same)
		return no(
			`${same.papers.slice(0, 2).join(' and ')} would have the same file, ${same.file}. Put the number among the parts of the name.`,
		)
	const before = readSettings(books).leaving
	changeSettings(books, desk, { leaving: { ...before, [kind]: leaving } })
	return { ok: true }
}
