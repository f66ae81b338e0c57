import Link from 'next/link'
import { notFound } from 'next/navigation'
import { dayText } from '@/core/calendar'
import { kindName } from '@/core/document'
import { formatMinor, formatTime } from '@/core/format'
import { creditable, hasReached } from '@/runs/correct'
import { whyNotRevised } from '@/runs/revise'
import { creditsOf, readAnyDocument, revisionOf } from '@/store/documents'
import { latestEventId } from '@/store/events'
import { messageOfDocument } from '@/store/messages'
import { buttonLook } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { books } from '../../books'
import { Correct } from './Correct'
import { DocumentPanel } from './DocumentPanel'

/** A document's own page: what it is, what corrects it, and the ways to correct it. */
export default async function DocumentPage({ params }: { params: Promise<{ id: string }> }) {
	const own = books()
	const document = readAnyDocument(own, Number((await params).id))
	if (!document) notFound()
	const {
		id,
		number,
		kind,
		customer_name,
		total,
		currency,
		day,
		due_day,
		run_id,
		content,
		void_at,
		void_by,
		void_reason,
	} = document
	const statement = content.kind === 'statement'
	const left = statement ? { lines: [], freight: false } : creditable(own, id, content)
	const credits = creditsOf(own, id)
	const message = messageOfDocument(own, id)
	const reached = hasReached(message?.state, document)
	const revision = revisionOf(own, id)
	const first = document.revises_id === null ? null : readAnyDocument(own, document.revises_id)
	const somethingLeft = left.freight || left.lines.some((quantity) => Number(quantity) !== 0)
	const due = kind === 'invoice' ? `, due ${dayText(due_day)}` : ''
	return (
		<div className="flex h-full min-h-0 flex-col">
			<PageHead
				title={number ? `${kindName[kind]} ${number}` : `Draft ${kindName[kind].toLowerCase()}`}
				about={`${customer_name}, ${formatMinor(total, currency)} ${currency}, of ${dayText(day)}${due}`}
			>
				{number && (
					<Correct
						id={id}
						number={number}
						lines={(statement ? [] : content.lines).map(({ description, unit }, line) => ({
							description,
							unit,
							left: left.lines[line] ?? '0',
						}))}
						freight={left.freight}
						mayCredit={kind === 'invoice' && !void_at && !revision && somethingLeft}
						mayVoid={!void_at && !reached && !revision && credits.length === 0}
						mayRevise={whyNotRevised(own, document) === null}
					/>
				)}
				<Link prefetch={false} href={`/runs/${run_id}?doc=${id}`} className={buttonLook()}>
					{`Run ${run_id}`}
				</Link>
			</PageHead>
			<div className="space-y-2 px-5 pb-3 empty:hidden">
				{void_at && (
					<Notice tone="stop">{`Void since ${formatTime(void_at)}, made so by ${void_by}: ${void_reason}. The number stays used.`}</Notice>
				)}
				{revision && (
					<Notice tone="stop">
						{`Revised ${formatTime(document.replaced_at ?? '')} by ${document.replaced_by}: ${document.replaced_reason}. In its place stands `}
						<Link href={`/documents/${revision.id}`} className="figures text-plum underline">
							{revision.number}
						</Link>
						{'; this one is kept as it was, and sent no more.'}
					</Notice>
				)}
				{first && (
					<Notice tone="plain">
						{'It stands in place of '}
						<Link href={`/documents/${first.id}`} className="figures text-plum underline">
							{first.number}
						</Link>
						{` as first issued: ${first.replaced_reason}`}
					</Notice>
				)}
				{document.credits_id && !statement && content.refersTo && (
					<Notice tone="plain">
						{'Credits '}
						<Link href={`/documents/${document.credits_id}`} className="figures text-plum underline">
							{content.refersTo.number}
						</Link>
						{` of ${dayText(content.refersTo.day)}.`}
					</Notice>
				)}
				{credits.map((note) => (
					<Notice key={note.id} tone="look">
						{'Credited by '}
						<Link
							href={note.number ? `/documents/${note.id}` : `/runs/${note.run_id}`}
							className="figures text-plum underline"
						>
							{note.number ?? 'a draft credit note'}
						</Link>
						{`, ${formatMinor(note.total, currency)} ${currency}.`}
					</Notice>
				))}
			</div>
			<DocumentPanel id={id} version={String(latestEventId(own))} />
		</div>
	)
}
