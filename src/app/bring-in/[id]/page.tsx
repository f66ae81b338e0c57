import { notFound, redirect } from 'next/navigation'
import { Fragment } from 'react'
import { formatTime } from '@/core/format'
import type { ColumnSays } from '@/intake/evidence'
import { formatNamed } from '@/intake/formats'
import { fileKindRules, fileKinds } from '@/intake/kinds'
import { kindRules } from '@/runs/bringIn/kinds'
import { nameFromFile } from '@/runs/bringIn/readerActs'
import { sameAsOf } from '@/runs/bringIn/sameFile'
import { whyNotBack } from '@/runs/bringIn/takeBack'
import { type FileView, fileView } from '@/runs/bringIn/view'
import { typeOf } from '@/runs/papers/columns'
import { homeCurrency } from '@/store/company'
import { orderOfForm } from '@/store/files'
import { standingOfFile } from '@/store/orderIntake'
import { allPaperKinds, readPaperKind } from '@/store/paperKinds'
import { recordsOfFile } from '@/store/paperRecords'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { idOf, reading as readingOf } from '../../reading'
import { Actions } from './Actions'
import { askedOf } from './asked'
import { PaymentsSay, RecordsSay } from './Brings'
import { Counts } from './Counts'
import { ExtractSays } from './ExtractSays'
import { LeftOut, SaveReader, Unknown } from './Kept'
import { Questions } from './Questions'
import { ReadAsText } from './ReadAs'
import { Refused } from './Refused'
import { SheetRecords } from './SheetRecords'
import { SheetSays } from './SheetSays'
import { TakeColumns } from './TakeColumns'
import { Understood } from './Understood'
import { Work } from './Work'

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ again?: string; page?: string; row?: string }> }

