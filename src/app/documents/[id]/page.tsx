import { notFound } from 'next/navigation'
import { dayText } from '@/core/calendar'
import { formatMinor, formatTime } from '@/core/format'
import { type AnyContent, billsOrders, isBill, isPaper } from '@/kinds'
import { creditable } from '@/runs/issue/credit'
import { settledWords } from '@/runs/issue/ledger'
import { particularsNow, whyNotRevised } from '@/runs/issue/revise'
import { hasReached } from '@/runs/issue/void'
import { paperFacts } from '@/runs/papers/facts'
import { readAnyDocument } from '@/store/documents'
import { latestEventId } from '@/store/events'
import { creditsOf, revisionOf } from '@/store/issued'
import { messageOfDocument } from '@/store/messages'
import { kindIn } from '@/store/paperKinds'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { idOf, reading } from '../../reading'
import { Correct } from './Correct'
import { DocumentPanel } from './DocumentPanel'
import { PaperActs } from './PaperActs'
import { PaperNotices } from './PaperNotices'

/** A document's own page: what it is, what corrects it, and the ways to correct it. */
export default async function DocumentPage({ params }: { params: Promise<{ id: string }> }) {
	const { books, today } = await reading()
	const document = readAnyDocument(books, idOf((await params).id))
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
	const { words } = kindIn(books, kind)
	const bill = billsOrders(content) && document.credits_id === null ? content : null
	const paper = isPaper(content) ? paperFacts(books, id) : null
	const left = bill ? creditable(books, id, bill) : { lines: [], freight: false }
	const credits = creditsOf(books, id)
	const revision = revisionOf(books, id)
	const first = document.revises_id === null ? null : readAnyDocument(books, document.revises_id)
	const somethingLeft = left.freight || left.lines.some((quantity) => Number(quantity) !== 0)
	const due =
		kind === 'invoice'
			? `, due ${dayText(due_day)}`
			: isPaper(content) && content.paper.until
				? `, stands until ${dayText(content.paper.until)}`
				: ''
	const figures = content.kind === 'unpriced' ? '' : `, ${formatMinor(total, currency)} ${currency}`
	return (
		<div className="flex h-full min-h-0 flex-col">
			<PageHead
				title={`${number ? `${nameOf(content) ?? words.name} ${number}` : `Draft ${words.noun}`}${paper && paper.version > 1 ? `, version ${paper.version}` : ''}`}
				about={`${customer_name}${figures}, of ${dayText(day)}${due}`}
			>
				{paper && <PaperActs run={document.run_id} {...paper} id={id} number={number} email={document.email} />}
				{number && (
					<Correct
						id={id}
						number={number}
						lines={(bill?.lines ?? []).map(({ description, unit }, line) => ({
							description,
							unit,
							left: left.lines[line] ?? '0',
						}))}
						freight={left.freight}
						mayCredit={bill !== null && !void_at && !revision && somethingLeft}
						mayVoid={
							!void_at &&
							!revision &&
							credits.length === 0 &&
							!hasReached(messageOfDocument(books, id)?.state, document)
						}
						settled={settledWords(books, id)}
						bills={bill !== null}
						mayRevise={whyNotRevised(books, today, document) === null}
						moved={bill ? particularsNow(books, { ...document, content: bill }).words : ''}
					/>
				)}
				<Link href={`/runs/${run_id}?doc=${id}`} className={buttonLook()}>
					{`Run ${run_id}`}
				</Link>
			</PageHead>
			<div className="space-y-2 px-5 pb-3 empty:hidden">
				{paper && <PaperNotices {...paper} filed={document.only_filed_at !== null} />}
				{document.files_away_at && (
					<Notice tone="look">{`Its files were taken away ${formatTime(document.files_away_at)} by ${document.files_away_by}: ${document.files_away_reason}. What it said, its number and the sent log stay.`}</Notice>
				)}
				{document.dropped_at && (
					<Notice tone="look">{`Put away ${formatTime(document.dropped_at)} by ${document.dropped_by}: ${document.dropped_reason}.`}</Notice>
				)}
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
				{document.credits_id && isBill(content) && content.refersTo && (
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
			<DocumentPanel id={id} version={String(latestEventId(books))} />
		</div>
	)
}

/** What an issued paper of the firm's own kind was called when it was issued. */
const nameOf = (content: AnyContent): string | null => (isPaper(content) ? content.paper.name : null)
