import fc from 'fast-check'
import { afterEach, describe, expect, test } from 'vitest'
import { retryAt } from '@/core/retry'
import { type MailLine, openMailLine } from '@/post/smtp'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { nextAct } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { latestJob } from '@/store/jobs'
import { attemptsOfDocument, messageOfDocument, readMessage, sentLog } from '@/store/messages'
import { benchRows, runGroups } from '@/store/places'
import { copiesOfMessage, inPostroom, postCounts } from '@/store/postroom'
import { changeSettings, readSettings } from '@/store/settings'
import { at, type BadServer, badServer, type Manner } from '../../../tests/badMail'
import { billed, line, nextStep, sendRun, work } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { actOnPost, decideMessage } from './postroom'
import { asItWent, rawOf, writeMessages } from './send'
import { askForDue, gapLeft, sendWaiting, settleLeftSending } from './sending'

const open: BadServer[] = []
afterEach(() => {
	for (const server of open.splice(0)) server.close()
})
const orders = (count: number) =>
	Array.from({ length: count }, (_, index) => `${8000 + index},03/10/2026,A1,ROPE,Line,${index + 1},2.00,,STD,,`)
const quick = { connect: 500, greeting: 400, command: 400, data: 400, block: 400, dot: 400 }

/** Books with so many messages to send to a server of that manner. */
async function waiting(count: number, manner: Manner, mail: object = {}) {
	const books = firmBooks()
	const server = await badServer(manner)
	open.push(server)
	const known = readSettings(books).mail
	changeSettings(books, desk, { mail: { ...known, mode: 'real', host: '127.0.0.1', port: server.port, ...mail } })
	const run = await billed(books, ...orders(count))
	return { books, server, run }
}
/** Sends over lines of its own, with short limits of time. */
const send = (
	books: Books,
	run: number,
	port: number,
	more: { lines?: number; due?: string; now?: string; signal?: AbortSignal } = {},
) => {
	writeMessages(books, desk, run)
	const lines = Array.from({ length: more.lines ?? 4 }, () =>
		openMailLine({ host: '127.0.0.1', port, secure: false, user: '', password: '' }, quick),
	)
	const at = { ...desk, now: () => more.now ?? desk.now() }
	const retry = { minutes: [1, 5, 30, 120, 360], hours: 24 }
	const how = { lines, practice: false, perMinute: 0, retry, progress: () => true }
	return sendWaiting(books, at, { run, due: more.due ?? null }, more.signal ? { ...how, signal: more.signal } : how)
}
const states = (books: Books, run: number) => benchRows(books, run).map(({ place }) => place)

test('what is put off is tried after 1, 5, 30 minutes, 2 and 6 hours, and every 6 hours, for a day', () => {
	const rule = { minutes: [1, 5, 30, 120, 360], hours: 24 }
	const since = '2026-10-31T08:00:00.000Z'
	const times: string[] = []
	for (let now: string | null = since, tries = 0; now !== null; tries++) {
		now = retryAt(rule, tries, since, now)
		if (now !== null) times.push(now.slice(5, 16))
	}
	expect(times).toEqual([
		'10-31T08:01',
		'10-31T08:06',
		'10-31T08:36',
		'10-31T10:36',
		'10-31T16:36',
		'10-31T22:36',
		'11-01T04:36',
	])
})