export default async function FilePage({ params, searchParams }: Props) {
	const { books } = await readingOf()
	const { again, page = '1', row = '' } = await searchParams
	const view = fileView(books, idOf((await params).id), Number(page) || 1, idOf(row))
	if (!view) notFound()
	const { file, job, going, fields, acceptances, leftOut, corrections, unmarked } = view
	// Before it is marked, and while it is read anew, there is nothing of it to look at.
	const open = !unmarked && !(going && job?.kind === 'read file')
	const [reading, review] = open ? [view.reading, view.review] : [null, null]
	const same = sameAsOf(file)
	if (same !== null) redirect(`/bring-in/${same}?again=1`)
	if (file.state === 'dropped') notFound()
	const written = orderOfForm(books, file.id)
	if (written !== null) redirect(`/orders/${written}`)
	const accepted = file.state === 'accepted'
	const asked = going ? [] : askedOf(view, view.change)
	const bringing = unmarked ? null : acceptWords(view)
	// What accepting would do is shown before it, also of what was mended since the last.
	const brings = !accepted || bringing !== null || asked.length > 0
	const home = homeCurrency(books)
	const evidence: ColumnSays[] = JSON.parse(file.look ?? '{}').evidence ?? []
	const records = accepted && file.kind === 'rows' ? recordsOfFile(books, file.id) : []
	const standing = accepted && file.kind === 'orders' ? standingOfFile(books, file.id) : null
	const failed = job?.state === 'failed' && job.words !== file.trouble ? job.words : ''
	const canLeave = file.state === 'read' || file.state === 'arriving'
	const hindered = review?.extract?.hindered
	return (
		<>
			<PageHead title={file.name} about={aboutFile(view)}>
				{!going && view.reading?.format === 'report' && (
					<Link href={`/bring-in/${file.id}/mark`} className={buttonLook(unmarked ? 'main' : 'plain')}>
						{unmarked ? 'Mark what is what' : 'Change the marks'}
					</Link>
				)}
				{!going && file.trouble === '' && (
					<Actions
						id={file.id}
						seen={review?.digest ?? ''}
						words={bringing?.words ?? null}
						ready={
							asked.length === 0 && review !== null && review.missing.length === 0 && !hindered && bringing?.many !== 0
						}
						canLeave={canLeave}
						lost={view.lost}
						back={
							standing && standing.waits > 0
								? {
										about: `Its ${standing.waits} waiting orders count no more. The file stays, and can be accepted again.`,
										yes: `Take ${standing.waits} orders back`,
										hindered: whyNotBack(books, file.id),
									}
								: accepted && file.kind === 'open items'
									? {
											about:
												'All that it did is undone, so that every day has what it had before. The file stays, and can be accepted again.',
											yes: 'Take the extract back',
											hindered: whyNotBack(books, file.id),
										}
									: undefined
						}
					/>
				)}
				{file.trouble !== '' && <Actions id={file.id} seen="" words={null} ready={false} canLeave={canLeave} />}
				{accepted && (file.kind === 'payments' || file.kind === 'open items') && (
					<Link href="/accounts" className={buttonLook(bringing === null ? 'main' : 'plain')}>
						See who owes what
					</Link>
				)}
				{accepted && file.kind === 'rows' && (
					<Link
						href={`/papers/${view.reading?.paperKind}`}
						className={buttonLook(bringing === null ? 'main' : 'plain')}
					>
						Go on to its papers
					</Link>
				)}
				{accepted && file.kind === 'orders' && (
					<Link href="/to-bill" className={buttonLook(bringing === null ? 'main' : 'plain')}>
						See what is to bill
					</Link>
				)}
			</PageHead>
			<Work id={file.id} first={{ going, kind: job?.kind ?? '', done: job?.done ?? 0, total: job?.total ?? 0 }} />
			<div className="space-y-3 px-5 pb-4 empty:hidden">
				{again && (
					<Notice tone={accepted ? 'look' : 'plain'}>
						{accepted
							? 'This very file was accepted before. Nothing was added.'
							: 'This very file is here already and waits to be accepted.'}
					</Notice>
				)}
				{acceptances
					.filter(({ state }) => state === 'done' || state === 'taken back')
					.map(({ id, state, words, at, clerk }) => (
						<Notice key={id} tone={state === 'done' ? 'tie' : 'plain'}>
							{state === 'done' ? 'Accepted' : 'Taken back; it was accepted'} {formatTime(at)} by {clerk}. {words}
						</Notice>
					))}
				{file.state === 'taken back' && <Notice tone="look">{file.result}</Notice>}
				{file.state === 'arriving' && (
					<Notice tone="look">
						It broke off on its way. Choose it again under Bring in, and it goes on where it was.
					</Notice>
				)}
				{file.trouble !== '' && <Notice tone="stop">{file.trouble}</Notice>}
				{!going && failed !== '' && <Notice tone="stop">{failed}</Notice>}
				{!going && hindered && <Notice tone="stop">{hindered}</Notice>}
				{!going && unmarked && (
					<Notice tone="look">
						This is a text report, printed page by page. Mark on one of its pages what is what: where a document begins,
						its values, its rows. All other pages are then read by that. <ReadAsText id={file.id} />
					</Notice>
				)}
				{review && !unmarked && review.missing.length > 0 && (
					<Notice tone="stop">
						No column is matched to: {review.missing.join(', ')}. Choose it below, give a value where nothing stands, or
						say what the file holds.
					</Notice>
				)}
				<ReaderSays view={view} />
			</div>
			{view.row && (
				<Section title={`Row ${view.row.row}`} aside="As it stands in the file">
					<dl className="grid grid-cols-[minmax(120px,220px)_1fr] gap-y-0.5 px-5 pb-3 text-sm">
						{view.row.cells.map(({ place, name, value }) => (
							<Fragment key={place}>
								<dt className="text-mute">{name}</dt>
								<dd className="figures">{value}</dd>
							</Fragment>
						))}
					</dl>
				</Section>
			)}
			{asked.length > 0 && <Questions id={file.id} asked={asked} />}
			{review && review.missing.length === 0 && review.decided.questions.length === 0 && <Counts review={review} />}
			{review && review.rows.refused > 0 && (
				<Refused
					id={file.id}
					count={review.rows.refused}
					rows={view.refused.rows}
					page={view.refused.page}
					pages={view.refused.pages}
					alike={view.alike}
					home={home}
					orders={reading?.kind === 'orders'}
				/>
			)}
			{leftOut.length > 0 && (
				<Section title={leftOut.length === 1 ? 'One row left out by hand' : `${leftOut.length} rows left out by hand`}>
					<LeftOut id={file.id} rows={leftOut.slice(0, 200)} />
				</Section>
			)}
			{review && brings && review.payments.length + (review.standings.again ?? 0) > 0 && (
				<PaymentsSay records={view.records} />
			)}
			{review && brings && <ExtractSays records={view.records} review={review} accepted={accepted} />}
			{review && brings && reading && fileKindRules[reading.kind].master && (
				<RecordsSay records={view.records} review={review} kind={reading.kind} />
			)}
			{review && brings && reading?.kind === 'rows' && <SheetSays records={view.records} review={review} />}
			{review && review.unknown.length > 0 && (
				<Section
					title="Not in the books yet"
					aside="Their lines come in all the same; a run looks at them. Make them here, or later."
				>
					<Unknown id={file.id} home={home} unknown={review.unknown} />
				</Section>
			)}
			{reading && (
				<Section title="As understood" aside="Each field, its column, and what its first values are taken as">
					<Understood
						key={file.reading}
						id={file.id}
						reading={reading}
						kinds={fileKinds}
						fields={fields}
						choices={view.choices}
						decided={review?.decided ?? null}
						fixed={going || (accepted && file.kind !== 'orders')}
						papers={allPaperKinds(books)
							.filter(({ records }) => records === 'sheet')
							.map(({ id, name, each }) => ({ id, name, each }))}
					/>
				</Section>
			)}
			{open && reading?.kind === 'rows' && !accepted && view.notUsed.length > 0 && (
				<Section
					title="Columns that can become fields"
					aside="Once for a paper, or for each of its rows; layouts, letters by form and sums can use them"
				>
					<TakeColumns
						key={file.reading}
						id={file.id}
						way={readPaperKind(books, reading.paperKind)?.each ?? null}
						columns={view.notUsed.slice(0, 60).map((column) => ({ ...column, type: typeOf(evidence[column.place]) }))}
					/>
				</Section>
			)}
			{open && records.length > 0 && (
				<Section title="Its records" aside={`${records.length}, each with the papers that were made of it`}>
					<SheetRecords records={records} />
				</Section>
			)}
			{open && reading?.kind !== 'rows' && view.notUsed.length > 0 && (
				<Section title="Columns that are not used">
					<ul className="flex flex-wrap gap-x-6 gap-y-1 px-5 pb-4 text-sm">
						{view.notUsed.slice(0, 100).map(({ place, name, samples }) => (
							<li key={place}>
								{name} <span className="figures text-mute">{samples.join(' · ')}</span>
							</li>
						))}
					</ul>
				</Section>
			)}
			{corrections.length > 0 && (
				<Section title="Corrected by hand" aside="The file stays as it came">
					<ul className="px-5 pb-4 text-sm">
						{corrections.slice(-100).map(({ id, row, place, field, was, now, at, clerk }) => (
							<li key={id}>
								{row === 0 ? 'everywhere' : `row ${row}`}, {field || reading?.head[place]}:{' '}
								<span className="figures text-mute">{was || 'nothing'}</span> →{' '}
								<span className="figures">{now || 'nothing'}</span>{' '}
								<span className="text-mute">
									({clerk}, {formatTime(at)})
								</span>
							</li>
						))}
					</ul>
				</Section>
			)}
			{reading && file.trouble === '' && (
				<Section
					title="Its reader"
					aside="The saved way to read such a file; it is picked by itself next time. Accepting keeps it too."
				>
					<SaveReader id={file.id} name={view.reader?.name ?? nameFromFile(file.name)} />
				</Section>
			)}
		</>
	)
}

