import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { readLayout } from '@/layout/readLayout'
import { hardestPapers } from '@/runs/layouts/checks'
import { currentBody, usedByWords, usesOf } from '@/runs/layouts/layouts'
import { latestPaper } from '@/runs/layouts/preview'
import { formsOfLayout } from '@/store/forms'
import { editStepOf, layoutDraft, layoutRow, versionsOf } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { kindIn } from '@/store/paperKinds'
import { papersBy, runsWithPapers } from '@/store/papers'
import { idOf, reading } from '../../reading'
import { Editor } from './Editor'

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ paper?: string }> }

export async function generateMetadata({ params }: Props): Promise<Metadata> {
	const { books } = await reading()
	return { title: layoutRow(books, idOf((await params).id))?.name ?? 'Layout' }
}

/** The layout's table: its pieces, the paper, and the settings of the chosen piece. */
export default async function LayoutPage({ params, searchParams }: Props) {
	const { books } = await reading()
	const row = layoutRow(books, idOf((await params).id))
	if (!row || row.away_at) notFound()
	const read = readLayout(currentBody(books, row))
	if (!read.ok) throw new Error(read.faults.map(({ path, message }) => `${path} ${message}`).join('; '))
	const draft = layoutDraft(books, row.id)
	const use = usesOf(books).get(row.id)
	const asked = idOf((await searchParams).paper)
	return (
		<Editor
			key={row.id}
			row={{
				id: row.id,
				name: row.name,
				noun: kindIn(books, row.kind).words.noun,
				version: row.version,
				used: use ? usedByWords(use) : '',
				form: formsOfLayout(books, row.id)[0]?.id ?? null,
			}}
			kept={read.layout}
			at={editStepOf(row)}
			steps={draft ? { first: draft.first, last: draft.last, words: draft.words } : null}
			versions={versionsOf(books, row.id).map((version) => ({
				...version,
				papers: papersBy(books, row.id).find((one) => one.version === version.version)?.issued ?? 0,
			}))}
			firstPaper={asked || latestPaper(books, row.kind)}
			hardest={hardestPapers(books, row.kind)}
			ownFields={allOwnFields(books)}
			runs={runsWithPapers(books, row.kind)}
		/>
	)
}
