import { notFound } from 'next/navigation'
import { formatTime } from '@/core/format'
import { openArrival } from '@/post/practiceMail'
import { PageHead } from '@/ui/Page'
import { PdfPages } from '@/ui/PdfPages'
import { practicePost } from '../../practice'
import { idOf } from '../../reading'

/** Before a stranger's page: whatever it says, it fetches nothing and runs nothing. */
const fetchesNothing = `<meta http-equiv="content-security-policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">`

/** A message as its customer has it before them: head, letter, attachment. */
export default async function ArrivalPage({ params }: { params: Promise<{ id: string }> }) {
	const arrival = await openArrival(practicePost(), idOf((await params).id))
	if (!arrival) notFound()
	const { mail } = arrival
	const file = `/api/practice/${arrival.id}/attachment`
	const [attachment] = mail.attachments
	return (
		<>
			<PageHead title={mail.subject ?? 'Without a subject'} about={`Arrived ${formatTime(arrival.at)}`} />
			<div className="grid grid-cols-[minmax(0,1fr)_minmax(0,480px)] border-t border-rule">
				<div className="bg-sheet px-5 py-4">
					<dl className="grid grid-cols-[90px_1fr] gap-y-1">
						<dt className="text-mute">From</dt>
						<dd>{mail.from?.text}</dd>
						<dt className="text-mute">To</dt>
						<dd>{arrival.recipient}</dd>
						<dt className="text-mute">Date</dt>
						<dd>{mail.date ? formatTime(mail.date.toISOString()) : ''}</dd>
					</dl>
					<div className="my-5 border-t border-rule pt-4">
						{mail.html ? (
							<iframe
								title="The message"
								srcDoc={`${fetchesNothing}${mail.html}`}
								sandbox=""
								className="h-[420px] w-full"
							/>
						) : (
							<p className="whitespace-pre-wrap">{mail.text}</p>
						)}
					</div>
					<ul aria-label="Attached" className="border-t border-rule pt-3">
						{mail.attachments.map(({ filename, size }, place) => (
							<li key={place}>
								<span className="text-mute">Attached: </span>
								<a
									href={`${file}?place=${place}`}
									target="_blank"
									rel="noreferrer"
									className="font-semibold text-plum underline"
								>
									{filename}
								</a>{' '}
								<span className="text-mute">{Math.ceil(size / 1024)} KB</span>
							</li>
						))}
					</ul>
				</div>
				<div className="border-l border-rule p-4">
					{attachment?.contentType === 'application/pdf' && (
						<PdfPages url={file} label={attachment.filename ?? 'attachment'} />
					)}
				</div>
			</div>
		</>
	)
}
