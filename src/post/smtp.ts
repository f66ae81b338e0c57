import { isIP } from 'node:net'
import { hostname } from 'node:os'
import { domainToASCII } from 'node:url'
import { Conversation, LineBroke, type Reply } from './conversation'

type MailServer = { host: string; port: number; secure: boolean; user: string; password: string }

/** What the server said of one recipient: 0 and its words where it said nothing. */
export type Said = { address: string; code: number; answer: string }

/**
 * What came of handing a message over, by what was said and when (RFC 5321):
 * - `sent`: the server took it for the one that it is addressed to; copies may have been refused, see `said`.
 * - `refused`: it said no for good (5xx) to the message or to the one that it is addressed to; nothing was delivered, to copies neither.
 * - `later`: not now (4xx, or the line broke before the final dot); nothing was delivered.
 * - `away`: no message can be handed over at all: no server, no sign-in, no TLS.
 * - `crowded`: the server turned this line down before anything was said on it; another may serve.
 * - `unsure`: the dot was sent, and no answer came: it may have arrived.
 */
export type Handover = {
	outcome: 'sent' | 'refused' | 'later' | 'away' | 'crowded' | 'unsure'
	answer: string
	said: Said[]
}

/** The first of `to` is the one that the message is addressed to; the others get copies. */
type Envelope = { from: string; to: string[] }

export type MailLine = {
	send: (envelope: Envelope, raw: Buffer) => Promise<Handover>
	/** Says goodbye; nothing may be under way. */
	close: () => void
	/** Ends what is under way before its dot, which is then `later`. What is past it may still be answered. */
	stop: () => void
	/** Ends the line at once, whatever is under way. */
	cut: () => void
}

/** Limits of time in ms: as RFC 5321, 4.5.3.2 asks, but for a server that hardly answers at first, which is called away sooner. */
type Limits = {
	connect: number
	greeting: number
	command: number
	data: number
	block: number
	dot: number
	/** Messages that a line carries before it is opened anew. */
	messages: number
}
const usualLimits: Limits = {
	connect: 10_000,
	greeting: 30_000,
	command: 300_000,
	data: 120_000,
	block: 180_000,
	dot: 600_000,
	messages: 100,
}

type Session = { talk: Conversation; sizes: number; pipelining: boolean; utf8: boolean; used: number }

/** Why a session did not come about. */
class NoSession extends Error {
	constructor(
		message: string,
		readonly outcome: 'away' | 'crowded',
	) {
		super(message)
	}
}

/** The practice server on this machine. */
export const practiceAt = (port: number): MailServer => ({
	...{ host: '127.0.0.1', port, secure: false, user: '', password: '' },
})

/** Whether a host is this machine. */
const isLoopback = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|::1)$/i.test(host)

/**
 * A line to a mail server: opened at the first message, used for one message after the other, opened anew after as many as the server
 * takes, and after a fault. It carries one message at a time.
 */
