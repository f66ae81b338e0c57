import { createServer, type Server, type Socket } from 'node:net'

// A mail server that behaves as badly as a test wants it to.

export type Step = 'greeting' | 'EHLO' | 'MAIL' | 'RCPT' | 'DATA' | 'body' | 'dot' | 'RSET'
/** What it does at a step: answers, answers and closes, closes without a word, says nothing for good, or what is usual. */
export type Deed = { say: string; close?: true } | 'close' | 'hang' | 'usual'
export type Taken = { messageId: string; recipients: string[] }
/** `message` counts those begun over all lines, from 1; `address` is that of RCPT. */
export type Manner = (at: { step: Step; message: number; line: number; address: string }) => Deed

const usual: Record<Step, string> = {
	greeting: '220 bad.example ready',
	EHLO: '250-bad.example\r\n250 SIZE 2000000',
	MAIL: '250 sender fine',
	RCPT: '250 recipient fine',
	DATA: '354 go on',
	body: '',
	dot: '250 taken',
	RSET: '250 forgotten',
}

export type BadServer = {
	port: number
	/** What it said 250 of after the dot, and what it had all of. */
	taken: Taken[]
	dotted: Taken[]
	lines: () => number
	/** Lines that were open at once, at the most. */
	mostAtOnce: () => number
	close: () => void
}

export async function badServer(manner: Manner): Promise<BadServer> {
	const taken: Taken[] = []
	const dotted: Taken[] = []
	const open = new Set<Socket>()
	let lines = 0
	let most = 0
	let messages = 0
	const server: Server = createServer((socket) => {
		const line = ++lines
		open.add(socket)
		most = Math.max(most, open.size)
		socket.on('close', () => open.delete(socket))
		socket.on('error', () => {})
		let message = 0
		let recipients: string[] = []
		let body: string | null = null
		let heard = ''
		/** Does what it does at a step; true where it answered as usual. */
		const act = (step: Step, address = ''): boolean => {
			const deed = manner({ step, message, line, address })
			if (deed === 'hang') return false
			if (deed === 'close') {
				socket.destroy()
				return false
			}
			const words = deed === 'usual' ? usual[step] : deed.say
			if (words !== '') socket.write(`${words}\r\n`)
			if (deed !== 'usual' && deed.close) socket.end()
			return step === 'dot' ? words.startsWith('2') : /^[23]/.test(words) || words === ''
		}
		act('greeting')
		const command = (text: string) => {
			if (/^(EHLO|HELO)/.test(text)) act('EHLO')
			else if (/^MAIL/.test(text)) {
				message = ++messages
				recipients = []
				act('MAIL')
			} else if (/^RCPT TO:<(.*)>/.test(text)) {
				const address = /<(.*)>/.exec(text)?.[1] ?? ''
				if (act('RCPT', address)) recipients.push(address)
			} else if (text === 'DATA') {
				if (act('DATA')) body = ''
			} else if (text === 'RSET') act('RSET')
			else if (text === 'QUIT') socket.end('221 bye\r\n')
			else socket.write('502 what?\r\n')
		}
		socket.on('data', (chunk) => {
			heard += chunk.toString('latin1')
			for (;;) {
				if (body !== null) {
					const end = heard.indexOf('\r\n.\r\n')
					if (end < 0) {
						if (!act('body')) body = null
						return
					}
					body += heard.slice(0, end)
					heard = heard.slice(end + 5)
					const got = { messageId: /^Message-ID: (.*)$/im.exec(body)?.[1]?.trim() ?? '', recipients }
					body = null
					dotted.push(got)
					if (act('dot')) taken.push(got)
					continue
				}
				const end = heard.indexOf('\r\n')
				if (end < 0) return
				const text = heard.slice(0, end)
				heard = heard.slice(end + 2)
				command(text)
			}
		})
	})
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
	const address = server.address()
	return {
		port: typeof address === 'object' && address ? address.port : 0,
		taken,
		dotted,
		lines: () => lines,
		mostAtOnce: () => most,
		close: () => {
			for (const socket of open) socket.destroy()
			server.close()
		},
	}
}

/** It does a deed at a step, and else what is usual. */
export const at =
	(
		step: Step,
		deed: Deed,
		when: (place: { message: number; line: number; address: string }) => boolean = () => true,
	): Manner =>
	(place) =>
		place.step === step && when(place) ? deed : 'usual'