test('a message that is put off goes by itself when its time comes, with the next try shown; after a day it waits for a person', async () => {
	let taking = false
	const { books, run, server } = await waiting(2, ({ step, address }) =>
		step === 'RCPT' && address.startsWith('a1') && !taking ? { say: '450 later please' } : 'usual',
	)
	await send(books, run, server.port, { now: '2026-10-31T09:00:00.000Z' })
	expect(states(books, run)).toEqual(['put off', 'put off'])
	expect(nextAct(runGroups(books, run))).toEqual({ act: 'await', count: 2 })
	expect(inPostroom(books)).toMatchObject([
		{ due_at: '2026-10-31T09:01:00.000Z', tries: 1, last_answer: '450 later please' },
		{},
	])
	// Neither the run's own step nor a moment too early sends it.
	await send(books, run, server.port)
	await send(books, run, server.port, { due: '2026-10-31T09:00:59.000Z' })
	expect(sentLog(books, '', 9).total).toBe(2)
	askForDue(books, { ...desk, now: () => '2026-10-31T09:00:30.000Z' })
	expect(latestJob(books, run)?.kind).not.toBe('send')
	askForDue(books, { ...desk, now: () => '2026-10-31T09:01:30.000Z' })
	taking = true
	await work(books, { now: () => '2026-10-31T09:01:30.000Z' })
	expect(latestJob(books, run)).toMatchObject({ kind: 'send', state: 'done', words: '2 sent.' })
	expect(states(books, run)).toEqual(['sent', 'sent'])
	expect(server.taken).toHaveLength(2)
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])

	const other = await waiting(1, at('dot', { say: '451 not now' }))
	let now = '2026-10-31T09:00:00.000Z'
	await send(other.books, other.run, other.server.port, { now })
	for (let due = inPostroom(other.books)[0]?.due_at; due; due = inPostroom(other.books)[0]?.due_at) {
		now = due
		await send(other.books, other.run, other.server.port, { now, due })
	}
	expect(now.slice(0, 13)).toBe('2026-11-01T05')
	expect(inPostroom(other.books)).toMatchObject([
		{
			state: 'refused',
			last_answer: expect.stringMatching(/451 not now \(tried 8 times since 2026-10-31 09:00; no longer/),
		},
	])
})

test('a server that wants a sign-in, or goes away in the middle, stops all of it at once and leaves all waiting', async () => {
	const { books, run, server } = await waiting(30, (place) =>
		place.step === 'MAIL' && place.message > 10 ? { say: '530 sign in first' } : 'usual',
	)
	writeMessages(books, desk, run)
	const job = await nextStep(books, run)
	expect(job).toMatchObject({ state: 'failed', words: expect.stringContaining('530 sign in first') })
	const taken = server.taken.length
	expect(taken).toBeLessThanOrEqual(10)
	const places = states(books, run)
	expect(places.filter((place) => place === 'sent').length).toBe(taken)
	expect(places.filter((place) => place === 'waiting').length).toBe(30 - taken)
	expect(nextAct(runGroups(books, run))).toEqual({ act: 'send', count: 30 - taken })
})

test('where the server is away, what is due by itself is put off together, not tried again and again', async () => {
	const { books, run, server } = await waiting(9, at('RCPT', { say: '450 later' }))
	await send(books, run, server.port, { now: '2026-10-31T09:00:00.000Z' })
	server.close()
	const later = { ...desk, now: () => '2026-10-31T09:02:00.000Z' }
	askForDue(books, later)
	await work(books, { now: later.now })
	expect(latestJob(books, run)).toMatchObject({ state: 'failed', words: expect.stringContaining('does not take mail') })
	const jobs = latestJob(books, run)?.id
	askForDue(books, later)
	expect(latestJob(books, run)?.id).toBe(jobs)
	expect(inPostroom(books).every(({ due_at }) => (due_at ?? '') > '2026-10-31T09:02:30.000Z')).toBe(true)
	expect(sentLog(books, '', 99).total).toBeLessThanOrEqual(9 + 4)
})

test('lines that the server turns away are done without; as many messages a minute leave as it takes', async () => {
	const { books, run, server } = await waiting(12, (place) =>
		place.step === 'greeting' && place.line > 1 ? { say: '421 one line is enough', close: true } : 'usual',
	)
	await nextStep(books, run)
	expect(latestJob(books, run)).toMatchObject({ state: 'done', words: '12 sent.' })
	expect(server.taken.length).toBe(12)

	const slow = await waiting(4, at('dot', 'usual'), { perMinute: 600 })
	const began = performance.now()
	await nextStep(slow.books, slow.run)
	// Four at ten a second: three gaps of 100 ms.
	expect(performance.now() - began).toBeGreaterThan(290)
	expect(slow.server.taken.length).toBe(4)
	// The pace goes on from one step to the next, whatever clock the machine has.
	const rows = [1, 2, 3].map((one) => `${8100 + one},03/10/2026,A1,ROPE,Line,${one + 20},2.00,,STD,,`)
	const more = await billed(slow.books, ...rows)
	const again = performance.now()
	await nextStep(slow.books, more)
	expect(performance.now() - again).toBeGreaterThan(190)
	expect(slow.server.taken.length).toBe(7)
})