export function openMailLine(server: MailServer, given: Partial<Limits> = {}): MailLine {
	const limits = { ...usualLimits, ...given }
	let session: Session | null = null
	let phase: 'idle' | 'before the dot' | 'after the dot' = 'idle'
	let stopped = false
	let haltNow: (error: Error) => void = () => {}
	const halted = new Promise<never>((_, reject) => {
		haltNow = reject
	})
	halted.catch(() => {})
	/** A session; stopping does not wait for it to come about. */
	const opened = async () => {
		const opening = openSession(server, limits)
		opening.then(
			(late) => stopped && late !== session && late.talk.close(),
			() => {},
		)
		return Promise.race([opening, halted])
	}
	const drop = () => {
		session?.talk.cut('dropped')
		session = null
	}
	const bye = () => {
		session?.talk.close()
		session = null
	}

	async function send(envelope: Envelope, raw: Buffer): Promise<Handover> {
		const none = (outcome: Handover['outcome'], answer: string): Handover => ({
			outcome,
			answer,
			said: envelope.to.map((address) => ({ address, code: 0, answer: '' })),
		})
		if (session && (session.used >= limits.messages || !session.talk.good)) bye()
		// A line that served before may have been closed meanwhile: that is no fault of this message.
		for (let fresh = session === null; ; fresh = true) {
			phase = 'before the dot'
			if (stopped) return none('later', 'stopped here before it left')
			try {
				session ??= await opened()
			} catch (error) {
				phase = 'idle'
				if (stopped) return none('later', 'stopped here before it left')
				const outcome = error instanceof NoSession ? error.outcome : 'away'
				return none(outcome, `${server.host}:${server.port} does not take mail: ${wordsOf(error)}`)
			}
			if (stopped) {
				phase = 'idle'
				bye()
				return none('later', 'stopped here before it left')
			}
			try {
				session.used++
				const handed = await transact(session, envelope, raw, limits, () => {
					phase = 'after the dot'
				})
				if (handed === 'closed' && !fresh) {
					drop()
					continue
				}
				if (handed === 'closed') return none('later', 'The server closed the line before it took the message.')
				return handed
			} catch (error) {
				const at = phase as 'before the dot' | 'after the dot'
				drop()
				if (!(error instanceof LineBroke)) throw error
				if (at === 'after the dot')
					return none('unsure', `The line to the mail server broke after the whole message had gone: ${error.message}`)
				return none(
					'later',
					stopped ? 'stopped here before it left' : `The line to the mail server broke: ${error.message}`,
				)
			} finally {
				phase = 'idle'
				if (session && !session.talk.good) drop()
			}
		}
	}
	return {
		send,
		close: bye,
		stop: () => {
			stopped = true
			haltNow(new Error('stopped here'))
			if (phase === 'before the dot') session?.talk.cut('stopped here')
		},
		cut: drop,
	}
}

/** One mail transaction (RFC 5321, 3.3). `closed` where the server ended the line before it took any of it. */
async function transact(
	session: Session,
	{ from, to }: Envelope,
	raw: Buffer,
	limits: Limits,
	dotted: () => void,
): Promise<Handover | 'closed'> {
	const { talk } = session
	const said: Said[] = to.map((address) => ({ address, code: 0, answer: '' }))
	const end = (outcome: Handover['outcome'], answer: string): Handover => ({ outcome, answer, said })
	const paths = [from, ...to].map((address) => pathOf(address, session.utf8))
	const bad = paths.indexOf(null)
	if (bad >= 0)
		return end('refused', `${[from, ...to][bad]} is no address that this mail server can take. Give another.`)
	if (session.sizes > 0 && raw.length > session.sizes)
		return end(
			'refused',
			`The message has ${megabytes(raw.length)}, and the mail server takes ${megabytes(session.sizes)} at the most.`,
		)
	const [sender, ...recipients] = paths
	const wide = paths.some((path) => /[^ -~]/.test(path ?? '')) ? ' SMTPUTF8' : ''
	const mail = `MAIL FROM:<${sender}>${session.sizes > 0 ? ` SIZE=${raw.length}` : ''}${wide}`
	const commands = [mail, ...recipients.map((path) => `RCPT TO:<${path}>`)]
	const ask = async (): Promise<Reply[]> => {
		if (session.pipelining) return talk.say(commands, limits.command)
		const replies: Reply[] = []
		for (const command of commands) {
			replies.push(...(await talk.say([command], limits.command)))
			// Where the sender or the one it is addressed to is refused, nobody else is asked.
			if (replies.length <= 2 && (replies.at(-1)?.code ?? 0) >= 300) break
		}
		return replies
	}
	let replies: Reply[]
	try {
		replies = await ask()
	} catch (error) {
		if (error instanceof LineBroke && session.used > 1) return 'closed'
		throw error
	}
	const [taken, ...answers] = replies
	for (const [place, answer] of answers.entries()) {
		const one = said[place]
		if (one) Object.assign(one, { code: answer.code, answer: answer.words })
	}
	if (!taken) return 'closed'
	const leave = async (outcome: Handover['outcome'], words: string): Promise<Handover> => {
		await forget(session, limits)
		return end(outcome, words)
	}
	if (taken.code === 421) return session.used > 1 ? 'closed' : leave('later', taken.words)
	if (taken.code === 530 || taken.code === 535) return leave('away', taken.words)
	if (taken.code >= 300) return leave(outcomeOf(taken), taken.words)
	const [customer] = answers
	if (!customer || customer.code >= 300)
		return leave(
			customer ? (customer.code === 530 ? 'away' : outcomeOf(customer)) : 'later',
			customer?.words ?? 'The server said nothing of the recipient.',
		)
	const [go] = await talk.say(['DATA'], limits.data)
	if (go?.code !== 354) return leave(go ? outcomeOf(go) : 'later', go?.words ?? '')
	await talk.write(onTheWire(raw), limits.block)
	// What the server said or did while the message went is heard before the dot makes it count.
	for (let turn = 0; turn < 2; turn++) await new Promise(setImmediate)
	const early = talk.unasked
	if (early) {
		talk.cut('it answered before the message had ended')
		return end(outcomeOf(early), early.words)
	}
	if (!talk.good) throw new LineBroke('closed by the server')
	dotted()
	const [answer] = await talk.say(['.'], limits.dot)
	if (!answer || answer.code < 200 || (answer.code >= 300 && answer.code < 400))
		throw new LineBroke(`it answered ${answer?.words ?? 'nothing'}`)
	if (answer.code >= 400) return end(outcomeOf(answer), answer.words)
	for (const one of said) if (one.code < 300) one.answer = answer.words
	return end('sent', answer.words)
}

