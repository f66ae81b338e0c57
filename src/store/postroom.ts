import type { Books } from './books'
import { likeOf } from './like'
import { type MessageState, type Outgoing, outgoing } from './messages'
import { mayPrint, stands } from './places'

/** One who gets a copy of a message, and what became of it. */
export type Copy = {
	message_id: number
	address: string
	role: 'cc' | 'bcc'
	state: MessageState | 'let be'
	answer: string
	tries: number
}

/** How messages stand in the Postroom, the most pressing first. `copy` is one that was sent, and a copy of it was not. */
export const postStates = ['unsure', 'refused', 'copy', 'put off', 'kept back', 'waiting', 'sending'] as const
export type PostState = (typeof postStates)[number]
export type PostRow = Outgoing & { post: PostState; copy: string; copy_answer: string }
type PostFilter = { words: string; state: PostState | '' }

/** What has not gone, was refused, is unsure, and copies that did not go; `@like` and `@state` narrow it. */
const posted = `SELECT ${outgoing}, '' AS copy, '' AS copy_answer,
	CASE WHEN m.state = 'waiting' AND m.kept_back IS NOT NULL THEN 'kept back'
		WHEN m.state = 'waiting' AND m.due_at IS NOT NULL THEN 'put off'
		ELSE m.state END AS post
	FROM message m CROSS JOIN placed d ON d.id = m.document_id WHERE m.state <> 'sent' AND ${stands}
	UNION ALL SELECT ${outgoing}, c.address, c.answer, 'copy' FROM message_copy c CROSS JOIN message m ON m.id = c.message_id
		JOIN document d ON d.id = m.document_id WHERE c.state NOT IN ('sent', 'let be') AND m.state = 'sent'`
const narrowed = `SELECT * FROM (${posted}) WHERE (@state = '' OR post = @state)
	AND (customer_name LIKE @like ESCAPE '\\' OR number LIKE @like ESCAPE '\\' OR recipient LIKE @like ESCAPE '\\' OR last_answer LIKE @like ESCAPE '\\'
		OR copy LIKE @like ESCAPE '\\')`

const bound = ({ words, state }: PostFilter) => ({ state, like: likeOf(words).like })
type Bound = { state: string; like: string }

/** The Postroom's rows that match, the most pressing first; at most `most`, from one on. */
export const inPostroom = (
	{ sql }: Books,
	filter: PostFilter = { words: '', state: '' },
	most = -1,
	from = 0,
): PostRow[] =>
	sql<[Bound & { most: number; from: number }], PostRow>(
		`${narrowed} ORDER BY CASE post ${postStates.map((state, place) => `WHEN '${state}' THEN ${place}`).join(' ')} END, id, copy
		 LIMIT @most OFFSET @from`,
	).all({ ...bound(filter), most, from })

/** How many of those that match the words stand at each state. */
export function postCounts({ sql }: Books, words: string): Record<PostState, number> {
	const counts: Record<PostState, number> = {
		...{ unsure: 0, refused: 0, copy: 0, 'put off': 0, 'kept back': 0, waiting: 0, sending: 0 },
	}
	for (const { post, n } of sql<[Bound], { post: PostState; n: number }>(
		`SELECT post, count(*) AS n FROM (${narrowed}) GROUP BY post`,
	).all(bound({ words, state: '' })))
		counts[post] = n
	return counts
}

/** All that a person may have to do with in the Postroom: messages, copies, papers to print. */
export const postroomCount = ({ sql }: Books): number =>
	sql<[], { n: number }>(
		`SELECT (SELECT count(*) FROM message m JOIN placed d ON d.id = m.document_id WHERE m.state <> 'sent' AND ${stands})
			+ (SELECT count(*) FROM message_copy c JOIN message m ON m.id = c.message_id WHERE m.state = 'sent' AND c.state NOT IN ('sent', 'let be'))
			+ (SELECT count(*) FROM placed d WHERE ${mayPrint} AND d.place = 'to print') AS n`,
	).get()?.n ?? 0

/** Copies of a message, by role and address. */
export const copiesOfMessage = ({ sql }: Books, messageId: number): Copy[] =>
	sql<[number], Copy>('SELECT * FROM message_copy WHERE message_id = ? ORDER BY role DESC, address').all(messageId)

/** Copies that may leave alone: of messages that were sent, due by themselves at `now`. */
export const copiesDue = ({ sql }: Books, runId: number, now: string): Copy[] =>
	sql<[number, string], Copy>(
		`SELECT c.* FROM message_copy c JOIN message m ON m.id = c.message_id
		 WHERE m.run_id = ? AND m.state = 'sent' AND m.due_at <= ? AND m.kept_back IS NULL AND c.state = 'waiting' ORDER BY c.message_id`,
	).all(runId, now)

/** Copies that were on their way when the runner died. */
export const copiesLeftSending = ({ sql }: Books): Copy[] =>
	sql<[], Copy>(`SELECT * FROM message_copy WHERE state = 'sending' AND state NOT IN ('sent', 'let be')`).all()

/** Keeps how a copy of a message stands, in place of what was known before. */
export function saveCopy({ sql }: Books, copy: Copy): void {
	sql<[Copy]>(
		`INSERT INTO message_copy (message_id, address, role, state, answer, tries) VALUES (@message_id, @address, @role, @state, @answer, @tries)
		 ON CONFLICT (message_id, address) DO UPDATE SET state = @state, answer = @answer, tries = @tries`,
	).run(copy)
}

/** Moves a copy from one state to another; false when it was not in the first. */
export const moveCopy = (
	{ sql }: Books,
	{ message_id, address }: Pick<Copy, 'message_id' | 'address'>,
	from: Copy['state'],
	to: Copy['state'],
): boolean =>
	sql<[string, number, string, string]>(
		'UPDATE message_copy SET state = ? WHERE message_id = ? AND address = ? AND state = ?',
	).run(to, message_id, address, from).changes > 0

/** Takes a copy off a message that is sent to another address instead. */
export const removeCopy = ({ sql }: Books, messageId: number, address: string): void => {
	sql<[number, string]>('DELETE FROM message_copy WHERE message_id = ? AND address = ?').run(messageId, address)
}

/** Keeps a message back, with the reason, or lets it go; false where it does not wait. */
export const keepBack = ({ sql }: Books, id: number, reason: string | null): boolean =>
	sql<[string | null, number]>(`UPDATE message SET kept_back = ? WHERE id = ? AND state = 'waiting'`).run(reason, id)
		.changes > 0

/** Addresses a message anew; false where it is gone, or may be. */
export const readdress = ({ sql }: Books, id: number, recipient: string, messageId: string): boolean =>
	sql<[string, string, number]>(
		`UPDATE message SET recipient = ?, message_id = ? WHERE id = ? AND state IN ('waiting', 'refused')`,
	).run(recipient, messageId, id).changes > 0