test('between two messages lies a gap, whatever clock told the time of the last', () => {
	expect([0, 40, 100, 101, 5000, -1, -5000].map((since) => gapLeft(100, since))).toEqual([100, 60, 0, 0, 0, 100, 100])
	expect([0, 7, -7].map((since) => gapLeft(0, since))).toEqual([0, 0, 0])
})

test('several lines at once', async () => {
	const { books, run, server } = await waiting(40, at('dot', 'usual'), { lines: 3 })
	await nextStep(books, run)
	expect([server.taken.length, server.mostAtOnce(), server.lines()]).toEqual([40, 3, 3])
})

test('stopped in the middle, before every dot: nothing is unsure, the rest waits, and goes once when it is sent again', async () => {
	let hang = true
	const { books, run, server } = await waiting(20, (place) =>
		place.step === 'DATA' && place.message > 6 && hang ? 'hang' : 'usual',
	)
	const stop = new AbortController()
	setTimeout(() => stop.abort(), 150)
	// It ends, though a line still waits for an answer that does not come.
	expect(await send(books, run, server.port, { signal: stop.signal })).toMatchObject({ handled: false, away: null })
	const sent = server.taken.length
	expect(states(books, run).filter((place) => place === 'sent').length).toBe(sent)
	expect(states(books, run).filter((place) => place === 'waiting').length).toBe(20 - sent)
	hang = false
	await send(books, run, server.port)
	expect(new Set(server.taken.map(({ messageId }) => messageId)).size).toBe(20)
	expect(server.taken.length).toBe(20)
})

describe('copies', () => {
	const copied = async (manner: Manner) => {
		const made = await waiting(1, manner)
		const known = readSettings(made.books).mail
		changeSettings(made.books, desk, { mail: { ...known, bcc: 'file@tarn.example, boss@tarn.example' } })
		await nextStep(made.books, made.run)
		const [row] = benchRows(made.books, made.run)
		return { ...made, message: messageOfDocument(made.books, row?.id ?? 0) }
	}
	test('a refused customer is refused, whatever the copies; each answer is kept', async () => {
		const { books, message, server } = await copied(
			at('RCPT', { say: '550 no such mailbox' }, ({ address }) => address.startsWith('a1')),
		)
		expect(message).toMatchObject({ state: 'refused', last_answer: '550 no such mailbox' })
		expect(server.dotted).toEqual([])
		expect(JSON.parse(sentLog(books, '', 9).rows[0]?.said ?? '')[0]).toMatchObject({
			...{ address: 'a1@shore.example', code: 550 },
		})
	})
	test('a refused copy is listed, can be sent alone or to another address, or be let be', async () => {
		let refusing = true
		const { books, run, message, server } = await copied((place) =>
			place.step === 'RCPT' && place.address.startsWith('boss') && refusing ? { say: '550 gone' } : 'usual',
		)
		expect(message?.state).toBe('sent')
		expect(inPostroom(books)).toMatchObject([{ post: 'copy', copy: 'boss@tarn.example', copy_answer: '550 gone' }])
		const rows = [{ id: message?.id ?? 0, copy: 'boss@tarn.example' }]
		expect(actOnPost(books, desk, { rows }, 'again', '')).toEqual({ ok: true, words: '1 to be sent again.' })
		const alone = async () => {
			askForDue(books, desk)
			await work(books)
		}
		await alone()
		expect(inPostroom(books)).toMatchObject([{ post: 'copy', copy_answer: '550 gone' }])
		refusing = false
		expect(actOnPost(books, desk, { rows }, 'address', 'chief@tarn.example').ok).toBe(true)
		await alone()
		expect(inPostroom(books)).toEqual([])
		expect(server.taken.map(({ recipients }) => recipients)).toEqual([
			['a1@shore.example', 'file@tarn.example'],
			['chief@tarn.example'],
		])
		expect(latestJob(books, run)?.words).toContain('sent')
		expect(copiesOfMessage(books, message?.id ?? 0).map(({ state }) => state)).toEqual(['sent', 'sent'])
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})
	test('a copy that is put off goes by itself', async () => {
		let busy = true
		const { books, message, server } = await copied((place) =>
			place.step === 'RCPT' && place.address.startsWith('boss') && busy ? { say: '450 busy' } : 'usual',
		)
		busy = false
		askForDue(books, { ...desk, now: () => '2030-01-01T00:00:00.000Z' })
		await work(books, { now: () => '2030-01-01T00:00:00.000Z' })
		expect(server.taken.map(({ recipients }) => recipients)).toContainEqual(['boss@tarn.example'])
		expect(copiesOfMessage(books, message?.id ?? 0).every(({ state }) => state === 'sent')).toBe(true)
		expect(attemptsOfDocument(books, message?.document_id ?? 0).length).toBe(2)
	})
})