/** For good, or not now. An answer that belongs to another question means that nothing is sure of this line: not now. */
const outcomeOf = ({ code }: Reply): 'refused' | 'later' => (code >= 500 ? 'refused' : 'later')

/** Ends a transaction that did not come to its end; a server that does not take that gets another line. */
async function forget({ talk }: Session, limits: Limits): Promise<void> {
	try {
		const [reply] = await talk.say(['RSET'], Math.min(limits.command, 10_000))
		if (!reply || reply.code >= 300) talk.cut('it forgets nothing')
	} catch {
		// It is closed; the next message opens another.
	}
}

async function openSession(server: MailServer, limits: Limits): Promise<Session> {
	let talk: Conversation | null = null
	let greeted = false
	try {
		talk = await Conversation.open(server, limits.connect)
		const greeting = await talk.answer(limits.greeting)
		if (greeting.code !== 220) throw new NoSession(greeting.words, greeting.code === 421 ? 'crowded' : 'away')
		greeted = true
		const says = async (command: string): Promise<Reply> =>
			(await (talk as Conversation).say([command], limits.greeting))[0] as Reply
		const name = ehloName()
		let hello = await says(`EHLO ${name}`)
		if (hello.code === 421) throw new NoSession(hello.words, 'crowded')
		if (hello.code >= 300) {
			hello = await says(`HELO ${name}`)
			if (hello.code >= 300) throw new NoSession(hello.words, 'away')
			hello = { ...hello, lines: [] }
		}
		let offers = offersOf(hello)
		let safe = server.secure
		if (!safe && offers.has('STARTTLS') && !isLoopback(server.host)) {
			const start = await says('STARTTLS')
			if (start.code !== 220) throw new NoSession(`it offers TLS and does not begin it: ${start.words}`, 'away')
			await talk.secure(server.host, limits.connect)
			safe = true
			offers = offersOf(await says(`EHLO ${name}`))
		}
		if (server.user !== '') {
			if (!safe && !isLoopback(server.host))
				throw new NoSession(
					'it has no TLS, and a password is never sent without. Set TLS from the first byte, or another port, under Company.',
					'away',
				)
			await signIn(says, server, offers.get('AUTH') ?? '')
		}
		return {
			talk,
			sizes: Number(/^\d+$/.exec(offers.get('SIZE') ?? '')?.[0] ?? 0),
			pipelining: offers.has('PIPELINING'),
			utf8: offers.has('SMTPUTF8'),
			used: 0,
		}
	} catch (error) {
		talk?.cut('no session')
		if (error instanceof NoSession) throw error
		// A line that is closed before its greeting is how many a server says that there are enough.
		throw new NoSession(wordsOf(error), talk !== null && !greeted && error instanceof LineBroke ? 'crowded' : 'away')
	}
}

