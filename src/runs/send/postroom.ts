import { z } from 'zod'
import { isMailbox } from '@/core/addresses'
import { no, type Outcome } from '@/core/outcome'
import { messageIdFor } from '@/post/compose'
import { type Books, inOneStep } from '@/store/books'
import { standAsItIs } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { move, type Outgoing, readMessage, setDue } from '@/store/messages'
import {
	copiesOfMessage,
	inPostroom,
	keepBack,
	moveCopy,
	type PostRow,
	postStates,
	readdress,
	removeCopy,
	saveCopy,
} from '@/store/postroom'
import { arrived } from './handedOver'

// What a clerk says of messages that have not gone, of one or of many in one act.

export const postActs = ['again', 'keep back', 'let go', 'address', 'arrived', 'let be'] as const
export type PostAct = (typeof postActs)[number]

/** Rows chosen one by one, by message and the address of a copy; or all that match, as many as were seen. */
export const postChoiceSchema = z.union([
	z.object({
		rows: z
			.array(z.object({ id: z.number().int(), copy: z.string() }))
			.min(1)
			.max(20_000),
	}),
	z.object({ words: z.string(), state: z.union([z.enum(postStates), z.literal('')]), expected: z.number().int() }),
])
export type PostChoice = z.infer<typeof postChoiceSchema>

/** Which acts a row takes. */
const takes: Record<PostRow['post'], PostAct[]> = {
	unsure: ['again', 'arrived'],
	refused: ['again', 'address'],
	copy: ['again', 'address', 'let be'],
	'put off': ['again', 'keep back', 'address'],
	'kept back': ['let go', 'address'],
	waiting: ['again', 'keep back', 'address'],
	sending: [],
}
/** The acts that a message in the Postroom can have, by why it waits. */
export const actsOn = (post: PostRow['post']): PostAct[] => takes[post]

/** The rows of a choice as they are now; refused where others match than were seen. */
function chosen(books: Books, choice: PostChoice): PostRow[] | string {
	if ('rows' in choice) {
		const wanted = new Set(choice.rows.map(({ id, copy }) => `${id} ${copy}`))
		return inPostroom(books).filter(({ id, copy }) => wanted.has(`${id} ${copy}`))
	}
	const rows = inPostroom(books, choice)
	return rows.length === choice.expected
		? rows
		: `${rows.length} match by now, not ${choice.expected} as you saw. Look again.`
}

/**
 * Does one act to all rows that were chosen, in one step; those that it does not fit are left as they are and counted.
 * @param words the other address, or why it is kept back
 */
export function actOnPost(books: Books, desk: Desk, choice: PostChoice, act: PostAct, words: string): Outcome {
	const text = words.trim()
	if (act === 'address' && !isMailbox(text))
		return no(`“${text}” is no email address. Give one such as name@firm.example.`)
	if (act === 'keep back' && text === '') return no('Say why they are kept back; the tally shows the reason.')
	return inOneStep(books, (): Outcome => {
		const rows = chosen(books, choice)
		if (typeof rows === 'string') return no(rows)
		const done = rows.filter((row) => takes[row.post].includes(act) && actOn(books, desk, row, act, text))
		if (done.length === 0)
			return no(rows.length === 0 ? 'They were decided meanwhile; look again.' : 'None of these can be.')
		const left = rows.length - done.length
		const said = `${done.length} ${saidOf[act]}${left > 0 ? `; ${left} left as they are` : ''}.`
		record(books, desk, {
			subject: 'message',
			id: done.length === 1 ? (done[0]?.id ?? 0) : 'many',
			act: saidOf[act],
			detail: `${done.length}: ${done
				.slice(0, 20)
				.map((row) => `${row.number} to ${row.copy || row.recipient}`)
				.join(', ')}${done.length > 20 ? ' …' : ''}${text ? `; ${text}` : ''}`,
		})
		return { ok: true, words: said }
	})
}

const saidOf: Record<PostAct, string> = {
	again: 'to be sent again',
	'keep back': 'kept back',
	'let go': 'let go',
	address: 'sent to another address',
	arrived: 'taken as sent',
	'let be': 'copies let be',
}

function actOn(books: Books, desk: Desk, row: PostRow, act: PostAct, text: string): boolean {
	const due = () => setDue(books, row.id, { dueAt: desk.now(), tries: 0, since: null })
	const marked = `${row.last_answer} (${saidOf[act]} by ${desk.clerk})`
	if (row.copy !== '') return actOnCopy(books, row, act, text, due)
	switch (act) {
		case 'again':
			if (!move(books, row.id, row.state, 'waiting', row.state === 'waiting' ? row.last_answer : marked)) return false
			due()
			return true
		case 'arrived':
			return arrived(books, desk, row, 'unsure', marked)
		case 'keep back':
			return keepBack(books, row.id, text)
		case 'let go':
			standAsItIs(books, row.document_id)
			return keepBack(books, row.id, null)
		case 'address':
			return toAnother(books, row, text, marked, due)
		default:
			return false
	}
}

function toAnother(books: Books, row: PostRow, recipient: string, marked: string, due: () => void): boolean {
	const { number, file_sha256: fileSha256, sender } = row
	if (!readdress(books, row.id, recipient, messageIdFor({ number, fileSha256, recipient, sender }))) return false
	if (row.state === 'refused') move(books, row.id, 'refused', 'waiting', marked)
	// One that waits for its run, or is kept back, goes on doing so.
	if (row.post === 'refused' || row.post === 'put off') due()
	return true
}

function actOnCopy(books: Books, row: PostRow, act: PostAct, text: string, due: () => void): boolean {
	const copy = copiesOfMessage(books, row.id).find(({ address }) => address === row.copy)
	if (!copy || copy.state === 'sending') return false
	if (act === 'let be') return moveCopy(books, copy, copy.state, 'let be')
	if (act === 'address') {
		if (copiesOfMessage(books, row.id).some(({ address }) => address === text)) return false
		removeCopy(books, row.id, copy.address)
	}
	saveCopy(books, { ...copy, address: act === 'address' ? text : copy.address, state: 'waiting', tries: 0 })
	due()
	return true
}

/** A person's decision on one message that was refused or is unsure: try again, or take it as sent. */
export const decideMessage = (
	books: Books,
	desk: Desk,
	message: Pick<Outgoing, 'id'>,
	decision: 'again' | 'sent',
): boolean => {
	const now = readMessage(books, message.id)
	if (now?.state !== 'refused' && now?.state !== 'unsure') return false
	return actOnPost(books, desk, { rows: [{ id: message.id, copy: '' }] }, decision === 'sent' ? 'arrived' : 'again', '')
		.ok
}
