import type { LayoutFinding } from '@/layout/check'
import { checkPaper } from '@/layout/check'
import type { Books } from '@/store/books'
import { type LayoutRow, versionBody } from '@/store/layouts'
import { checkForRelease, contentOf, drawTrial, hardestPapers } from './layoutChecks'
import { currentBody } from './layouts'

/** A hard paper on a layout: why it is hard, its pages now and by the version before, and what is wrong with it. */
export type ProofRow = {
	id: number
	name: string
	why: string[]
	pages: number
	/** By the version that is in force; null where there is none. */
	before: number | null
	findings: LayoutFinding[]
}
export type Proof = { rows: ProofRow[]; findings: LayoutFinding[] }

/** The hardest papers of the books on what is in the making, beside the version before. */
export async function proofOf(books: Books, row: LayoutRow): Promise<Proof> {
	const body = currentBody(books, row)
	const older = row.version === 0 ? null : versionBody(books, row.id, row.version)
	const rows: ProofRow[] = []
	for (const { id, name, why } of hardestPapers(books, row.kind)) {
		const content = contentOf(books, row.kind, id)
		if (!content) continue
		const numbered = content.number === '' ? { ...content, number: 'TRIAL-0000' } : content
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
