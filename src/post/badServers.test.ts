import { createServer as createTlsServer } from 'node:tls'
import { afterEach, expect, test } from 'vitest'
import { at, type BadServer, badServer, type Manner } from '../../tests/badMail'
import { onTheWire, openMailLine } from './smtp'

const open: BadServer[] = []
afterEach(() => {
	for (const server of open.splice(0)) server.close()
})
const raw = Buffer.from('Message-ID: <1@x>\r\n\r\nHello\r\n')
const quick = { connect: 500, greeting: 300, command: 300, data: 300, block: 300, dot: 500 }

/** Hands one message, or several, to a server of that manner; what came of each, and the server. */
async function hand(manner: Manner, count = 1, to = ['a@shore.example'], limits = {}, user = '') {
	const server = await badServer(manner)
	open.push(server)
	const line = openMailLine(
		{ host: '127.0.0.1', port: server.port, secure: false, user, password: 'p' },
		{ ...quick, ...limits },
	)
	const handed = []
	for (let message = 0; message < count; message++) handed.push(await line.send({ from: 'post@tarn.example', to }, raw))
	line.close()
	return { outcomes: handed.map(({ outcome }) => outcome), handed, server }
}

test.each<[string, Manner, string]>([
	['450 to the recipient', at('RCPT', { say: '450 busy' }), 'later'],
	['451 after the dot', at('dot', { say: '451 try later' }), 'later'],
	['452 to the sender', at('MAIL', { say: '452 full' }), 'later'],
	['421 to a new line’s sender, and closes', at('MAIL', { say: '421 closing', close: true }), 'later'],
	['421 to the recipient, and closes', at('RCPT', { say: '421 closing', close: true }), 'later'],
	['451 to DATA', at('DATA', { say: '451 no' }), 'later'],
	['550 to the recipient', at('RCPT', { say: '550 no such' }), 'refused'],
	['552 after the dot', at('dot', { say: '552 too big' }), 'refused'],
	['500 to the recipient', at('RCPT', { say: '500 what' }), 'refused'],
	['549 to the recipient', at('RCPT', { say: '549 odd' }), 'refused'],
	['499 to the recipient', at('RCPT', { say: '499 odd' }), 'later'],
	['300 to the recipient', at('RCPT', { say: '300 and then' }), 'later'],
	['300 to the sender', at('MAIL', { say: '300 and then' }), 'later'],
	['554 to DATA', at('DATA', { say: '554 no' }), 'refused'],
	['530 to the sender', at('MAIL', { say: '530 sign in first' }), 'away'],
	['554 as a greeting', at('greeting', { say: '554 no mail here' }), 'away'],
	['421 as a greeting', at('greeting', { say: '421 too many', close: true }), 'crowded'],
	['closed at the greeting', at('greeting', 'close'), 'crowded'],
	['closed at EHLO', at('EHLO', 'close'), 'away'],
	['closed at MAIL', at('MAIL', 'close'), 'later'],
	['closed at RCPT', at('RCPT', 'close'), 'later'],
	['closed at DATA', at('DATA', 'close'), 'later'],
	['354, and closes', at('DATA', { say: '354 go on', close: true }), 'later'],
	['closed after the dot', at('dot', 'close'), 'unsure'],
	['greets and hangs', at('EHLO', 'hang'), 'away'],
	['never greets', at('greeting', 'hang'), 'crowded'],
	['hangs at MAIL', at('MAIL', 'hang'), 'later'],
	['hangs at RCPT', at('RCPT', 'hang'), 'later'],
	['hangs at DATA', at('DATA', 'hang'), 'later'],
	['hangs after the dot', at('dot', 'hang'), 'unsure'],
	['answers nonsense to the sender', at('MAIL', { say: 'what a day' }), 'later'],
	['answers nonsense after the dot', at('dot', { say: 'fine, I think' }), 'unsure'],
	['says 354 after the dot', at('dot', { say: '354 more' }), 'unsure'],
	['answers twice to RCPT', at('RCPT', { say: '250 yes\r\n250 yes' }), 'later'],
	['answers without end', at('MAIL', { say: '250-'.repeat(30_000) }), 'later'],
	['takes it', at('dot', 'usual'), 'sent'],
	['takes it and closes', at('dot', { say: '250 taken', close: true }), 'sent'],
])('%s: %#', async (_, manner, outcome) => {
	const { outcomes, server } = await hand(manner)
	expect(outcomes).toEqual([outcome])
	// Unsure is what had gone whole, and nothing else; what is said to be sent was taken.
	expect(server.taken.length).toBe(outcome === 'sent' ? 1 : 0)
	if (outcome === 'unsure') expect(server.dotted.length).toBe(1)
})

test.each([
	['without a line end', '250-'.repeat(17_000)],
	['over lines and lines', `${'250-more\r\n'.repeat(500)}250 done`],
])('a server that answers without end, %s, is cut off and not waited for', async (_, say) => {
	const { handed } = await hand(at('MAIL', { say }), 1, ['a@shore.example'], { command: 20_000 })
	expect(handed[0]?.answer).toContain('answers without end')
})

test('an answer of as many lines as are taken is taken', async () => {
	const { outcomes } = await hand(at('MAIL', { say: `${'250-more\r\n'.repeat(499)}250 done` }))
	expect(outcomes).toEqual(['sent'])
})

