import { createHash } from 'node:crypto'
import MailComposer from 'nodemailer/lib/mail-composer'
import { htmlBody, plainBody } from '@/core/messageBody'

type Letter = {
	messageId: string
	sender: string
	senderName: string
	recipient: string
	subject: string
	body: string
	/** UTC ISO text; the only time in the message. */
	writtenAt: string
	/** Addresses with commas between; empty for none. A blind copy is for the envelope alone. */
	cc: string
	replyTo: string
	/** The document itself, and copies that go along. */
	files: { name: string; bytes: Buffer; type: string }[]
}
export type RawMessage = { raw: Buffer; sha256: string }

/** The message as it goes over the wire (RFC 5322 with MIME). The same letter gives the same bytes, so that it can be shown again. */
export async function composeMessage(letter: Letter): Promise<RawMessage> {
	const html = htmlBody(letter.body)
	const raw = await new MailComposer({
		from: { name: letter.senderName, address: letter.sender },
		to: letter.recipient,
		...(letter.cc ? { cc: letter.cc } : {}),
		...(letter.replyTo ? { replyTo: letter.replyTo } : {}),
		subject: letter.subject,
		// Lines end here as they end on the wire, so that what is kept is what was sent.
		text: plainBody(letter.body).replace(/\r?\n/g, '\r\n'),
		...(html ? { html } : {}),
		messageId: letter.messageId,
		date: new Date(letter.writtenAt),
		baseBoundary: createHash('sha256').update(letter.messageId).digest('hex').slice(0, 20),
		attachments: letter.files.map(({ name, bytes, type }) => ({
			filename: name,
			content: bytes,
			contentType: type,
		})),
	})
		.compile()
		.build()
	return { raw, sha256: createHash('sha256').update(raw).digest('hex') }
}

/** A Message-ID that is the same for the same document, file and recipient, whenever it is made (RFC 5322, 3.6.4). */
export function messageIdFor(parts: { number: string; fileSha256: string; recipient: string; sender: string }): string {
	const hash = createHash('sha256').update(JSON.stringify(parts)).digest('hex').slice(0, 24)
	const domain = parts.sender.split('@')[1] ?? 'north-tally.example'
	return `<${parts.number.replace(/[^A-Za-z0-9-]/g, '')}.${hash}@${domain}>`
}
