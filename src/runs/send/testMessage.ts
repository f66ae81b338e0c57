import { addresses } from '@/core/addresses'
import { fillLetter } from '@/core/letter'
import { no, type Outcome } from '@/core/outcome'
import { fieldValues, letterOf } from '@/kinds'
import { composeMessage, messageIdFor } from '@/post/compose'
import { type MailLine, openMailLine, practiceAt } from '@/post/smtp'
import { contentOf } from '@/runs/layouts/checks'
import { pdfByLayout } from '@/runs/layouts/preview'
import type { Books } from '@/store/books'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import type { LayoutRow } from '@/store/layouts'
import { readSettings } from '@/store/settings'
import { letterFor } from './letterFor'
import { senderOf } from './send'

/**
 * Sends a paper as a layout in the making draws it, with its letter, to the firm's own address and to nobody else: as its customer would
 * find it, but for the trial mark on every page. Refused where that address is a customer's.
 */
export async function sendTestMessage(
	books: Books,
	desk: Desk,
	row: LayoutRow,
	paper: number,
	practicePort: number,
	open: (server: Parameters<typeof openMailLine>[0]) => MailLine = openMailLine,
): Promise<Outcome> {
	const to = senderOf(books)
	if (to === '') return no('The firm has no email address to send it to. Give one under Company.')
	const theirs = allCustomers(books).find(({ email, statement_email, cc }) =>
		[email, statement_email, ...addresses(cc)].some((one) => one.toLowerCase() === to.toLowerCase()),
	)
	if (theirs) return no(`${to} is an address of ${theirs.name} too, and a trial goes to no customer.`)
	const content = contentOf(books, row.kind, paper)
	const pdf = await pdfByLayout(books, row, 0, paper)
	if (!content || !pdf) return no('That paper is gone. Choose another.')
	const letter = letterFor(books, letterOf(content))
	const values = fieldValues(content)
	const writtenAt = desk.now()
	const { raw } = await composeMessage({
		...{ cc: '', replyTo: '', sender: to, senderName: readCompany(books)?.name ?? '', recipient: to, writtenAt },
		messageId: messageIdFor({ number: `trial-${writtenAt}`, fileSha256: String(paper), recipient: to, sender: to }),
		subject: `Trial: ${fillLetter(letter.subject, values)}`,
		body: fillLetter(letter.body, values),
		files: [{ name: 'trial.pdf', bytes: pdf, type: 'application/pdf' }],
	})
	const { mail } = readSettings(books)
	const practice = mail.mode === 'practice'
	const line = open(practice ? practiceAt(practicePort) : mail)
	const { outcome, answer } = await line.send({ from: to, to: [to] }, raw)
	line.close()
	record(books, desk, {
		subject: 'layout',
		id: row.id,
		act: `test message ${outcome}`,
		detail: `${row.name} to ${to}: ${answer}`,
	})
	return outcome === 'sent'
		? { ok: true, words: practice ? `It is in the practice mail, to ${to}.` : `It is on its way to ${to}.` }
		: no(`It was not sent to ${to}: ${answer}`)
}