test('the customer refused is refused, and no copy gets it; a refused copy is said beside a message that was sent', async () => {
	const to = ['customer@shore.example', 'boss@shore.example', 'file@tarn.example']
	const first = await hand(
		at('RCPT', { say: '550 no such' }, ({ address }) => address.startsWith('customer')),
		1,
		to,
	)
	expect(first.outcomes).toEqual(['refused'])
	expect(first.server.dotted).toEqual([])
	const second = await hand(
		at('RCPT', { say: '550 gone away' }, ({ address }) => address.startsWith('boss')),
		1,
		to,
	)
	expect(second.handed[0]).toMatchObject({
		outcome: 'sent',
		said: [{ code: 250 }, { address: 'boss@shore.example', code: 550, answer: '550 gone away' }, { code: 250 }],
	})
	expect(second.server.taken[0]?.recipients).toEqual(['customer@shore.example', 'file@tarn.example'])
})

test('a server that closes after each message gets them all, each once, over lines opened anew', async () => {
	const { outcomes, server } = await hand(at('dot', { say: '250 taken', close: true }), 12)
	expect(outcomes).toEqual(Array(12).fill('sent'))
	expect(server.taken.length).toBe(12)
	const other = await hand(
		(place) => (place.step === 'MAIL' && place.message % 3 === 0 ? { say: '421 enough', close: true } : 'usual'),
		6,
	)
	expect(other.outcomes).toEqual(Array(6).fill('sent'))
})

test.each<[string, string | null, number]>([
	['as usual', null, 1],
	['with 299', '299 gone', 1],
	['with 300', '300 and now', 3],
	['with 500', '500 never heard of it', 3],
	['with nothing', '', 3],
])(
	'a line whose server answers RSET %s is used again only where it forgot the message before',
	async (_, say, lines) => {
		const manner: Manner = ({ step, message }) =>
			step === 'DATA' && message < 3
				? { say: '451 no' }
				: step === 'RSET' && say !== null
					? say === ''
						? 'close'
						: { say }
					: 'usual'
		const { outcomes, server } = await hand(manner, 3)
		expect(outcomes).toEqual(['later', 'later', 'sent'])
		expect(server.lines()).toBe(lines)
	},
)

test('a line is used for as many messages as are set, then opened anew', async () => {
	const { server } = await hand(at('dot', 'usual'), 10, undefined, { messages: 4 })
	expect([server.lines(), server.taken.length]).toEqual([3, 10])
})

test('what is over the size that the server takes is refused before it goes, and an address that it cannot take is', async () => {
	const small = await hand(at('EHLO', { say: '250-bad.example\r\n250 SIZE 10' }))
	expect(small.handed[0]).toMatchObject({ outcome: 'refused', answer: expect.stringContaining('0.0 MB') })
	const odd = await hand(at('dot', 'usual'), 1, ['läufer@shore.example'])
	expect(odd.handed[0]).toMatchObject({ outcome: 'refused', answer: expect.stringContaining('läufer@shore.example') })
	const wide = await hand(at('EHLO', { say: '250-bad.example\r\n250-SMTPUTF8\r\n250 PIPELINING' }), 1, [
		'läufer@küste.example',
	])
	expect([wide.outcomes, wide.server.taken[0]?.recipients[0]]).toEqual([
		['sent'],
		expect.stringContaining('@xn--kste-0ra.example'),
	])
})

test('a password is sent to this machine alone without TLS; a sign-in that is refused stops everything', async () => {
	const asks = at('EHLO', { say: '250-bad.example\r\n250 AUTH PLAIN' })
	expect((await hand(asks, 1, undefined, {}, 'clerk')).handed[0]).toMatchObject({
		outcome: 'away',
		answer: expect.stringContaining('sign-in was refused: 502'),
	})
	const server = await badServer(asks)
	open.push(server)
	// The same server by a name that is not this machine's.
	const line = openMailLine({ host: '0.0.0.0', port: server.port, secure: false, user: 'clerk', password: 'p' }, quick)
	expect(await line.send({ from: 'post@tarn.example', to: ['a@shore.example'] }, raw)).toMatchObject({
		outcome: 'away',
		answer: expect.stringContaining('a password is never sent without'),
	})
})

test('a certificate that nobody vouches for is not taken', async () => {
	const tls = createTlsServer({}).listen(0, '127.0.0.1')
	await new Promise((done) => tls.once('listening', done))
	const address = tls.address()
	const port = typeof address === 'object' && address ? address.port : 0
	const line = openMailLine({ host: '127.0.0.1', port, secure: true, user: '', password: '' }, quick)
	expect(await line.send({ from: 'post@tarn.example', to: ['a@shore.example'] }, raw)).toMatchObject({
		outcome: 'away',
	})
	tls.close()
})

test('stopping ends what is before its dot, also while it connects; nothing of it is unsure', async () => {
	for (const step of ['greeting', 'EHLO', 'MAIL', 'RCPT', 'DATA'] as const) {
		const server = await badServer(at(step, 'hang'))
		open.push(server)
		const line = openMailLine({ host: '127.0.0.1', port: server.port, secure: false, user: '', password: '' })
		const sending = line.send({ from: 'post@tarn.example', to: ['a@shore.example'] }, raw)
		await new Promise((done) => setTimeout(done, 40))
		line.stop()
		expect(await sending).toMatchObject({ outcome: 'later' })
	}
})

test('what goes over the wire: lines end in CRLF, and none is a dot that was not meant', () => {
	const wire = (text: string) => onTheWire(Buffer.from(text)).toString()
	expect(wire('.a\r\n..b\r\nc.\r\n')).toBe('..a\r\n...b\r\nc.\r\n')
	expect(wire('a\n.\nb')).toBe('a\r\n..\r\nb\r\n')
	expect(wire('a\r.\rb\r\n')).toBe('a\r\n..\r\nb\r\n')
	expect(wire('')).toBe('')
})
