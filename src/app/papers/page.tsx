import type { Metadata } from 'next'
import { madeOfWords } from '@/app/paperParts/words'
import { withoutPaper } from '@/runs/papers/gather'
import { pastKeeping } from '@/runs/papers/keep'
import { allPaperKinds, kindIn, kindsIn, papersOfKind } from '@/store/paperKinds'
import { readSettings } from '@/store/settings'
import { Chip } from '@/ui/Chip'
import Link from '@/ui/Link'
import { Empty, PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { reading } from '../reading'
import { KeepForm } from './KeepForm'
import { KindBack } from './KindActs'
import { NewKind } from './NewKind'

export const metadata: Metadata = { title: 'Kinds of paper' }

/** The kinds of paper that the firm makes beside invoices, credit notes and statements, and how long what is issued is kept. */
export default async function PapersPage() {
	const { books, today } = await reading()
	const all = allPaperKinds(books, true)
	const kinds = all.filter(({ away_at }) => away_at === null)
	const away = all.filter(({ away_at }) => away_at !== null)
	const { trialDays, keepYears } = readSettings(books)
	return (
		<>
			<PageHead title="Kinds of paper" about="What the firm makes beside invoices, credit notes and statements">
				<NewKind />
			</PageHead>
			{kinds.length === 0 ? (
				<Empty title="No kind of paper yet">
					<p>
						Quotes, order confirmations, delivery notes and orders to suppliers are made from the same records, by the
						same layouts and the same arithmetic. Say what yours is called and what it is made from.
					</p>
				</Empty>
			) : (
				<Table
					label="Kinds of paper"
					rows={kinds.map((kind) => ({
						...kind,
						...papersOfKind(books, kind.key),
						without: withoutPaper(books, kind),
					}))}
					rowKey={({ id }) => id}
					columns={[
						{
							key: 'name',
							label: 'Kind',
							cell: ({ id, name }) => (
								<Link href={`/papers/${id}`} className="font-semibold text-plum underline">
									{name}
								</Link>
							),
						},
						{ key: 'of', label: 'Made from', cell: (kind) => madeOfWords(kind) },
						{
							key: 'stands',
							label: 'Stands',
							cell: ({ stands }) => (stands === null ? 'for good' : `${stands} days`),
						},
						{
							key: 'without',
							label: 'Without one',
							figures: true,
							cell: ({ without }) => (without === 0 ? '' : String(without)),
						},
						{
							key: 'drafts',
							label: 'Drafts',
							figures: true,
							cell: ({ drafts }) => (drafts === 0 ? '' : String(drafts)),
						},
						{
							key: 'unsent',
							label: 'Not left yet',
							figures: true,
							cell: ({ unsent }) => (unsent === 0 ? '' : String(unsent)),
						},
						{ key: 'issued', label: 'Issued', figures: true, cell: ({ issued }) => String(issued) },
					]}
				/>
			)}
			{away.length > 0 && (
				<Section
					title="Taken away"
					aside="None is made any more; what was issued stays, and can be opened and accepted"
				>
					<ul className="px-5 pb-4">
						{away.map((kind) => (
							<li key={kind.id} className="flex items-center gap-3 border-b border-rule-soft py-1.5">
								<Link href={`/papers/${kind.id}`} className="font-semibold hover:underline">
									{kind.name}
								</Link>
								<span className="text-mute">{`${kind.away_by}: ${kind.away_reason}`}</span>
								<Chip tone="quiet">{`${papersOfKind(books, kind.key).issued} issued`}</Chip>
								<KindBack id={kind.id} name={kind.name} />
							</li>
						))}
					</ul>
				</Section>
			)}
			<Section title="How long papers are kept" aside="Nothing that was issued goes by itself">
				<KeepForm
					trialDays={trialDays}
					kinds={kindsIn(books).map((kind) => ({
						kind,
						nouns: kindIn(books, kind).words.nouns,
						years: keepYears[kind] ?? null,
						past: pastKeeping(books, kind, today).length,
					}))}
				/>
			</Section>
		</>
	)
}
