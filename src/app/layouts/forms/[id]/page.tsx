import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { changedSinceMade } from '@/runs/forms/forms'
import { hardestPapers } from '@/runs/layouts/checks'
import { latestPaper } from '@/runs/layouts/preview'
import { formAnswers, formBody, formRow, formsOfLayout } from '@/store/forms'
import { layoutRow } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { kindIn } from '@/store/paperKinds'
import { runsWithPapers } from '@/store/papers'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { idOf, reading } from '../../../reading'
import { FormReading } from './FormReading'
import { Mapping } from './Mapping'
import { PutAway } from './PutAway'

type Props = { params: Promise<{ id: string }> }

export async function generateMetadata({ params }: Props): Promise<Metadata> {
	const { books } = await reading()
	return { title: formRow(books, idOf((await params).id))?.file_name ?? 'Form' }
}

/** A form that the firm has, on its way to becoming a layout: its marks on one side, our fields on the other. */
export default async function FormPage({ params }: Props) {
	const { books } = await reading()
	const row = formRow(books, idOf((await params).id))
	if (!row || row.away_at) notFound()
	const read = formBody(books, row.id)
	const layout = row.layout_id === null ? null : layoutRow(books, row.layout_id)
	if (!read)
		return (
			<>
				<PageHead title={row.name} about={`A form for ${kindIn(books, row.kind).words.nouns}, ${row.file_name}`}>
					{row.made_sha256 === null && <PutAway id={row.id} />}
				</PageHead>
				<div className="px-5 py-4">
					{row.refused === '' ? (
						<FormReading id={row.id} />
					) : (
						<div className="max-w-2xl space-y-3">
							<Notice tone="stop">{row.refused}</Notice>
							<p>
								<Link href="/layouts" className="text-plum underline">
									Bring in another file
								</Link>
							</p>
						</div>
					)}
				</div>
			</>
		)
	const [newest] = row.layout_id === null ? [] : formsOfLayout(books, row.layout_id)
	return (
		<Mapping
			key={row.id}
			row={{
				id: row.id,
				name: layout?.name ?? row.name,
				kind: row.kind,
				noun: kindIn(books, row.kind).words.noun,
				fileName: row.file_name,
				layout: layout && !layout.away_at ? layout.id : null,
				version: layout?.version ?? 0,
				made: row.made_sha256 !== null,
				newer: newest && newest.id !== row.id ? newest.id : null,
			}}
			form={read.form}
			changes={read.changes}
			kept={formAnswers(books, row.id)}
			changedSince={layout !== null && changedSinceMade(books, layout.id)}
			ownFields={allOwnFields(books)}
			firstPaper={latestPaper(books, row.kind)}
			hardest={hardestPapers(books, row.kind)}
			runs={runsWithPapers(books, row.kind)}
		/>
	)
}
