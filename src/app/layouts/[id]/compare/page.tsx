import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { formatTime } from '@/core/format'
import { compareVersions } from '@/runs/layouts/proof'
import { layoutRow, versionsOf } from '@/store/layouts'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { PdfPages } from '@/ui/PdfPages'
import { idOf, reading } from '../../../reading'

export const metadata: Metadata = { title: 'Versions compared' }

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ from?: string; to?: string; paper?: string }> }

/** Two versions of a layout side by side on one paper, what differs in words, and which of the hardest papers get other pages. */
export default async function ComparePage({ params, searchParams }: Props) {
	const { books } = await reading()
	const row = layoutRow(books, idOf((await params).id))
	if (!row || row.away_at) notFound()
	const asked = await searchParams
	const [from, to, paper] = [idOf(asked.from), idOf(asked.to), idOf(asked.paper)]
	const compared = await compareVersions(books, row, from, to, paper)
	if (!compared) notFound()
	const versions = versionsOf(books, row.id)
	const named = (version: number) =>
		version === 0 ? (row.step === null ? `version ${row.version}` : 'what is in the making') : `version ${version}`
	const link = (more: Record<string, number>) =>
		`/layouts/${row.id}/compare?${new URLSearchParams(
			Object.entries({ from, to, paper: compared.paper, ...more }).map(([key, value]) => [key, String(value)]),
		)}`
	return (
		<>
			<PageHead title={`${row.name}: ${named(from)} and ${named(to)}`} about={`on ${compared.name}`}>
				<Link href={`/layouts/${row.id}?paper=${compared.paper}`} className={buttonLook()}>
					Back to the layout
				</Link>
			</PageHead>
			<div className="space-y-2 px-5 pb-4">
				<p className="text-sm">
					<span className="text-mute">Compared with </span>
					{[...(row.step === null ? [] : [0]), ...versions.map(({ version }) => version)]
						.filter((version) => version !== from)
						.map((version) => (
							<Link
								key={version}
								href={link({ to: version })}
								aria-current={version === to ? 'page' : undefined}
								title={versions.find((one) => one.version === version)?.note}
								className={`mr-2 rounded-sm border px-2 py-0.5 ${version === to ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-mute'}`}
							>
								{named(version)}
							</Link>
						))}
				</p>
				<Notice tone={compared.words.length === 0 ? 'tie' : 'plain'}>
					{compared.words.length === 0 ? 'Nothing differs.' : `${compared.words.join('; ')}.`}
				</Notice>
				<Notice tone={compared.changed.length === 0 ? 'tie' : 'look'}>
					{compared.changed.length === 0 ? (
						'Each of the hardest papers has as many pages by both.'
					) : (
						<>
							{'Other pages: '}
							{compared.changed.map(({ id, name, before, after }, place) => (
								<span key={id}>
									{place > 0 && '; '}
									<Link href={link({ paper: id })} className="text-plum underline">
										{name}
									</Link>
									{` ${before} and ${after}`}
								</span>
							))}
						</>
					)}
				</Notice>
			</div>
			<div className="grid grid-cols-2 gap-5 px-5 pb-8">
				{[from, to].map((version) => (
					<section key={version} aria-label={named(version)}>
						<h2 className="mb-1 font-semibold">
							{named(version)}
							<span className="ml-2 text-sm font-normal text-mute">
								{versions
									.filter((one) => one.version === version)
									.map(({ note, released_at, released_by }) => `${note}, ${released_by}, ${formatTime(released_at)}`)}
							</span>
						</h2>
						<PdfPages
							url={`/api/layouts/${row.id}/pdf?paper=${compared.paper}&version=${version}&step=${row.step ?? 0}`}
							label={`${compared.name}, ${named(version)}`}
							most={6}
						/>
					</section>
				))}
			</div>
		</>
	)
}
