import { Fragment } from 'react'
import { formatTime } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'
import Link from '@/ui/Link'
import { MessageBody } from '@/ui/MessageBody'
import { Notice } from '@/ui/Notice'
import { MessageEdit } from './MessageEdit'

/** The message that goes with a document, and its attempts. */
export function Message({ view }: { view: PanelView }) {
	const { message, attempts, document } = view
	if (!message || document.email === '') {
		return (
			<p className="text-mute">
				{document.customer_name} has no email address.{' '}
				{document.printed_at
					? `Printed and posted ${formatTime(document.printed_at)} by ${document.printed_by}.`
					: 'The PDF is listed in the Postroom to be printed.'}
			</p>
		)
	}
	const others: [name: string, value: string][] = [
		['Copy', message.cc],
		['Unseen', message.bcc],
		['Answers', message.replyTo],
	]
	return (
		<div className="space-y-3 text-sm">
			<dl className="grid grid-cols-[70px_1fr] gap-y-1">
				<dt className="text-mute">From</dt>
				<dd>{message.sender || <span className="text-brick">no address: give one under Company</span>}</dd>
				<dt className="text-mute">To</dt>
				<dd>{message.recipient}</dd>
				{others
					.filter(([, value]) => value !== '')
					.map(([name, value]) => (
						<Fragment key={name}>
							<dt className="text-mute">{name}</dt>
							<dd>{value}</dd>
						</Fragment>
					))}
				<dt className="text-mute">Subject</dt>
				<dd className="font-semibold">{message.subject}</dd>
				<dt className="text-mute">File</dt>
				<dd>
					{[
						message.locked ? `${message.file}, locked with their password` : message.file,
						...message.formats.map((format) => format.toUpperCase()),
						...message.copies.map((number) => `a copy of ${number}`),
					].join(', ')}
				</dd>
				<dt className="text-mute">State</dt>
				<dd>
					{message.state}
					{message.answer && <span className="text-mute">, {message.answer}</span>}
				</dd>
			</dl>
			{message.outdated && (
				<Notice tone="look">{`It was written before the paper changed: ${message.outdated}. Read it again.`}</Notice>
			)}
			{message.spared && <Notice tone="look">{`No past-due letter: ${message.spared}.`}</Notice>}
			<div className="border border-rule bg-sheet p-3">
				<MessageBody body={message.body} />
			</div>
			<MessageEdit key={document.id} view={view} />
			{attempts.map(({ id, at, outcome, answer }) => (
				<p key={id}>
					<Link href={`/sent-log/${id}`} className="text-plum underline">
						{formatTime(at)}: {outcome}
					</Link>{' '}
					<span className="text-mute">{answer}</span>
				</p>
			))}
		</div>
	)
}
