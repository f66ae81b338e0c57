import { connect, type Socket } from 'node:net'
import { connect as connectTls } from 'node:tls'

/** What a server answered (RFC 5321, 4.2): its code, and its words on one line, code included. */
export type Reply = { code: number; words: string; lines: string[] }

/** A conversation that ended without the answer that was waited for. */
export class LineBroke extends Error {}

/** An answer is short; a server that goes on and on is not listened to any longer. */
const longestAnswer = 64 * 1024
const mostLines = 500

/** Commands and answers with a server, one after the other, each within its limit of time. Nothing is read that was not asked for. */
export class Conversation {
	private heard = ''
	private lines: string[] = []
	private replies: Reply[] = []
	private broke: LineBroke | null = null
	private listener: ((reply: Reply | LineBroke) => void) | null = null

	private constructor(private socket: Socket) {
		this.listen(socket)
	}

	/** @throws {LineBroke} where no connection comes about within `limit` ms, or its certificate is not good */
	static async open(
		{ host, port, secure }: { host: string; port: number; secure: boolean },
		limit: number,
	): Promise<Conversation> {
		const socket = secure ? connectTls({ host, port, servername: serverName(host) }) : connect({ host, port })
		await within(socket, secure ? 'secureConnect' : 'connect', limit)
		return new Conversation(socket)
	}

	private listen(socket: Socket) {
		this.socket = socket
		socket.setNoDelay(true)
		socket.setKeepAlive(true, 60_000)
		socket.on('data', (chunk: Buffer) => this.hear(chunk))
		socket.on('error', (error) => this.end(error.message))
		socket.on('end', () => this.end('closed by the server'))
		socket.on('close', () => this.end('closed'))
	}

	private hear(chunk: Buffer) {
		this.heard += chunk.toString('latin1')
		if (this.heard.length > longestAnswer) return this.end('it answers without end')
		for (let end = this.heard.indexOf('\n'); end >= 0; end = this.heard.indexOf('\n')) {
			const line = Buffer.from(this.heard.slice(0, end).replace(/\r$/, ''), 'latin1').toString('utf8')
			this.heard = this.heard.slice(end + 1)
			const [, code = '', more = ''] = /^([2-5]\d\d)([ -]|$)/.exec(line) ?? []
			if (code === '') return this.end(`it answered what is no answer: ${line.slice(0, 80)}`)
			this.lines.push(line)
			if (this.lines.length > mostLines) return this.end('it answers without end')
			if (more === '-') continue
			const lines = this.lines
			this.lines = []
			const words = [code, ...lines.map((one) => one.slice(4).trim())].filter(Boolean).join(' ').slice(0, 500)
			this.reply({ code: Number(code), words, lines: lines.map((one) => one.slice(4)) })
		}
	}

	private reply(reply: Reply) {
		const { listener } = this
		if (!listener) {
			this.replies.push(reply)
			return
		}
		this.listener = null
		listener(reply)
	}

	private end(why: string) {
		this.broke ??= new LineBroke(why)
		const { listener } = this
		this.listener = null
		listener?.(this.broke)
		this.socket.destroy()
	}

	/** Whether it goes on, and nothing stands unread that nobody asked for (421 before an idle line is closed, say). */
	get good(): boolean {
		return this.broke === null && this.replies.length === 0 && this.heard === ''
	}

	/** An answer that came by itself. */
	get unasked(): Reply | undefined {
		return this.replies[0]
	}

	/** The next answer. @throws {LineBroke} where none comes within `limit` ms, or the line breaks */
	answer(limit: number): Promise<Reply> {
		const reply = this.replies.shift()
		if (reply) return Promise.resolve(reply)
		if (this.broke) return Promise.reject(this.broke)
		return new Promise((resolve, reject) => {
			const late = setTimeout(() => this.end(`no answer within ${Math.round(limit / 1000)} s`), limit)
			this.listener = (said) => {
				clearTimeout(late)
				if (said instanceof LineBroke) reject(said)
				else resolve(said)
			}
		})
	}

	/** Says commands at once, and gives their answers in order. @throws {LineBroke} */
	async say(commands: string[], limit: number): Promise<Reply[]> {
		if (!this.good) {
			this.end(this.unasked?.words ?? 'it answered unasked')
			throw this.broke ?? new LineBroke('closed')
		}
		this.socket.write(commands.map((command) => `${command}\r\n`).join(''))
		const replies: Reply[] = []
		for (const _ of commands) replies.push(await this.answer(limit))
		return replies
	}

	/** Writes bytes, and waits until all have left this process. @throws {LineBroke} where a block takes more than `limit` ms */
	async write(bytes: Buffer, limit: number): Promise<void> {
		for (let from = 0; from < bytes.length; from += 65_536) {
			if (this.broke) throw this.broke
			if (this.replies.length > 0) return
			await new Promise<void>((resolve, reject) => {
				const late = setTimeout(() => this.end(`it took nothing for ${Math.round(limit / 1000)} s`), limit)
				const done = () => {
					clearTimeout(late)
					this.socket.off('close', done)
					if (this.broke) reject(this.broke)
					else resolve()
				}
				this.socket.once('close', done)
				this.socket.write(bytes.subarray(from, from + 65_536), done)
			})
		}
	}

	/** Goes on under TLS (RFC 3207); what was said before it counts no more. @throws {LineBroke} */
	async secure(host: string, limit: number): Promise<void> {
		const bare = this.socket
		bare.removeAllListeners()
		bare.on('error', () => {})
		const socket = connectTls({ socket: bare, servername: serverName(host) })
		await within(socket, 'secureConnect', limit)
		this.heard = ''
		this.lines = []
		this.replies = []
		this.listen(socket)
	}

	/** Says goodbye and waits for no answer. */
	close(): void {
		if (this.broke) return
		this.socket.end('QUIT\r\n')
		this.broke = new LineBroke('closed here')
		setTimeout(() => this.socket.destroy(), 1000).unref()
	}

	/** Ends it at once. */
	cut(why: string): void {
		this.end(why)
	}
}

/** A name to hold a certificate against; an address of numbers has none (RFC 6066, 3). */
const serverName = (host: string): string => (/^[\d.]+$|:/.test(host) ? '' : host)

function within(socket: Socket, event: string, limit: number): Promise<void> {
	return new Promise((resolve, reject) => {
		const fail = (why: string) => {
			clearTimeout(late)
			socket.destroy()
			reject(new LineBroke(why))
		}
		const late = setTimeout(() => fail(`no connection within ${Math.round(limit / 1000)} s`), limit)
		const failed = (error: Error) => fail(error.message || ('code' in error ? String(error.code) : 'no connection'))
		const closed = () => fail('closed by the server')
		socket.once('error', failed)
		socket.once('close', closed)
		socket.once(event, () => {
			clearTimeout(late)
			socket.off('error', failed)
			socket.off('close', closed)
			resolve()
		})
	})
}