const offersOf = ({ lines }: Reply): Map<string, string> =>
	new Map(
		lines.slice(1).map((line) => {
			const [word = '', ...rest] = line.trim().split(/[ =]/)
			return [word.toUpperCase(), rest.join(' ')]
		}),
	)

/** PLAIN where it is offered (RFC 4616), else LOGIN. */
async function signIn(
	says: (command: string) => Promise<Reply>,
	{ user, password }: MailServer,
	offered: string,
): Promise<void> {
	const ways = offered.toUpperCase().split(' ')
	const in64 = (text: string) => Buffer.from(text).toString('base64')
	const fails = (reply: Reply) => new NoSession(`the sign-in was refused: ${reply.words}`, 'away')
	if (ways.includes('PLAIN')) {
		const reply = await says(`AUTH PLAIN ${in64(`\0${user}\0${password}`)}`)
		if (reply.code !== 235) throw fails(reply)
		return
	}
	if (!ways.includes('LOGIN'))
		throw new NoSession(
			'it offers no sign-in with user and password. Take the user away under Company, or choose another port.',
			'away',
		)
	for (const [command, wanted] of [
		['AUTH LOGIN', 334],
		[in64(user), 334],
		[in64(password), 235],
	] as const) {
		const reply = await says(command)
		if (reply.code !== wanted) throw fails(reply)
	}
}

/** A name of this machine that a server can take (RFC 5321, 4.1.1.1). */
function ehloName(): string {
	const name = hostname()
	return /^[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)+$/.test(name) && !isIP(name) ? name : '[127.0.0.1]'
}

/** An address as it stands in a command, its domain in ASCII; null where the server cannot take it. */
function pathOf(address: string, utf8: boolean): string | null {
	const at = address.lastIndexOf('@')
	const local = address.slice(0, at)
	const domain = domainToASCII(address.slice(at + 1))
	if (at < 1 || domain === '' || /[\s<>\p{Cc}]/u.test(local)) return null
	return /^[ -~]*$/.test(local) || utf8 ? `${local}@${domain}` : null
}

/** Lines end in CRLF, and one that begins with a dot gets another (RFC 5321, 4.5.2). Ends with the end of a line. */
export function onTheWire(raw: Buffer): Buffer {
	const whole = hasBareEnds(raw) ? Buffer.from(raw.toString('latin1').replace(/\r\n|\r|\n/g, '\r\n'), 'latin1') : raw
	const pieces: Buffer[] = []
	let from = 0
	if (whole[0] === dot) pieces.push(dotMore)
	for (let at = whole.indexOf(lineDot); at >= 0; at = whole.indexOf(lineDot, at + 2)) {
		pieces.push(whole.subarray(from, at + 2), dotMore)
		from = at + 2
	}
	pieces.push(whole.subarray(from))
	if (whole.length > 0 && whole[whole.length - 1] !== lf) pieces.push(Buffer.from('\r\n'))
	return pieces.length === 1 ? whole : Buffer.concat(pieces)
}

const [cr, lf, dot] = [13, 10, 46]
const dotMore = Buffer.from('.')
const lineDot = Buffer.from('\r\n.')

/** Whether a line ends in CR or LF alone, which a server may take for an end of what follows. */
function hasBareEnds(raw: Buffer): boolean {
	for (let at = raw.indexOf(lf); at >= 0; at = raw.indexOf(lf, at + 1)) if (raw[at - 1] !== cr) return true
	for (let at = raw.indexOf(cr); at >= 0; at = raw.indexOf(cr, at + 1)) if (raw[at + 1] !== lf) return true
	return false
}

const megabytes = (bytes: number): string => `${(bytes / 1_000_000).toFixed(1)} MB`

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
