import { notFound } from 'next/navigation'
import { setPaperKind } from '@/app/acts/papers'
import { GoByKey } from '@/app/paperParts/GoByKey'
import { PaperLinks } from '@/app/paperParts/PaperLinks'
import { madeOfWords } from '@/app/paperParts/words'
import { dayText } from '@/core/calendar'
import { withoutPaper } from '@/runs/papers/gather'
import { readPaperKind } from '@/store/paperKinds'
import { type PaperRecord, papersOf, recordsOfKind } from '@/store/paperRecords'
import { registerFor } from '@/store/registers'
import { buttonLook } from '@/ui/Button'
import { Chip } from '@/ui/Chip'
import { KeyHint } from '@/ui/KeyHint'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { SavedForm } from '@/ui/SavedForm'
import { Table } from '@/ui/Table'
import { idOf, reading } from '../../reading'
import { KindActs } from '../KindActs'
import { KindFields } from '../KindFields'

/** A kind of paper: what it is, what it is made from, and what was written for it. */
export default async function KindPage({ params }: { params: Promise<{ id: string }> }) {
	const { books, today } = await reading()
	const kind = readPaperKind(books, idOf((await params).id))
	if (!kind) notFound()
	const open = kind.away_at === null
	const records = kind.records === 'orders' ? [] : recordsOfKind(books, kind.id)
	const { id, name, several } = kind
	return (
		<>
			<PageHead title={name} about={madeOfWords(kind)}>
				{open && <KindActs kind={{ id, name, several, without: withoutPaper(books, kind) }} today={today} />}
				{open && kind.records === 'sheet' && (
					<Link href="/bring-in" className={buttonLook('main')}>
						Bring in a sheet
					</Link>
				)}
				{open && kind.records === 'form' && (
					<>
						<GoByKey keys={{ o: `/papers/${id}/write` }} />
						<Link href={`/papers/${id}/write`} className={buttonLook('main')}>
							{`Write ${name.toLowerCase()}`}
							<KeyHint dark>O</KeyHint>
						</Link>
					</>
				)}
			</PageHead>
			<div className="space-y-2 px-5 pb-3 empty:hidden">
				{!open && <Notice tone="look">{`Taken away by ${kind.away_by}: ${kind.away_reason}.`}</Notice>}
				{open && kind.numbered && !registerFor(books, kind.key) && (
					<Notice tone="look">
						{`There is no number register for ${several} yet. `}
						<Link href={`/registers#${kind.key}`} className="underline">
							Open one
						</Link>
						{' before the first is drafted.'}
					</Notice>
				)}
			</div>
			{kind.records !== 'orders' && (
				<Section
					title={kind.records === 'form' ? 'What was written for it' : 'What its sheets brought'}
					aside={`${records.length === 300 ? 'The latest 300' : records.length}, the latest first`}
				>
					<Table
						label={`Records of ${several}`}
						rows={records}
						rowKey={(record) => record.id}
						columns={[
							{
								key: 'number',
								label: 'Record',
								width: '120px',
								cell: (record) => (
									<Link href={`/papers/records/${record.id}`} className="figures text-plum underline">
										{record.number}
									</Link>
								),
							},
							{ key: 'day', label: 'Date', width: '120px', cell: ({ day }) => dayText(day) },
							{ key: 'customer', label: 'For', cell: ({ customer, body }) => body?.recipient?.name || customer },
							...(kind.records === 'sheet'
								? [
										{
											key: 'from',
											label: 'From',
											cell: ({ file_id, body }: PaperRecord) => (
												<Link href={`/bring-in/${file_id}`} className="text-plum underline">
													{body?.order.source_file}
												</Link>
											),
										},
									]
								: []),
							{
								key: 'papers',
								label: 'Its papers',
								cell: (record) =>
									record.away_reason === null ? (
										<PaperLinks papers={papersOf(books, record.id)} none="none yet" />
									) : (
										<Chip tone="look">{`withdrawn: ${record.away_reason}`}</Chip>
									),
							},
						]}
					/>
				</Section>
			)}
			{open && (
				<Section title="What it is" aside="Issued papers keep what counted when they were issued">
					<div className="max-w-3xl px-5 pb-5">
						<SavedForm save={setPaperKind} label="Change the kind" saved="Saved.">
							<input type="hidden" name="kind" value={id} />
							<KindFields kind={kind} mayBecome={kind.base === 'priced' && kind.records === 'form'} />
						</SavedForm>
						<p className="mt-4 flex flex-wrap gap-4">
							<Link href="/layouts" className="text-plum underline">
								Its layouts
							</Link>
							<Link href={`/letters?kind=${kind.key}`} className="text-plum underline">
								Its letter
							</Link>
							<Link href={`/layouts/leaving?kind=${kind.key}`} className="text-plum underline">
								Names of its files
							</Link>
							{kind.numbered && (
								<Link href={`/registers#${kind.key}`} className="text-plum underline">
									Its register
								</Link>
							)}
						</p>
					</div>
				</Section>
			)}
		</>
	)
}
