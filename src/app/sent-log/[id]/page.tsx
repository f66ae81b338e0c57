import { notFound } from 'next/navigation'
import { z } from 'zod'
import { formatTime } from '@/core/format'
import { arrivalOf } from '@/post/practiceMail'
import { asItWent, rawAgain } from '@/runs/send/send'
import { copiesOf, readAttempt, readMessage } from '@/store/messages'
import Link from '@/ui/Link'
import { MessageBody } from '@/ui/MessageBody'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { PdfPages } from '@/ui/PdfPages'
import { practicePost } from '../../practice'
import { idOf, reading } from '../../reading'

const saidSchema = z.array(z.object({ address: z.string(), code: z.number(), answer: z.string() }))
/** What was said of each recipient; attempts of before kept it of the message alone. */
const saidOf = (text: string) => saidSchema.parse(JSON.parse(text))

/** One attempt: the exact message and the exact file, and the proof that they are the ones. */
export default async function AttemptPage({ params }: { params: Promise<{ id: string }> }) {
	const { books } = await reading()
	const attempt = readAttempt(books, idOf((await params).id))
	const now = attempt && readMessage(books, attempt.message_id)
	if (!now) notFound()
	const message = asItWent(now, attempt)
	const said = saidOf(attempt.said)
	const put = await rawAgain(books, message)
	const same = put.raw !== null && put.sha256 === attempt.raw_sha256
	const arrival = attempt.practice ? arrivalOf(practicePost(), message.message_id) : null
	const facts: [string, string][] = [
		['When', formatTime(attempt.at)],
		['From', message.sender],
		['To', attempt.recipient],
		['Copy', message.cc],
		['Unseen copy', message.bcc],
		['Answers to', message.reply_to],
		['Subject', attempt.subject],
		['Message-ID', message.message_id],
		['File', attempt.file_name.split('/').at(-1) ?? ''],
		[
			'With it',
			copiesOf(books, message)
				.map(({ number }) => `a copy of ${number}`)
				.join(', '),
		],
		['Locked', attempt.locked ? 'the PDF that was sent opens with a password alone; the one on file is open' : ''],
		['Beside it', message.beside.split(',').filter(Boolean).join(', ').toUpperCase()],
		['File SHA-256', attempt.file_sha256],
		['Outcome', `${attempt.outcome}${attempt.practice ? ', in practice' : ''}`],
		['The server answered', attempt.answer],
		['Asked by', attempt.clerk],
	]
	return (
		<>
			<PageHead
				title={`${attempt.number} to ${attempt.customer_name}`}
				about={`${attempt.outcome} ${formatTime(attempt.at)}`}
			/>
			<div className="px-5 pb-4">
				<Notice tone={same ? 'tie' : 'stop'}>
					{same
						? `This is the very message: ${put.raw?.length.toLocaleString('en-GB')} bytes whose SHA-256 is the one recorded when it was sent.`
						: put.raw === null
							? put.why
							: 'The message put together now is not the one that was recorded. Tell whoever keeps your books.'}
				</Notice>
			</div>
			<div className="grid grid-cols-[minmax(0,1fr)_minmax(0,460px)] border-t border-rule">
				<div>
					<dl className="grid grid-cols-[150px_1fr] gap-y-1.5 px-5 py-4 text-sm">
						{facts
							.filter(([, value]) => value !== '')
							.map(([name, value]) => (
								<div key={name} className="contents">
									<dt className="text-mute">{name}</dt>
									<dd
										className={
											name.includes('SHA') || name === 'Message-ID' ? 'figures break-all !whitespace-normal' : ''
										}
									>
										{value}
									</dd>
								</div>
							))}
					</dl>
					{said.length > 1 || said.some(({ answer }) => answer !== attempt.answer && answer !== '') ? (
						<Section title="What the server said of each">
							<dl className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)] gap-y-1.5 px-5 pb-4 text-sm">
								{said.map(({ address, code, answer }) => (
									<div key={address} className="contents">
										<dt className="wrap-anywhere">{address}</dt>
										<dd className={code >= 400 ? 'text-brick' : 'text-mute'}>{answer || 'nothing'}</dd>
									</div>
								))}
							</dl>
						</Section>
					) : null}
					<Section title="The letter">
						<div className="mx-5 mb-4 border border-rule bg-sheet p-4">
							<MessageBody body={message.body} />
						</div>
					</Section>
					<p className="flex flex-wrap gap-4 px-5 pb-6">
						<a href={`/api/sent/${attempt.id}/message`} className="text-plum underline">
							Save the exact message
						</a>
						<a
							href={`/api/documents/${attempt.document_id}/pdf`}
							target="_blank"
							rel="noreferrer"
							className="text-plum underline"
						>
							Open the exact PDF
						</a>
						<Link href={`/documents/${attempt.document_id}`} className="text-plum underline">
							The document
						</Link>
						{arrival && (
							<Link href={`/practice-mail/${arrival.id}`} className="text-plum underline">
								As it arrived at the practice server
							</Link>
						)}
					</p>
				</div>
				<div className="border-l border-rule p-4">
					<PdfPages url={`/api/documents/${attempt.document_id}/pdf`} label={attempt.file_name} />
				</div>
			</div>
		</>
	)
}
