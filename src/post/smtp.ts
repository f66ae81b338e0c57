import SMTPConnection from 'nodemailer/lib/smtp-connection'

export type MailServer = { host: string; port: number; secure: boolean; user: string; password: string }

/**
 * What came of handing a message over:
 * `sent` the server took it; `refused` it said no; `away` nothing was handed over (no server, no sign-in);
 * `unsure` the line broke after the message had begun to go, so it may have arrived.
 */
export type Handover = { outcome: 'sent' | 'refused' | 'away' | 'unsure'; answer: string }

export type MailLine = {
	send: (envelope: { from: string; to: string[] }, raw: Buffer) => Promise<Handover>
	close: () => void
}

/** A line to a mail server (RFC 5321): opened at the first message, used for one message after the other, opened anew after a fault. */
export function openMailLine(server: MailServer): MailLine {
	let connection: SMTPConnection | null = null
	const drop = () => {
		connection?.close()
		connection = null
	}
	return {
		close: () => {
			connection?.quit()
			connection = null
		},
		send: async (envelope, raw) => {
			try {
				connection ??= await connect(server)
			} catch (error) {
				drop()
				return { outcome: 'away', answer: `${server.host}:${server.port} does not take mail: ${reason(error)}` }
			}
			const line = connection
			return new Promise<Handover>((resolve) => {
				const broken = (error: unknown) => {
					drop()
					resolve({ outcome: 'unsure', answer: `The line to the mail server broke: ${reason(error)}` })
				}
				line.once('error', broken)
				line.once('end', () => broken(new Error('closed by the server')))
				line.send(envelope, raw, (error, info) => {
					line.removeAllListeners('error')
					line.removeAllListeners('end')
					line.on('error', () => {})
					if (!error) return resolve({ outcome: 'sent', answer: info?.response ?? '' })
					drop()
					const code = 'responseCode' in error ? Number(error.responseCode) : 0
					if (code >= 400) resolve({ outcome: 'refused', answer: reason(error) })
					else resolve({ outcome: 'unsure', answer: `The line to the mail server broke: ${reason(error)}` })
				})
			})
		},
	}
}

function reason(error: unknown): string {
	if (typeof error === 'object' && error !== null && 'response' in error && typeof error.response === 'string')
		return error.response
	return error instanceof Error ? error.message : String(error)
}

function connect(server: MailServer): Promise<SMTPConnection> {
	const connection = new SMTPConnection({
		host: server.host,
		port: server.port,
		secure: server.secure,
		connectionTimeout: 10_000,
		greetingTimeout: 10_000,
		socketTimeout: 60_000,
		// The practice server on this machine has no certificate; any other one must show a good one.
		ignoreTLS: server.host === '127.0.0.1',
	})
	return new Promise((resolve, reject) => {
		connection.once('error', reject)
		connection.connect((error) => {
			if (error) return reject(error)
			const ready = () => {
				connection.removeAllListeners('error')
				resolve(connection)
			}
			if (!server.user) return ready()
			connection.login({ credentials: { user: server.user, pass: server.password } }, (loginError) =>
				loginError ? reject(loginError) : ready(),
			)
		})
	})
}
