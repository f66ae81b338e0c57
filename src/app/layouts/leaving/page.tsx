import type { Metadata } from 'next'
import { baseOf, isKindName } from '@/kinds'
import { nameFields, usualLeaving } from '@/layout/leaving'
import { namesSeen } from '@/runs/layouts/leaving'
import { allOwnFields } from '@/store/ownFields'
import { kindIn, kindsIn } from '@/store/paperKinds'
import { readSettings } from '@/store/settings'
import Link from '@/ui/Link'
import { PageHead } from '@/ui/Page'
import { reading } from '../../reading'
import { LeavingForm } from './LeavingForm'

export const metadata: Metadata = { title: 'How papers leave' }

/** What files are called, how many are printed, and what goes beside the PDF; a kind of paper at a time. */
export default async function LeavingPage({ searchParams }: { searchParams: Promise<{ kind?: string }> }) {
	const { books } = await reading()
	const { kind: wanted = '' } = await searchParams
	const kind = isKindName(wanted) ? wanted : 'invoice'
	const leaving = readSettings(books).leaving[kind] ?? usualLeaving
	return (
		<>
			<PageHead title="How papers leave" about="Names of files, copies, and what goes beside the PDF">
				{kindsIn(books).map((each) => (
					<Link
						key={each}
						href={`/layouts/leaving?kind=${each}`}
						aria-current={each === kind ? 'page' : undefined}
						className={`rounded-sm border px-2 py-0.5 text-sm ${each === kind ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-mute'}`}
					>
						{kindIn(books, each).words.nouns}
					</Link>
				))}
			</PageHead>
			<LeavingForm
				key={kind}
				kind={kind}
				nouns={kindIn(books, kind).words.nouns}
				kept={leaving}
				fields={nameFields(baseOf(kind), allOwnFields(books)).map(({ key, name, group, type }) => ({
					key,
					name,
					group,
					type,
				}))}
				seen={namesSeen(books, kind, leaving)}
			/>
		</>
	)
}