describe('many in the Postroom', () => {
	test('one act for all that match, with its count; what it does not fit is left, and what came meanwhile is asked about', async () => {
		const { books, run, server } = await waiting(12, (place) =>
			place.step === 'RCPT' && place.message % 2 === 0 ? { say: '550 no' } : 'usual',
		)
		await send(books, run, server.port, { lines: 1 })
		expect(postCounts(books, '')).toMatchObject({ refused: 6 })
		const all = { words: '550', state: '' as const, expected: 6 }
		expect(actOnPost(books, desk, { ...all, expected: 5 }, 'again', '')).toMatchObject({
			ok: false,
			message: expect.stringContaining('6 match by now, not 5'),
		})
		expect(actOnPost(books, desk, all, 'arrived', '')).toMatchObject({ ok: false })
		expect(actOnPost(books, desk, all, 'address', 'no address')).toMatchObject({ ok: false })
		expect(actOnPost(books, desk, all, 'address', 'new@shore.example')).toEqual({
			ok: true,
			words: '6 sent to another address.',
		})
		expect(actOnPost(books, desk, { words: '', state: 'put off', expected: 6 }, 'keep back', 'they rang').ok).toBe(true)
		expect(postCounts(books, '')).toMatchObject({ 'kept back': 6 })
		expect(nextAct(runGroups(books, run))).toEqual({ act: 'decide', count: 6 })
		askForDue(books, desk)
		expect(latestJob(books, run)?.kind).not.toBe('send')
		expect(actOnPost(books, desk, { words: '', state: '', expected: 6 }, 'let go', '').ok).toBe(true)
		await sendRun(books, desk, run, [line('sent')])
		expect(states(books, run).every((place) => place === 'sent')).toBe(true)
		expect(sentLog(books, 'new@shore.example', 9).total).toBe(6)
		// Each attempt is shown as it went then, also those to the address before.
		for (const attempt of sentLog(books, '', 99).rows) {
			const message = readMessage(books, attempt.message_id)
			if (message) expect((await rawOf(books, asItWent(message, attempt))).sha256).toBe(attempt.raw_sha256)
		}
	})
})

const deeds = [
	'fine',
	'450 RCPT',
	'550 RCPT',
	'451 dot',
	'554 dot',
	'close RCPT',
	'close DATA',
	'close dot',
	'421 MAIL',
	'close after',
] as const
const mannerOf =
	(plan: readonly (typeof deeds)[number][]): Manner =>
	({ step, message }) => {
		const deed = plan[(message - 1) % plan.length] ?? 'fine'
		if (message > plan.length) return 'usual'
		if (deed === '450 RCPT' && step === 'RCPT') return { say: '450 busy' }
		if (deed === '550 RCPT' && step === 'RCPT') return { say: '550 no' }
		if (deed === '451 dot' && step === 'dot') return { say: '451 later' }
		if (deed === '554 dot' && step === 'dot') return { say: '554 no' }
		if (deed === 'close RCPT' && step === 'RCPT') return 'close'
		if (deed === 'close DATA' && step === 'DATA') return 'close'
		if (deed === 'close dot' && step === 'dot') return 'close'
		if (deed === '421 MAIL' && step === 'MAIL') return { say: '421 later', close: true }
		if (deed === 'close after' && step === 'dot') return { say: '250 taken', close: true }
		return 'usual'
	}

