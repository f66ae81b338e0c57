import { isIssued, shownNumber } from '@/core/document'
import { numberedForTrial } from '@/kinds'
import type { LayoutFinding } from '@/layout/check'
import { checkPaper } from '@/layout/checkPaper'
import { differences } from '@/layout/edit'
import { readLayout } from '@/layout/readLayout'
import { fieldsOf } from '@/layout/values'
import type { Books } from '@/store/books'
import { type LayoutRow, versionBody } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { checkForRelease, contentOf, drawTrial, hardestPapers } from './checks'
import { currentBody } from './layouts'
import { latestPaper } from './preview'

/** A hard paper on a layout: why it is hard, its pages now and by the version before, and what is wrong with it. */
type ProofRow = {
	id: number
	name: string
	why: string[]
	pages: number
	/** By the version that is in force; null where there is none. */
	before: number | null
	findings: LayoutFinding[]
}
type Proof = { rows: ProofRow[]; findings: LayoutFinding[] }

/** The hardest papers of the books on what is in the making, beside the version before. */
export async function proofOf(books: Books, row: LayoutRow): Promise<Proof> {
	const body = currentBody(books, row)
	const older = row.version === 0 ? null : versionBody(books, row.id, row.version)
	const rows: ProofRow[] = []
	for (const { id, name, why } of hardestPapers(books, row.kind)) {
		const content = contentOf(books, row.kind, id)
		if (!content) continue
		const numbered = numberedForTrial(content)
		const drawn = await drawTrial(books, body, numbered)
		rows.push({
			id,
			name,
			why,
			pages: drawn.pages.length,
			before: older === null || older === body ? null : (await drawTrial(books, older, numbered)).pages.length,
			findings: checkPaper(numbered, drawn),
		})
	}
	return { rows, findings: await checkForRelease(books, body) }
}

type Compared = {
	paper: number
	name: string
	/** What differs, in words. */
	words: string[]
	/** Of the hardest papers, those that have other pages: how many by each. */
	changed: { id: number; name: string; before: number; after: number }[]
}

/** Two versions of a layout on the books' papers; 0 is what is in the making. Null where there is no such version or paper. */
export async function compareVersions(
	books: Books,
	row: LayoutRow,
	from: number,
	to: number,
	wanted: number,
): Promise<Compared | null> {
	const bodyOf = (version: number) => (version === 0 ? currentBody(books, row) : versionBody(books, row.id, version))
	const [before, after] = [bodyOf(from), bodyOf(to)]
	const [old, now] = [before && readLayout(before), after && readLayout(after)]
	if (!before || !after || !old || !now || !old.ok || !now.ok) return null
	const paper = wanted === 0 ? latestPaper(books, row.kind) : wanted
	const seen = contentOf(books, row.kind, paper)
	if (!seen || seen.kind !== row.kind) return null
	const changed: Compared['changed'] = []
	for (const { id, name } of hardestPapers(books, row.kind)) {
		const content = contentOf(books, row.kind, id)
		if (!content) continue
		const pages = async (body: string) => (await drawTrial(books, body, content)).pages.length
		const [one, other] = [await pages(before), await pages(after)]
		if (one !== other) changed.push({ id, name, before: one, after: other })
	}
	const fields = fieldsOf({ reckoned: [...old.layout.reckoned, ...now.layout.reckoned] }, allOwnFields(books))
	return {
		paper,
		name: isIssued(seen) ? `${shownNumber(seen)} ${seen.customer.name}` : `a draft to ${seen.customer.name}`,
		words: differences(old.layout, now.layout, fields),
		changed,
	}
}