function aboutFile({ file, review, reading, unmarked }: FileView): string {
	const rows = review && !unmarked ? `${review.rows.all.toLocaleString('en-GB')} rows, ` : ''
	const format = reading ? `${formatNamed(reading.format)?.words}, ` : ''
	return `${rows}${format}brought in ${formatTime(file.received_at)} by ${file.received_by}`
}

/** What accepting would bring; null where there is nothing to accept. */
function acceptWords({ file, review, reading }: FileView): { words: string; many: number } | null {
	if (!review || !reading) return null
	const accepted = file.state === 'accepted'
	const { countToAccept, one, several } = kindRules[reading.kind]
	const many = countToAccept(review, accepted)
	if (many === 0 && accepted) return null
	return {
		words: `Accept ${many.toLocaleString('en-GB')} ${accepted ? 'more ' : ''}${many === 1 ? one : several}`,
		many,
	}
}

/** By which reader the file was read, and what of its head is new. */
function ReaderSays({ view }: { view: FileView }) {
	const { reader, change, file } = view
	if (!reader || file.state !== 'read') return null
	const changed = file.reader_version !== reader.version
	return (
		<Notice tone={changed ? 'look' : 'plain'}>
			Read by the reader “{reader.name}”.
			{change?.added.map(({ name, field }) => ` New: ${name}, ${field ? `taken as ${field}` : 'not used'}.`)}
			{change && change.gone.length > 0 && ` Gone since: ${change.gone.map(({ name }) => name).join(', ')}.`}
			{changed && ' The reader was changed since this file was read; this file stays as it is shown here.'}
		</Notice>
	)
}