test('over servers that behave badly at random, what is said to be sent arrived once, and unsure is only what had gone whole', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.array(fc.constantFrom(...deeds), { minLength: 1, maxLength: 25 }),
			fc.integer({ min: 1, max: 4 }),
			async (plan, lines) => {
				const { books, run, server } = await waiting(12, mannerOf(plan))
				let now = Date.parse('2026-10-31T09:00:00.000Z')
				await send(books, run, server.port, { lines, now: new Date(now).toISOString() })
				const arrived = () => {
					const counts = new Map<string, number>()
					for (const { messageId } of server.taken) counts.set(messageId, (counts.get(messageId) ?? 0) + 1)
					return counts
				}
				const whole = new Set(server.dotted.map(({ messageId }) => messageId))
				for (let round = 0; round < 30; round++) {
					for (const { state, message_id } of benchRows(books, run).flatMap(
						({ id }) => messageOfDocument(books, id) ?? [],
					)) {
						if (state === 'sent') expect(arrived().get(message_id)).toBe(1)
						if (state === 'unsure')
							expect(whole.has(message_id) || server.dotted.some((one) => one.messageId === message_id)).toBe(true)
						if (state === 'waiting' || state === 'refused') expect(arrived().get(message_id) ?? 0).toBe(0)
						expect(state).not.toBe('sending')
					}
					// A person decides by what truly arrived; time goes on.
					for (const { id, message_id, post } of inPostroom(books))
						if (post === 'unsure') decideMessage(books, desk, { id }, arrived().has(message_id) ? 'sent' : 'again')
						else if (post === 'refused') decideMessage(books, desk, { id }, 'again')
					if (inPostroom(books).length === 0) break
					now += 7 * 3_600_000
					const due = new Date(now).toISOString()
					await send(books, run, server.port, { lines, now: due })
					await send(books, run, server.port, { lines, now: due, due })
				}
				expect([...arrived().values()].every((times) => times === 1)).toBe(true)
				expect(arrived().size).toBe(12)
				expect(states(books, run).every((place) => place === 'sent')).toBe(true)
				books.db.close()
			},
		),
		{ numRuns: walks(5) },
	)
})

test('what is made void, kept back or addressed anew while it is being sent does not go as it was', async () => {
	const { books, run, server } = await waiting(40, at('dot', 'usual'))
	writeMessages(books, desk, run)
	const rows = inPostroom(books)
	const [voided, kept, moved] = [rows[37], rows[38], rows[39]]
	const last = rows.slice(0, 4)
	const slow = openMailLine({ host: '127.0.0.1', port: server.port, secure: false, user: '', password: '' }, quick)
	let acted = false
	const line: MailLine = {
		...slow,
		send: async (envelope, raw) => {
			if (!acted) {
				acted = true
				expect(voidDocument(books, desk, voided?.document_id ?? 0, 'not theirs').ok).toBe(true)
				const choose = (row: typeof kept) => ({ rows: [{ id: row?.id ?? 0, copy: '' }] })
				expect(actOnPost(books, desk, choose(kept), 'keep back', 'they rang').ok).toBe(true)
				expect(actOnPost(books, desk, choose(moved), 'address', 'new@shore.example').ok).toBe(true)
			}
			return slow.send(envelope, raw)
		},
	}
	await sendRun(books, desk, run, [line])
	slow.close()
	expect(last.every(({ id }) => readMessage(books, id)?.state === 'sent')).toBe(true)
	const to = server.taken.map(({ messageId }) => messageId)
	for (const row of [voided, kept, moved]) expect(to).not.toContain(row?.message_id)
	expect(server.taken.filter(({ recipients }) => recipients[0] === 'new@shore.example').length).toBeLessThanOrEqual(1)
	expect(readMessage(books, kept?.id ?? 0)).toMatchObject({ state: 'waiting', kept_back: 'they rang' })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('what nobody noted of a run is unsure when its sending begins again', async () => {
	const { books, run, server } = await waiting(3, at('dot', 'usual'))
	writeMessages(books, desk, run)
	const first = inPostroom(books)[0]
	books.sql("UPDATE message SET state = 'sending' WHERE id = ?").run(first?.id as never)
	expect(await settleLeftSending(books, desk, run + 1)).toBe(0)
	await nextStep(books, run)
	expect(readMessage(books, first?.id ?? 0)?.state).toBe('unsure')
	expect(server.taken.length).toBe(2)
})
