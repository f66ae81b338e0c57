import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { proofOf } from '@/runs/layouts/proof'
import { layoutRow } from '@/store/layouts'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { PdfPages } from '@/ui/PdfPages'
import { idOf, reading } from '../../../reading'

export const metadata: Metadata = { title: 'Proof sheet' }

/** The hardest papers of the books on a layout, side by side, with what is wrong with each and what changed since the version before. */
export default async function ProofPage({ params }: { params: Promise<{ id: string }> }) {
	const { books } = await reading()
	const row = layoutRow(books, idOf((await params).id))
	if (!row || row.away_at) notFound()
	const { rows, findings } = await proofOf(books, row)
	const changed = rows.filter(({ pages, before }) => before !== null && before !== pages)
	return (
		<>
			<PageHead
				title={`Proof sheet of ${row.name}`}
				about={`${row.step === null ? `version ${row.version}` : `version ${row.version + 1} in the making`}, on the ${rows.length} hardest papers of the books`}
			>
				<Link href={`/layouts/${row.id}`} className={buttonLook()}>
					Back to the layout
				</Link>
			</PageHead>
			<div className="space-y-2 px-5 pb-4">
				{findings.length === 0 && (
					<Notice tone="tie">Nothing overflows, nothing is missing: it may be released.</Notice>
				)}
				{findings.map(({ level, words, piece }) => (
					<Notice key={`${piece} ${words}`} tone={level}>
						{words}
					</Notice>
				))}
				{changed.length > 0 && (
					<Notice tone="look">
						{`Against version ${row.version}: ${changed.map(({ name, pages, before }) => `${name} has ${pages} pages instead of ${before}`).join('; ')}.`}
					</Notice>
				)}
			</div>
			<ul className="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-5 px-5 pb-8">
				{rows.map(({ id, name, why, pages, before, findings: wrong }) => (
					<li key={id} className="border-t border-rule pt-2">
						<Link href={`/layouts/${row.id}?paper=${id}`} className="font-semibold hover:underline">
							{name}
						</Link>
						<p className="text-sm text-mute">
							{`${why.join(', ')}; ${pages === 1 ? '1 page' : `${pages} pages`}${before !== null && before !== pages ? `, ${before} before` : ''}`}
						</p>
						{wrong.map(({ level, words }) => (
							<p key={words} className={`text-sm ${level === 'stop' ? 'text-brick' : 'text-ochre'}`}>
								{words}
							</p>
						))}
						<div className={`mt-2 ${before !== null && before !== pages ? 'grid grid-cols-2 gap-2' : ''}`}>
							<PdfPages
								url={`/api/layouts/${row.id}/pdf?paper=${id}&step=${row.step ?? row.version}`}
								label={name}
								most={3}
							/>
							{before !== null && before !== pages && (
								<PdfPages
									url={`/api/layouts/${row.id}/pdf?paper=${id}&version=${row.version}`}
									label={`${name}, version ${row.version}`}
									most={3}
								/>
							)}
						</div>
					</li>
				))}
			</ul>
		</>
	)
}
